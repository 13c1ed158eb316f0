import type { StringAssessment, StringStage } from "../../shared/api/types";
import { linear, ticks, type Scale } from "../../shared/draw/scale";
import { useWidth } from "../../shared/draw/useWidth";
import { figure } from "../../shared/lib/figures";
import { MarkShape } from "../../shared/marks/Mark";
import { useNarrow } from "../../shared/lib/useNarrow";
import { say } from "../../words/say";

// Two lines of words: what holds from where, and what is never passed.
const TOP_PX = 46;
const SECOND_PX = 20;
const COUNT_TEXT_PX = 110;
const ROW_PX = 92;
const AXIS_PX = 30;
const LABEL_PX = 136;
const NARROW_LEFT_PX = 18;
const BEYOND = 1.14;

/** How many are planned: beside the last of them where that crosses no line, else over them. */
function Planned({ count, x, y, mostX, endX }: { count: number; x: Scale; y: number; mostX: number; endX: number }) {
  const lastX = x(count);
  const lineX = lastX < mostX ? mostX : endX;
  const isBeside = lastX + COUNT_TEXT_PX < lineX;
  return (
    <text
      className="cold-figure"
      x={isBeside ? lastX + 8 : lastX}
      y={isBeside ? y + 38 : y + 14}
      textAnchor={isBeside ? "start" : "end"}
    >
      {say("string.planned", { count })}
    </text>
  );
}

interface OptimiserPictureProps {
  window: NonNullable<StringStage["optimiser"]>;
  strings: StringAssessment[];
  selected: string;
  select: (name: string) => void;
}

/** The count of optimisers in each string against its window; the safety voltage counts on the same scale. */
export function OptimiserPicture({ window, strings, selected, select }: OptimiserPictureProps) {
  const [ref, width] = useWidth(860);
  const narrow = useNarrow();
  const { least_in_string: least, most_here: most, safety_v: safetyV } = window;
  const top = Math.max(most, ...strings.map((one) => one.modules_in_series)) * BEYOND;
  const x = linear([0, top], [narrow ? NARROW_LEFT_PX : LABEL_PX, width - 10]);
  const bottom = TOP_PX + strings.length * ROW_PX;
  return (
    <div ref={ref} className="picture">
      <svg width={width} height={bottom + AXIS_PX} role="group" aria-label={say("string.optimisers_of_all_strings")}>
        <rect className="zone-full" x={x(least)} y={TOP_PX} width={x(most) - x(least)} height={bottom - TOP_PX} />
        <line className="never" x1={x(most)} x2={x(most)} y1={TOP_PX - 6} y2={bottom + 6} />
        <text className="tick" x={x(least) + 4} y={TOP_PX - 8}>
          {narrow
            ? say("string.from", { least })
            : say("string.holds_from_optimisers", { fixed_string_v: figure(window.fixed_string_v, "V"), least })}
        </text>
        <text className="tick never-text" x={width - 10} y={TOP_PX - 8 - SECOND_PX} textAnchor="end">
          {narrow
            ? say("string.most", { most })
            : say("string.never_above", {
                most,
                power_binds: window.power_binds
                  ? say("string.more_than", { most_string_w: figure(window.most_string_w, "W") })
                  : "",
              })}
        </text>
        {strings.map((one, index) => {
          const y = TOP_PX + index * ROW_PX;
          return (
            <g
              key={one.name}
              className="string-row"
              role="button"
              tabIndex={0}
              aria-label={say("string.string", { name: one.name, line: one.line })}
              aria-pressed={one.name === selected}
              onClick={() => select(one.name)}
              onKeyDown={(event) => {
                if (event.key === "Enter" || event.key === " ") select(one.name);
              }}
            >
              <rect className="touch" x={0} y={y} width={width} height={ROW_PX} />
              {one.name === selected && <rect className="chosen-bar" x={0} y={y + 12} width={4} height={ROW_PX - 24} />}
              <text aria-hidden="true" className="string-name" x={12} y={y + (narrow ? 16 : 44)}>
                {one.name}
              </text>
              {!narrow && (
                <text aria-hidden="true" className="tick strong" x={44} y={y + 32}>
                  {say("common.tracker_2", { tracker: one.tracker })}
                </text>
              )}
              {!narrow && (
                <text aria-hidden="true" className="tick" x={44} y={y + 50}>
                  {one.plane}
                </text>
              )}
              {Array.from({ length: one.modules_in_series }, (_, n) => (
                <rect
                  key={n}
                  className="bar"
                  x={x(n) + 1}
                  y={y + 20}
                  width={Math.max(x(1) - x(0) - 2, 1)}
                  height={24}
                />
              ))}
              <Planned count={one.modules_in_series} x={x} y={y} mostX={x(most)} endX={width - 10} />
              {one.read_v !== null && (
                <>
                  <MarkShape verdict={one.read_verdict} x={x(Math.abs(one.read_v) / safetyV)} y={y + 66} size={14} />
                  <text
                    aria-hidden="true"
                    className={`read-figure word-${one.read_verdict}`}
                    x={x(Math.abs(one.read_v) / safetyV) + 14}
                    y={y + 71}
                  >
                    {say("string.read", { read_v: figure(one.read_v, "V") })}
                  </text>
                </>
              )}
            </g>
          );
        })}
        <line className="axis" x1={x(0)} x2={width - 10} y1={bottom} y2={bottom} />
        {ticks(0, top, narrow ? 4 : 8).map((count) => (
          <text key={count} className="tick" x={x(count)} y={bottom + 20} textAnchor={count === 0 ? "start" : "middle"}>
            {count === 0 ? say("string.0_optimisers") : count}
          </text>
        ))}
      </svg>
    </div>
  );
}
