import { useState, type KeyboardEvent, type PointerEvent } from "react";
import type { FeedStage } from "../../shared/api/types";
import { linear, ticks, type Scale } from "../../shared/draw/scale";
import { useWidth } from "../../shared/draw/useWidth";
import { figure } from "../../shared/lib/figures";
import { MarkShape } from "../../shared/marks/Mark";
import { useNarrow } from "../../shared/lib/useNarrow";
import { say } from "../../words/say";
import "./LadderPicture.css";

type Ladder = NonNullable<FeedStage["today"]>;
type Run = FeedStage["runs"][number];

const HEIGHT_PX = 320;
const TOP_PX = 30;
const BOTTOM_PX = 58;
const AXIS_PX = 46;
const ROOM_V = 1.5;
const RUNG_PX = 56;
const NARROW_RUNG_PX = 34;
const NEAR_V = 8;

interface LadderPictureProps {
  stage: FeedStage;
  ladder: Ladder;
  chosen: string;
  open: (what: string) => void;
  size: (run: string, sectionMm2: number) => void;
}

/** The ladder of volts to scale, rung by rung; pull the end of a run to another conductor size. */
export function LadderPicture({ stage, ladder, chosen, open, size }: LadderPictureProps) {
  const [ref, width] = useWidth(860);
  const narrow = useNarrow();
  const [pulled, setPulled] = useState<{ run: string; section: number } | null>(null);
  const { high: highDay } = stage;
  const known = [
    stage.nominal_v,
    ...ladder.rungs.map((rung) => rung.volts),
    ...(highDay?.rungs.map((rung) => rung.volts) ?? []),
    ...(stage.trip_v === null ? [] : [stage.trip_v]),
  ];
  const low = Math.min(...known) - ROOM_V;
  const high = Math.max(...known) + ROOM_V;
  const shown = stage.limits.filter((limit) => limit.volts < high + NEAR_V);
  const top = Math.max(high, ...shown.map((limit) => limit.volts + ROOM_V));
  const y = linear([low, top], [HEIGHT_PX - BOTTOM_PX, TOP_PX]);
  const half = (narrow ? NARROW_RUNG_PX : RUNG_PX) / 2;
  const x = linear([0, ladder.rungs.length - 1], [AXIS_PX + half + 8, width - half - 14]);
  const runs = new Map(stage.runs.map((run) => [run.name, run]));
  return (
    <div ref={ref} className="picture ladder">
      <svg
        width={width}
        height={HEIGHT_PX}
        role="group"
        aria-label={say("feed.ladder_of_volts_2", { line: stage.line })}
      >
        <defs>
          <pattern id="trip-hatch" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line className="hatch" x1="0" x2="0" y1="0" y2="8" />
          </pattern>
        </defs>
        {ticks(low, top, 5).map((volts) => (
          <g key={volts}>
            <line className="grid-line" x1={AXIS_PX} x2={width} y1={y(volts)} y2={y(volts)} />
            <text className="tick" x={AXIS_PX - 6} y={y(volts) + 4} textAnchor="end">
              {figure(volts, "V")}
            </text>
          </g>
        ))}
        {stage.trip_v !== null && (
          <rect x={AXIS_PX} y={0} width={width - AXIS_PX} height={y(stage.trip_v)} fill="url(#trip-hatch)" />
        )}
        {[...new Set(shown.map((limit) => limit.volts))].map((volts) => {
          const here = shown.filter((limit) => limit.volts === volts);
          const lasting = here.some((limit) => limit.lasting);
          return (
            <g key={volts}>
              <line className={lasting ? "never" : "limit-line"} x1={AXIS_PX} x2={width} y1={y(volts)} y2={y(volts)} />
              <text className={lasting ? "tick never-text" : "tick"} x={AXIS_PX + 8} y={y(volts) - 6}>
                {figure(volts, "V")}{" "}
                {here
                  .map((limit) => (narrow || limit.after === "" ? limit.name : `${limit.name}, ${limit.after}`))
                  .join(" · ")}
              </text>
            </g>
          );
        })}
        <line className="nominal" x1={AXIS_PX} x2={width} y1={y(stage.nominal_v)} y2={y(stage.nominal_v)} />
        <text className="tick" x={width - 4} y={y(stage.nominal_v) + 15} textAnchor="end">
          {say("feed.nominal", { nominal_v: figure(stage.nominal_v, "V") })}
        </text>
        {highDay !== null && ladder !== highDay && <HighDay ladder={highDay} x={x} y={y} />}
        {ladder.rungs.map((rung, index) => {
          const before = ladder.rungs[index - 1];
          const run = runs.get(rung.run);
          if (before === undefined) return null;
          // A trunk is no run of the path: its size is its sheet's.
          if (run === undefined)
            return (
              <line
                key={rung.name}
                className="run"
                x1={x(index - 1) + half}
                x2={x(index) - half}
                y1={y(before.volts)}
                y2={y(rung.volts)}
              />
            );
          const isChosen = chosen === `run ${run.name}`;
          const at = pulled?.run === run.name ? run.sizes.find((one) => one.section_mm2 === pulled.section) : undefined;
          const end = before.volts + (at?.rise_v ?? rung.rise_v);
          return (
            <g key={rung.name}>
              {isChosen &&
                run.sizes.map((one) => (
                  <line
                    key={one.section_mm2}
                    className="ghost-run"
                    x1={x(index - 1) + half}
                    x2={x(index) - half}
                    y1={y(before.volts)}
                    y2={y(before.volts + one.rise_v)}
                  />
                ))}
              <line
                className={isChosen ? "run run-chosen" : "run"}
                x1={x(index - 1) + half}
                x2={x(index) - half}
                y1={y(before.volts)}
                y2={y(end)}
                onClick={() => open(`run ${run.name}`)}
              />
              <Pull
                run={run}
                x={x(index) - half}
                from={before.volts}
                end={end}
                y={y}
                pulled={at?.section_mm2 ?? null}
                pull={(section) => setPulled(section === null ? null : { run: run.name, section })}
                keep={(section) => {
                  setPulled(null);
                  size(run.name, section);
                }}
                open={() => open(`run ${run.name}`)}
              />
              {at !== undefined && (
                <text className="rung-figure" x={x(index) - half - 12} y={y(end) - 14} textAnchor="end">
                  {at.name}
                </text>
              )}
            </g>
          );
        })}
        {ladder.rungs.map((rung, index) => (
          <g key={rung.name}>
            <line className="rung" x1={x(index) - half} x2={x(index) + half} y1={y(rung.volts)} y2={y(rung.volts)} />
            <text
              className={narrow && index % 2 === 1 ? "rung-figure rung-small" : "rung-figure"}
              x={x(index)}
              textAnchor={index === 0 ? "start" : index === ladder.rungs.length - 1 ? "end" : "middle"}
              dx={index === 0 ? -half : index === ladder.rungs.length - 1 ? half : 0}
              y={y(rung.volts) - 9}
            >
              {figure(rung.volts, narrow ? "" : "V")}
            </text>
            <Name
              text={rung.name}
              x={x(index)}
              y={HEIGHT_PX - 34 + (narrow && index % 2 === 1 ? 15 : 0)}
              first={index === 0}
              last={index === ladder.rungs.length - 1}
              half={half}
            />
            <line className="rung-drop" x1={x(index)} x2={x(index)} y1={y(rung.volts) + 3} y2={HEIGHT_PX - 48} />
          </g>
        ))}
        <MarkShape
          verdict={stage.judgements.find((one) => one.rule_id === "ac_terminal_room")?.verdict ?? "waiting"}
          x={x(ladder.rungs.length - 1)}
          y={y(ladder.terminal_v)}
          size={14}
        />
      </svg>
    </div>
  );
}

