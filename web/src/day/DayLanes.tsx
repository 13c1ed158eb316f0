import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Schemas } from "../shared/api/types";
import { useWidth } from "../shared/draw/useWidth";
import { ofVisit } from "./TaskList";
import { say } from "../words/say";

const MIN_PER_DAY = 1440;
const MIN_PER_H = 60;
const STEP = 5;
const ARC = 84;
const LANE = 46;
const LEFT = 96;
const BAND = 12;
const CHARACTER = 7.4;
// Room for a number of two signs.
const NUMBER = 18;

interface DayLanesProps {
  day: Schemas["DayView"];
  number: number;
  chosen: string | null;
  choose: (task: string) => void;
  move: (task: string, start: number) => void;
}

/** One visit: the sun over it, the light that readings want, a lane for each of the crew, waits hatched. */
export function DayLanes({ day, number, chosen, choose, move }: DayLanesProps) {
  const [box, width] = useWidth(800);
  const visit = day.visits[number];
  const [drag, setDrag] = useState<{ task: string; from: number; start: number; now: number } | null>(null);
  const svg = useRef<SVGSVGElement>(null);
  if (visit === undefined) return null;
  const begin = visit.visit.start_min - 30;
  const midnight = Math.floor(visit.visit.start_min / MIN_PER_DAY) * MIN_PER_DAY;
  const end = Math.max(
    visit.visit.end_min + 30,
    ...day.tasks.filter((one) => one.visit === number).map((one) => (one.start_min ?? 0) + one.minutes),
  );
  const wide = Math.max(width, 300);
  const x = (minute: number) => LEFT + ((minute - begin) / (end - begin)) * (wide - LEFT - 8);
  const lanes = [...day.people.map((one) => one.id), "waits"];
  const bands = day.bands.filter((one) => one.spans.length > 0);
  const top = ARC + bands.length * BAND + 6;
  const high = top + lanes.length * LANE + 22;
  const minuteAt = (event: PointerEvent) => {
    const left = svg.current?.getBoundingClientRect().left ?? 0;
    return begin + ((event.clientX - left - LEFT) / (wide - LEFT - 8)) * (end - begin);
  };
  const own = ofVisit(day, number);
  const startOf = (task: Schemas["TaskLine"]) => (drag?.task === task.id ? drag.now : (task.start_min ?? 0));
  const keys = (event: KeyboardEvent, task: Schemas["TaskLine"]) => {
    const by = event.key === "ArrowRight" ? STEP : event.key === "ArrowLeft" ? -STEP : 0;
    if (by !== 0 && task.start_min !== null) {
      event.preventDefault();
      move(task.id, Math.max(0, task.start_min + by));
    } else if (event.key === "Enter") choose(task.id);
  };
  const hours = [];
  for (let hour = Math.ceil(begin / MIN_PER_H); hour * MIN_PER_H <= end; hour += 1) hours.push(hour);
  const rise = visit.sunrise_min;
  const fall = visit.sunset_min;
  return (
    <div ref={box}>
      <svg
        ref={svg}
        className="day-lanes"
        width={wide}
        height={high}
        role="group"
        aria-label={say("day.the_visit_in_lanes")}
        onPointerMove={(event) => {
          if (drag !== null) {
            const now = Math.round((drag.start + minuteAt(event) - drag.from) / STEP) * STEP;
            setDrag({ ...drag, now: Math.max(0, now) });
          }
        }}
        onPointerUp={() => {
          if (drag !== null && drag.now !== drag.start) move(drag.task, drag.now);
          setDrag(null);
        }}
      >
        <defs>
          <pattern
            id={`wait-${number}`}
            width="7"
            height="7"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <line x1="0" y1="0" x2="0" y2="7" className="day-hatch" />
          </pattern>
        </defs>
        {rise !== null && fall !== null && (
          <path
            className="day-arc-line"
            d={`M${x(rise)} ${ARC - 6}Q${x((rise + fall) / 2)} ${-ARC + 40} ${x(fall)} ${ARC - 6}`}
            clipPath="none"
          />
        )}
        {visit.sky.map((one) => (
          <g key={one.what}>
            <rect
              className="day-bad-sky"
              x={x(midnight + one.begins_min)}
              width={Math.max(0, x(midnight + one.ends_min) - x(midnight + one.begins_min))}
              y={ARC - 30}
              height={24}
              fill={`url(#wait-${number})`}
            />
            <text className="day-plane" x={x(midnight + one.begins_min) + 4} y={ARC - 13}>
              {one.what}
            </text>
          </g>
        ))}
        {hours.map((hour) => (
          <g key={hour}>
            <line className="day-hour" x1={x(hour * MIN_PER_H)} x2={x(hour * MIN_PER_H)} y1={ARC - 6} y2={high - 18} />
            <text className="day-clock" x={x(hour * MIN_PER_H)} y={high - 3} textAnchor="middle">
              {hour % 24}
            </text>
          </g>
        ))}
        {bands.map((one, index) => (
          <g key={one.plane}>
            <text className="day-plane" x={0} y={ARC + index * BAND + 10}>
              {one.plane}
            </text>
            {one.spans
              .filter((span) => span.end_min > begin && span.start_min < end)
              .map((span) => (
                <rect
                  key={span.start_min}
                  className="day-band"
                  x={x(Math.max(begin, span.start_min))}
                  width={x(Math.min(end, span.end_min)) - x(Math.max(begin, span.start_min))}
                  y={ARC + index * BAND + 2}
                  height={BAND - 4}
                />
              ))}
          </g>
        ))}
        {lanes.map((lane, index) => (
          <g key={lane}>
            <line className="day-lane" x1={0} x2={wide} y1={top + index * LANE} y2={top + index * LANE} />
            <text className="day-who" x={0} y={top + index * LANE + 27}>
              {lane}
            </text>
          </g>
        ))}
        {own.flatMap((task) =>
          (task.waits ? ["waits"] : task.people).map((who) => {
            const y = top + lanes.indexOf(who) * LANE + 4;
            const left = x(startOf(task));
            const wideness = Math.max(4, x(startOf(task) + task.minutes) - left - 2);
            const room = Math.floor((wideness - 8) / CHARACTER);
            const place = String(own.indexOf(task) + 1);
            const whole = `${place} ${task.label}`;
            const said =
              whole.length <= room ? whole : room > 5 ? `${whole.slice(0, room - 1)}…` : wideness > NUMBER ? place : "";
            return (
              <g
                key={`${task.id} ${who}`}
                role="button"
                tabIndex={0}
                aria-label={`${task.label}. ${task.why} ${task.clock}`}
                aria-pressed={chosen === task.id}
                className={`day-task${task.waits ? " day-wait" : ""}${task.roof ? " day-roof" : ""}${task.moved ? " day-moved" : ""}`}
                onClick={() => choose(task.id)}
                onKeyDown={(event) => keys(event, task)}
                onPointerDown={(event) => {
                  const start = task.start_min ?? 0;
                  setDrag({ task: task.id, from: minuteAt(event), start, now: start });
                  choose(task.id);
                }}
              >
                <title>{`${task.label}. ${task.why}`}</title>
                <rect
                  x={left}
                  y={y}
                  width={wideness}
                  height={LANE - 8}
                  fill={task.waits ? `url(#wait-${number})` : undefined}
                />
                <text x={left + (said === place ? 2 : 5)} y={y + 24} aria-hidden="true">
                  {said}
                </text>
              </g>
            );
          }),
        )}
        {day.now_min !== null && day.now_min >= begin && day.now_min <= end && (
          <line className="day-now" x1={x(day.now_min)} x2={x(day.now_min)} y1={ARC - 6} y2={high - 18} />
        )}
      </svg>
    </div>
  );
}
