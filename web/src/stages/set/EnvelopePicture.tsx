import type { GridStage } from "../../shared/api/types";
import { linear, logarithmic, ticks, type Scale } from "../../shared/draw/scale";
import { useWidth } from "../../shared/draw/useWidth";
import { figure } from "../../shared/lib/figures";
import { say } from "../../words/say";
import "./EnvelopePicture.css";
import "./set.css";

const HEIGHT_PX = 236;
const TOP_PX = 30;
const BOTTOM_PX = 30;
const LEFT_PX = 52;
const SHORTEST_S = 0.05;
const LONGEST_S = 500;
const SECONDS = [0.1, 1, 10, 100];
const REACH = 0.35;

interface EnvelopePictureProps {
  stage: GridStage;
  quantity: "voltage" | "frequency";
}

type Trip = GridStage["trips"][number];

/** When the inverter must stop: level against time, the profile as hatching, the device as a line over it. */
export function EnvelopePicture({ stage, quantity }: EnvelopePictureProps) {
  const [ref, width] = useWidth(420);
  const trips = stage.trips.filter((trip) => trip.quantity === quantity);
  const nominal = quantity === "voltage" ? stage.nominal_v : stage.nominal_hz;
  const unit = quantity === "voltage" ? "V" : "Hz";
  if (nominal === null || trips.length === 0) return null;
  const levels = [nominal, ...trips.map((trip) => trip.level), ...trips.flatMap((trip) => trip.got_level ?? [])];
  const room = (Math.max(...levels) - Math.min(...levels)) * REACH;
  const range: [number, number] = [Math.min(...levels) - room, Math.max(...levels) + room];
  const x = logarithmic([SHORTEST_S, LONGEST_S], [LEFT_PX, width - 6]);
  const y = linear(range, [HEIGHT_PX - BOTTOM_PX, TOP_PX]);
  const of = (side: string) => trips.filter((trip) => trip.side === side);
  return (
    <div ref={ref} className="picture envelope">
      <svg width={width} height={HEIGHT_PX} role="img" aria-label={say("set.trip_envelope", { quantity })}>
        <defs>
          <pattern id="set-hatch" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line className="hatch" x1="0" x2="0" y1="0" y2="8" />
          </pattern>
        </defs>
        <text className="tick strong" x={LEFT_PX} y={18}>
          {quantity === "voltage" ? say("set.voltage_must_stop") : say("set.frequency_must_stop")}
        </text>
        {ticks(range[0], range[1], 5).map((level) => (
          <g key={level}>
            <line className="grid-line" x1={LEFT_PX} x2={width} y1={y(level)} y2={y(level)} />
            <text className="tick" x={LEFT_PX - 6} y={y(level) + 4} textAnchor="end">
              {figure(level, unit)}
            </text>
          </g>
        ))}
        {SECONDS.map((second) => (
          <text key={second} className="tick" x={x(second)} y={HEIGHT_PX - 8} textAnchor="middle">
            {figure(second, "s")}
          </text>
        ))}
        <line className="nominal" x1={LEFT_PX} x2={width} y1={y(nominal)} y2={y(nominal)} />
        {["over", "under"].map((side) => (
          <g key={side}>
            <path
              className="trip-area"
              d={area(of(side), x, y, side === "over" ? TOP_PX : HEIGHT_PX - BOTTOM_PX, width)}
              fill="url(#set-hatch)"
            />
            <path className="got-line" d={gotLine(of(side), x, y, width)} />
          </g>
        ))}
        {trips.map((trip) => (
          <text
            key={`${trip.side}-${trip.level}`}
            className="tick trip-figure"
            {...(isSlowest(trip, trips)
              ? { x: width - 6, textAnchor: "end" }
              : { x: Math.min(x(trip.time_s) + 6, width - 110) })}
            y={y(trip.level) + (trip.side === "over" ? ABOVE_PX : BELOW_PX)}
          >
            {figure(trip.level, unit)}, {figure(trip.time_s, "s", 2)}
          </text>
        ))}
      </svg>
    </div>
  );
}

// Each step is named inside its own hatching, away from nominal.
const ABOVE_PX = -6;
const BELOW_PX = 16;

/** Of two steps the slower reaches to the right edge: it is named there, clear of the other. */
const isSlowest = (trip: Trip, trips: Trip[]) =>
  trips.some((one) => one.side === trip.side && one.time_s < trip.time_s);

function steps(trips: { level: number; time_s: number }[], x: Scale, y: Scale, width: number): string {
  const slowFirst = [...trips].sort((a, b) => b.time_s - a.time_s);
  let path = `M${width} ${y(slowFirst[0]?.level ?? 0)}`;
  for (const trip of slowFirst) path += `V${y(trip.level)}H${x(trip.time_s)}`;
  return path;
}

function area(trips: Trip[], x: Scale, y: Scale, edge: number, width: number): string {
  return trips.length === 0 ? "" : `${steps(trips, x, y, width)}V${edge}H${width}Z`;
}

function gotLine(trips: Trip[], x: Scale, y: Scale, width: number): string {
  const got = trips.flatMap((trip) =>
    trip.got_level === null || trip.got_time_s === null ? [] : [{ level: trip.got_level, time_s: trip.got_time_s }],
  );
  return got.length === 0 ? "" : steps(got, x, y, width);
}