function Name({
  text,
  x,
  y,
  first,
  last,
  half,
}: {
  text: string;
  x: number;
  y: number;
  first: boolean;
  last: boolean;
  half: number;
}) {
  return (
    <text
      className="tick"
      x={first ? x - half : last ? x + half : x}
      y={y}
      textAnchor={first ? "start" : last ? "end" : "middle"}
    >
      {text}
    </text>
  );
}

function HighDay({ ladder, x, y }: { ladder: Ladder; x: Scale; y: Scale }) {
  const line = ladder.rungs.map((rung, index) => `${x(index)} ${y(rung.volts)}`).join("L");
  return (
    <g className="high-day">
      <path d={`M${line}`} />
      <text className="tick" x={x(0)} y={y(ladder.supply_v) - 12}>
        {figure(ladder.supply_v, "V")}, {ladder.title}
      </text>
    </g>
  );
}

interface PullProps {
  run: Run;
  x: number;
  from: number;
  end: number;
  y: Scale;
  pulled: number | null;
  pull: (section: number | null) => void;
  keep: (section: number) => void;
  open: () => void;
}

/** The handle at a run's end: pulled up or down it snaps from size to size. */
function Pull({ run, x, from, end, y, pulled, pull, keep, open }: PullProps) {
  const sizes = run.sizes;
  const now = sizes.findIndex((one) => one.section_mm2 === pulled || (pulled === null && one.chosen));
  if (sizes.length < 2) return null;
  const nearest = (event: PointerEvent<SVGCircleElement>) => {
    const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
    const at = event.clientY - (box?.top ?? 0);
    return sizes.reduce((best, one) =>
      Math.abs(y(from + one.rise_v) - at) < Math.abs(y(from + best.rise_v) - at) ? one : best,
    ).section_mm2;
  };
  const step = (by: number) => {
    const next = sizes[now + by];
    if (next !== undefined) keep(next.section_mm2);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === "ArrowUp" || event.key === "ArrowRight") step(1);
    else if (event.key === "ArrowDown" || event.key === "ArrowLeft") step(-1);
    else return;
    event.preventDefault();
  };
  return (
    <>
      <circle className="pull-dot" cx={x} cy={y(end)} r={7} />
      <circle
        className="pull"
        cx={x}
        cy={y(end)}
        r={22}
        role="slider"
        tabIndex={0}
        aria-label={say("feed.conductor_size_of", { run: run.name })}
        aria-valuemin={0}
        aria-valuemax={sizes.length - 1}
        aria-valuenow={now}
        aria-valuetext={sizes[now]?.name ?? say("common.none")}
        onKeyDown={onKeyDown}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          open();
          pull(nearest(event));
        }}
        onPointerMove={(event) => {
          if (event.currentTarget.hasPointerCapture(event.pointerId)) pull(nearest(event));
        }}
        onPointerUp={(event) => {
          const section = nearest(event);
          if (section === sizes.find((one) => one.chosen)?.section_mm2) pull(null);
          else keep(section);
        }}
        onPointerCancel={() => pull(null)}
      />
    </>
  );
}
