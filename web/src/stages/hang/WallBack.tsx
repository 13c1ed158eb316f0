import type { HangStage, Wall, WallObject } from "../../shared/api/types";
import type { Box } from "../../shared/draw/labels";
import { ticks, type Scale } from "../../shared/draw/scale";
import { figure } from "../../shared/lib/figures";
import { say } from "../../words/say";
import "./hang.css";
import "./WallBack.css";

const MM_PER_M = 1000;

interface WallBackProps {
  wall: Wall;
  stage: HangStage;
  across: Scale;
  up: Scale;
}

/** The wall itself: outline, eave, studs, board edges, what is on it, the level line, the ground. */
export function WallBack({ wall, stage, across, up }: WallBackProps) {
  const [left, right, top, ground] = [across(0), across(wall.width_mm), up(wall.height_mm), up(0)];
  return (
    <g>
      <rect className={`wall-face wall-${wall.kind}`} x={left} y={top} width={right - left} height={ground - top} />
      {stage.studs_mm.map((stud) => (
        <path key={stud} className="stud" d={`M${across(stud)} ${top}V${ground}`} />
      ))}
      {wall.board_edges_mm.map((edge) => (
        <path key={edge} className="board-edge" d={`M${across(edge)} ${top}V${ground}`} />
      ))}
      {stage.top_mm < wall.height_mm && (
        <rect className="above-eave" x={left} y={top} width={right - left} height={up(stage.top_mm) - top} />
      )}
      {wall.eave_mm > 0 && (
        <>
          <path className="eave" d={`M${left - 14} ${up(stage.top_mm)}H${right + 8}`} />
          <text className="tick" x={right} y={up(stage.top_mm) - 6} textAnchor="end">
            {say("hang.eave_out", { eave_mm: figure(wall.eave_mm, "mm", 0) })}
          </text>
        </>
      )}
      {wall.objects.map((one) => (
        <ObjectShape key={one.name} object={one} across={across} up={up} />
      ))}
      <path className="datum" d={`M${left} ${up(wall.datum_mm)}H${right}`} />
      <text className="datum-text" x={right - 4} y={up(wall.datum_mm) - 5} textAnchor="end">
        {say("hang.level_line")}
      </text>
      <path className="ground" d={`M${left - 14} ${ground}H${right + 8}`} />
      {ticks(0, wall.width_mm, 6).map((mm) => (
        <text key={mm} className="tick" x={across(mm)} y={ground + 20} textAnchor="middle">
          {figure(mm / MM_PER_M, "m", 2)}
        </text>
      ))}
      {ticks(0, wall.height_mm, 5)
        .slice(1)
        .map((mm) => (
          <text key={mm} className="tick" x={left - 8} y={up(mm) + 5} textAnchor="end">
            {figure(mm / MM_PER_M, "m", 2)}
          </text>
        ))}
    </g>
  );
}

const LETTER_PX = 7;
const LINE_PX = 18;

/** Where the name of what is on the wall stands: upright beside it where it is narrow. */
export function objectNameBox(object: WallObject, across: Scale, up: Scale): Box {
  const { x, y, w, h, upright } = boxOf(object, across, up);
  const length = object.name.length * LETTER_PX;
  return upright
    ? { x: x + w, y: y + (h - length) / 2, width: LINE_PX, height: length }
    : { x: x + 4, y: y + 2, width: length, height: LINE_PX };
}

function boxOf(object: WallObject, across: Scale, up: Scale) {
  const [x, y] = [across(object.x_mm), up(object.y_mm + object.height_mm)];
  const [w, h] = [across(object.x_mm + object.width_mm) - x, up(object.y_mm) - y];
  const length = object.name.length * LETTER_PX;
  return { x, y, w, h, upright: w < length && h > length };
}

function ObjectShape({ object, across, up }: { object: WallObject; across: Scale; up: Scale }) {
  const { x, y, w, h, upright } = boxOf(object, across, up);
  const leaf = { left: [-1, 0], right: [0, 1], both: [-1, 1], no: [] }[object.opens];
  return (
    <g className={`wall-object object-${object.kind}`}>
      {leaf.map((side) => (
        <rect key={side} className="leaf" x={side < 0 ? x - w : x + w} y={y} width={w} height={h} />
      ))}
      <rect x={x} y={y} width={w} height={h} />
      {object.kind === "window" && <path d={`M${x} ${y + h / 2}h${w}M${x + w / 2} ${y}v${h}`} />}
      {upright ? (
        <text
          x={x + w + 4}
          y={y + h / 2}
          transform={`rotate(-90 ${x + w + 4} ${y + h / 2})`}
          dy="10"
          textAnchor="middle"
        >
          {object.name}
        </text>
      ) : (
        <text x={x + 4} y={y + 15}>
          {object.name}
        </text>
      )}
    </g>
  );
}
