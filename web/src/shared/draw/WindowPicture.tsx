import type { StringAssessment, WindowLimits } from "../api/types";
import { linear, ticks, type Scale } from "./scale";
import { useWidth } from "./useWidth";
import { figure } from "../lib/figures";
import { MarkShape } from "../marks/Mark";
import { useNarrow } from "../lib/useNarrow";
import { say } from "../../words/say";
import "./WindowPicture.css";

const TOP_PX = 26;
const AXIS_PX = 48;
const ROW_PX = 92;
const LABEL_PX = 104;
const NARROW_LEFT_PX = 18;
const BEYOND = 1.14;
// Room that the coldest volts need beside their mark.
const COLD_TEXT_PX = 100;
/** What the figure and its word take in the bar. */
const HOT_TEXT_PX = 78;
const LINE_GAP_PX = 6;
const START_TEXT_PX = 84;

interface WindowPictureProps {
  limits: WindowLimits;
  strings: StringAssessment[];
  selected: string;
  select: (name: string) => void;
}

/** The voltage window to scale: where each string sits between too low to track and too high to survive. */
export function WindowPicture({ limits, strings, selected, select }: WindowPictureProps) {
  const [ref, width] = useWidth(860);
  const narrow = useNarrow();
  const left = narrow ? NARROW_LEFT_PX : LABEL_PX;
  const colds = strings.map((one) => one.volts?.voc_cold_v ?? one.volts?.vmp_cold_v ?? 0);
  const top = Math.max(limits.never_above_v, ...colds) * BEYOND;
  const x = linear([0, top], [left, width - 10]);
  const bottom = TOP_PX + strings.length * ROW_PX;
  return (
    <div ref={ref} className="picture">
      <svg
        width={width}
        height={bottom + AXIS_PX}
        role="group"
        aria-label={say("shared.voltage_window_of_all_strings")}
      >
        <Zones limits={limits} x={x} bottom={bottom} end={top} narrow={narrow} />
        {strings.map((one, index) => (
          <StringRow
            key={one.name}
            string={one}
            x={x}
            y={TOP_PX + index * ROW_PX}
            width={width}
            neverX={x(limits.never_above_v)}
            narrow={narrow}
            chosen={one.name === selected}
            select={() => select(one.name)}
          />
        ))}
        <Tracks limits={limits} x={x} y={bottom + 30} />
        <line className="axis" x1={left} x2={width - 10} y1={bottom} y2={bottom} />
        {ticks(0, top, narrow ? 4 : 8).map((volts) => (
          <g key={volts}>
            <line className="axis" x1={x(volts)} x2={x(volts)} y1={bottom} y2={bottom + 5} />
            <text className="tick" x={x(volts)} y={bottom + 20} textAnchor="middle">
              {volts === 0 ? "0 V" : volts}
            </text>
          </g>
        ))}
      </svg>
    </div>
  );
}

function Tracks({ limits, x, y }: { limits: WindowLimits; x: Scale; y: number }) {
  const from = x(limits.track_min_v);
  const to = x(limits.track_max_v);
  return (
    <g>
      <path className="bracket" d={`M${from} ${y - 5}V${y + 2}H${to}V${y - 5}`} />
      <text className="tick" x={(from + to) / 2} y={y + 16} textAnchor="middle">
        {say("shared.tracks_to", {
          track_min_v: figure(limits.track_min_v, "", 0),
          track_max_v: figure(limits.track_max_v, "V", 0),
        })}
      </text>
    </g>
  );
}

interface ZonesProps {
  limits: WindowLimits;
  x: Scale;
  bottom: number;
  end: number;
  narrow: boolean;
}

function Zones({ limits, x, bottom, end, narrow }: ZonesProps) {
  const height = bottom - TOP_PX;
  const never = limits.never_above_v;
  const crowded = x(limits.full_power_min_v) - x(limits.start_v) < START_TEXT_PX;
  return (
    <g>
      <defs>
        <pattern id="never-hatch" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line className="hatch" x1="0" x2="0" y1="0" y2="8" />
        </pattern>
      </defs>
      <rect
        className="zone-track"
        x={x(limits.track_min_v)}
        y={TOP_PX}
        width={x(limits.track_max_v) - x(limits.track_min_v)}
        height={height}
      />
      <rect
        className="zone-full"
        x={x(limits.full_power_min_v)}
        y={TOP_PX}
        width={x(limits.full_power_max_v) - x(limits.full_power_min_v)}
        height={height}
      />
      <rect x={x(never)} y={TOP_PX} width={x(end) - x(never)} height={height} fill="url(#never-hatch)" />
      <line className="start" x1={x(limits.start_v)} x2={x(limits.start_v)} y1={TOP_PX} y2={bottom} />
      <line className="never" x1={x(never)} x2={x(never)} y1={TOP_PX - 6} y2={bottom + 6} />
      {!narrow && (
        <text
          className="tick"
          x={x(limits.start_v) + START_TEXT_PX / 2 - (crowded ? START_TEXT_PX / 2 : 0)}
          y={TOP_PX - 8}
          textAnchor="end"
        >
          {say("shared.starts", { start_v: figure(limits.start_v, "V", 0) })}
        </text>
      )}
      <text className="tick" x={x(limits.full_power_min_v) + 4} y={TOP_PX - 8}>
        {narrow
          ? say("shared.full_power")
          : say("shared.full_power_to", {
              full_power_min_v: figure(limits.full_power_min_v, "", 0),
              full_power_max_v: figure(limits.full_power_max_v, "V", 0),
            })}
      </text>
      <text className="tick never-text" x={x(end)} y={TOP_PX - 8} textAnchor="end">
        {narrow ? "" : say("shared.never_above")}
        {figure(never, "V", 0)}
      </text>
    </g>
  );
}

