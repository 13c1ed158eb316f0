import type { EarthLinkState, EarthStage, Earthing } from "../../shared/api/types";
import { useWidth } from "../../shared/draw/useWidth";
import { figure } from "../../shared/lib/figures";
import { MarkShape } from "../../shared/marks/Mark";
import { useNarrow } from "../../shared/lib/useNarrow";
import { layout } from "./layout";
import { say } from "../../words/say";
import "./EarthPath.css";

const ROW_PX = 104;
const TOP_PX = 8;
const BOX_PX = { width: 190, height: 40 };
const NARROW_BOX_PX = { width: 124, height: 44 };
const CHAR_PX = 7.6;
const GROUND_PX = 26;
const INSET_PX = 2;
const GAP_PX = 12;
/** On a phone a value stands on the outer side of a slanting step, where there is room for it. */
const LEFT_TEXT_PX = 76;
const OFF_PX = 14;

interface EarthPathProps {
  stage: EarthStage;
  earthing: Earthing;
  chosen: string | null;
  select: (link: string) => void;
}

/** The earth path, roof on top and electrode below; touch a step to see and change it. */
export function EarthPath({ stage, earthing, chosen, select }: EarthPathProps) {
  const [ref, width] = useWidth(820);
  const narrow = useNarrow();
  const { spots, columns, rows } = layout(earthing);
  const usual = narrow ? NARROW_BOX_PX : BOX_PX;
  const box = { ...usual, width: Math.min(usual.width, (width - 2 * INSET_PX) / columns - GAP_PX) };
  const height = TOP_PX + (rows - 1) * ROW_PX + box.height + GROUND_PX;
  const column = (width - box.width - 2 * INSET_PX) / Math.max(columns - 1, 1);
  const places = new Map(
    [...spots].map(
      ([name, spot]) =>
        [
          name,
          {
            x: columns === 1 ? width / 2 : INSET_PX + box.width / 2 + (spot.column - 1) * column,
            y: TOP_PX + spot.row * ROW_PX + box.height / 2,
          },
        ] as const,
    ),
  );
  return (
    <div ref={ref} className="picture earth-path">
      <svg width={width} height={height}>
        <title>{say("earth.the_earth_path_from_frames_to")}</title>
        {stage.links.map((link) => {
          const [from, to] = [places.get(link.start), places.get(link.end)];
          const planned = earthing.links.find((one) => one.name === link.name);
          if (from === undefined || to === undefined || planned === undefined) return null;
          const [x, y] = [(from.x + to.x) / 2, (from.y + to.y) / 2];
          const line = `M${from.x} ${from.y}L${to.x} ${to.y}`;
          return (
            <g
              key={link.name}
              role="button"
              tabIndex={0}
              className={link.name === chosen ? "earth-step earth-step-chosen" : "earth-step"}
              aria-label={`${link.name}, ${readAs(link)}, ${link.verdict}`}
              aria-pressed={link.name === chosen}
              onClick={() => select(link.name)}
              onKeyDown={(event) => {
                if (event.key === "Enter" || event.key === " ") {
                  event.preventDefault();
                  select(link.name);
                }
              }}
            >
              <path className="touch-line" d={line} />
              <path
                className={planned.how === "washer" || planned.how === "clamp" ? "earth-bite" : "earth-wire"}
                d={line}
              />
              <Label
                link={link}
                planned={planned}
                x={x}
                y={y}
                narrow={narrow}
                off={narrow || from.x === to.x ? 0 : from.x < to.x ? -OFF_PX : OFF_PX}
                onLeft={narrow && from.x < to.x && x > LEFT_TEXT_PX}
              />
            </g>
          );
        })}
        {stage.nodes.map((node) => {
          const at = places.get(node.name);
          if (at === undefined) return null;
          return (
            <g key={node.name} className={node.reaches ? "earth-node" : "earth-node earth-node-loose"}>
              <rect x={at.x - box.width / 2} y={at.y - box.height / 2} width={box.width} height={box.height} />
              <Words text={node.name} x={at.x} y={at.y + 5} most={Math.floor((box.width - 8) / CHAR_PX)} />
              {node.kind === "electrode" && (
                <path
                  className="earth-ground"
                  d={`M${at.x} ${at.y + box.height / 2}v8M${at.x - 16} ${at.y + box.height / 2 + 8}h32m-26 6h20m-14 6h8`}
                />
              )}
            </g>
          );
        })}
      </svg>
    </div>
  );
}

const readAs = (link: EarthLinkState) =>
  link.read_ohm === null ? say("common.not_read") : figure(link.read_ohm, "Ω", 2);

interface LabelProps {
  link: EarthLinkState;
  planned: Earthing["links"][number];
  x: number;
  y: number;
  narrow: boolean;
  /** How far up or down the words stand, away from a step that slants under them. */
  off: number;
  onLeft: boolean;
}

/** What runs there, and what it reads. */
function Label({ link, planned, x, y, narrow, off, onLeft }: LabelProps) {
  const size =
    planned.section_mm2 == null
      ? planned.how
      : `${figure(planned.section_mm2, "mm²")}${planned.length_m == null ? "" : `, ${figure(planned.length_m, "m")}`}`;
  return (
    <g aria-hidden="true">
      <MarkShape verdict={link.verdict} x={x} y={y - 1} size={12} />
      {!narrow && (
        <text x={x + 12} y={y - 3 + off}>
          {size}
        </text>
      )}
      <text
        className="strong"
        x={onLeft ? x - 12 : x + 12}
        y={narrow ? y + 5 : y + 13 + off}
        textAnchor={onLeft ? "end" : "start"}
      >
        {readAs(link)}
        {!narrow && link.band !== null && (
          <tspan className="soft">
            {" "}
            {say("earth.of_to", {
              low_ohm: figure(link.band.low_ohm, "", 2),
              high_ohm: figure(link.band.high_ohm, "Ω", 2),
            })}
          </tspan>
        )}
      </text>
    </g>
  );
}

/** A name on one line, or on two where the box is narrow. */
function Words({ text, x, y, most }: { text: string; x: number; y: number; most: number }) {
  const cut = text.length <= most ? -1 : text.lastIndexOf(" ", most);
  if (cut === -1)
    return (
      <text x={x} y={y} textAnchor="middle">
        {text}
      </text>
    );
  return (
    <>
      <text x={x} y={y - 8} textAnchor="middle">
        {text.slice(0, cut)}
      </text>
      <text x={x} y={y + 9} textAnchor="middle">
        {text.slice(cut + 1)}
      </text>
    </>
  );
}
