import type { FeedStage } from "../../shared/api/client";
import { linear, ticks, type Scale } from "../../shared/draw/scale";
import { useWidth } from "../../shared/draw/useWidth";
import { figure } from "../../shared/figures";
import { MarkShape } from "../../shared/marks/Mark";
import { useNarrow } from "../../shared/useNarrow";

const HEIGHT_PX = 244;
const TOP_PX = 24;
const BOTTOM_PX = 40;
const AXIS_PX = 46;
const RUNG_PX = 118;
const ROOM_V = 2.5;

interface LadderPictureProps {
  stage: FeedStage;
  lengthText: string;
}

/** The ladder of volts to scale: from the supply up to the inverter, and the trip above both. */
export function LadderPicture({ stage, lengthText }: LadderPictureProps) {
  const [ref, width] = useWidth(860);
  const narrow = useNarrow();
  const terminals = stage.sizes.filter((size) => size.section_mm2 >= 2.5).map((size) => size.terminal_v);
  const known = [stage.supply_v, stage.nominal_v, ...stage.rungs.map((rung) => rung.volts), ...(stage.trip_v === null ? [] : [stage.trip_v])];
  const low = Math.min(...known) - ROOM_V;
  const high = Math.max(...known, ...terminals) + ROOM_V;
  const y = linear([low, high], [HEIGHT_PX - BOTTOM_PX, TOP_PX]);
  const rungPx = narrow ? 62 : RUNG_PX;
  const from = AXIS_PX + rungPx;
  const to = width - rungPx - 30;
  const end = stage.rungs.at(-1);
  return (
    <div ref={ref} className="picture">
      <svg width={width} height={HEIGHT_PX} role="img" aria-label={`Ladder of volts: ${stage.line}`}>
        <defs>
          <pattern id="trip-hatch" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line className="hatch" x1="0" x2="0" y1="0" y2="8" />
          </pattern>
        </defs>
        <VoltsAxis low={low} high={high} y={y} width={width} />
        {stage.trip_v !== null && <Trip stage={stage} tripV={stage.trip_v} y={y} width={width} />}
        <line className="nominal" x1={AXIS_PX} x2={width} y1={y(stage.nominal_v)} y2={y(stage.nominal_v)} />
        <text className="tick" x={width - 4} y={y(stage.nominal_v) + 16} textAnchor="end">nominal {figure(stage.nominal_v, "V")}</text>
        {stage.sizes.filter((size) => !size.chosen && size.section_mm2 >= 2.5).map((size) => (
          <line key={size.section_mm2} className="ghost-run" x1={from} y1={y(stage.supply_v)} x2={to} y2={y(size.terminal_v)} />
        ))}
        {end !== undefined && (
          <>
            <line className="run" x1={from} y1={y(stage.supply_v)} x2={to} y2={y(end.volts)} />
            <text className="tick run-text" x={(from + to) / 2} y={HEIGHT_PX - 12} textAnchor="middle">{lengthText} · {end.note.split(" of ").at(-1)}</text>
            <Rung x1={from - rungPx + 10} x2={from} volts={stage.supply_v} y={y} name={stage.supply_measured ? `Supply ${stage.supply_pair}` : "Supply, not measured"} below />
            <Rung x1={to} x2={to + rungPx} volts={end.volts} y={y} name={end.name} below={false} />
            <MarkShape verdict={stage.judgements[0]?.verdict ?? "waiting"} x={to} y={y(end.volts)} size={14} />
          </>
        )}
      </svg>
    </div>
  );
}

function VoltsAxis({ low, high, y, width }: { low: number; high: number; y: Scale; width: number }) {
  return (
    <g>
      {ticks(low, high, 5).map((volts) => (
        <g key={volts}>
          <line className="grid-line" x1={AXIS_PX} x2={width} y1={y(volts)} y2={y(volts)} />
          <text className="tick" x={AXIS_PX - 6} y={y(volts) + 4} textAnchor="end">{figure(volts, "V")}</text>
        </g>
      ))}
    </g>
  );
}

function Trip({ stage, tripV, y, width }: { stage: FeedStage; tripV: number; y: Scale; width: number }) {
  return (
    <g>
      <rect x={AXIS_PX} y={0} width={width - AXIS_PX} height={y(tripV)} fill="url(#trip-hatch)" />
      <line className="never" x1={AXIS_PX} x2={width} y1={y(tripV)} y2={y(tripV)} />
      <text className="tick never-text" x={AXIS_PX + 8} y={y(tripV) - 7}>stops above {figure(tripV, "V")}, {stage.trip_name}</text>
    </g>
  );
}

interface RungProps {
  x1: number;
  x2: number;
  volts: number;
  y: Scale;
  name: string;
  below: boolean;
}

function Rung({ x1, x2, volts, y, name, below }: RungProps) {
  const words = name.split(/[ ,]+/);
  const middle = Math.ceil(words.length / 2);
  return (
    <g>
      <line className="rung" x1={x1} x2={x2} y1={y(volts)} y2={y(volts)} />
      <text className="rung-figure" x={below ? x1 : x2} textAnchor={below ? "start" : "end"} y={y(volts) - 8}>{figure(volts, "V")}</text>
      <text className="tick" x={below ? x1 : x2} textAnchor={below ? "start" : "end"} y={y(volts) + 17}>{words.slice(0, middle).join(" ")}</text>
      <text className="tick" x={below ? x1 : x2} textAnchor={below ? "start" : "end"} y={y(volts) + 33}>{words.slice(middle).join(" ")}</text>
    </g>
  );
}