interface StringRowProps {
  string: StringAssessment;
  x: Scale;
  y: number;
  width: number;
  neverX: number;
  narrow: boolean;
  chosen: boolean;
  select: () => void;
}

function StringRow({ string, x, y, width, neverX, narrow, chosen, select }: StringRowProps) {
  const { volts, expected, read_v: readV } = string;
  if (volts === null) return null;
  const cold = volts.voc_cold_v;
  const reach = cold ?? volts.vmp_cold_v;
  const hotX = x(volts.vmp_hot_v);
  const barY = y + 20;
  const barPx = Math.max(x(volts.vmp_cold_v) - hotX, 2);
  const nowY = y + 66;
  // Beside its mark where it ends before the line that is never crossed, else over it, up to that line.
  const coldEndX = x(reach) < neverX ? neverX - LINE_GAP_PX : width - 4;
  const isBeside = x(reach) + COLD_TEXT_PX < coldEndX;
  const readX = readV === null ? null : Math.min(Math.max(x(Math.abs(readV)), x(0)), width - 12);
  return (
    <g
      className={chosen ? "string-row chosen" : "string-row"}
      role="button"
      tabIndex={0}
      aria-label={say("shared.string", { string: string.name, line: string.line })}
      aria-pressed={chosen}
      onClick={select}
      onKeyDown={(event) => {
        if (event.key === "Enter" || event.key === " ") select();
      }}
    >
      <rect className="touch" x={0} y={y} width={width} height={ROW_PX} />
      {chosen && <rect className="chosen-bar" x={0} y={y + 12} width={4} height={ROW_PX - 24} />}
      <text aria-hidden="true" className="string-name" x={12} y={y + (narrow ? 16 : 44)}>
        {string.name}
      </text>
      {!narrow && (
        <>
          <text aria-hidden="true" className="tick strong" x={44} y={y + 32}>
            {say("common.tracker_2", { tracker: string.tracker })}
          </text>
          <text aria-hidden="true" className="tick" x={44} y={y + 50}>
            {string.plane}
          </text>
        </>
      )}
      <rect className="bar" x={hotX} y={barY} width={barPx} height={24} />
      <line className="whisker" x1={x(volts.vmp_cold_v)} x2={x(reach)} y1={barY + 12} y2={barY + 12} />
      <rect className={`cold-end cold-${string.verdict}`} x={x(reach) - 3} y={barY - 3} width={6} height={30} />
      <text aria-hidden="true" className="bar-figure" x={hotX + 8} y={barY + 17}>
        {figure(volts.vmp_hot_v, "", 0)}
        {barPx < HOT_TEXT_PX ? "" : say("shared.hot")}
      </text>
      <text
        aria-hidden="true"
        className="cold-figure"
        x={isBeside ? x(reach) + 8 : coldEndX}
        y={isBeside ? barY + 18 : barY - 6}
        textAnchor={isBeside ? "start" : "end"}
      >
        {say("shared.cold", { reach: figure(reach, "V", 0) })}
      </text>
      {expected !== null && (
        <rect
          className="expected-box"
          x={x(expected.low_v)}
          y={nowY - 11}
          width={x(expected.high_v) - x(expected.low_v)}
          height={22}
        />
      )}
      {readX !== null && readV !== null && (
        <>
          <MarkShape verdict={string.read_verdict} x={readX} y={nowY} size={14} />
          <text
            aria-hidden="true"
            className={`read-figure word-${string.read_verdict}`}
            x={Math.min(readX, x(expected?.low_v ?? reach)) - 12}
            y={nowY + 5}
            textAnchor="end"
          >
            {say("shared.read", { readV: figure(readV, "V") })}
          </text>
        </>
      )}
      {expected !== null && !narrow && (
        <text aria-hidden="true" className="tick" x={Math.max(x(expected.high_v), readX ?? 0) + 10} y={nowY + 5}>
          {say("shared.now_to", { low_v: figure(expected.low_v, "", 0), high_v: figure(expected.high_v, "V", 0) })}
        </text>
      )}
    </g>
  );
}
