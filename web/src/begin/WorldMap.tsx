import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { mesh } from "topojson-client";
import type { Topology } from "topojson-specification";
import world from "world-atlas/countries-110m.json";
import { api } from "../shared/api/calls";
import { say } from "../words/say";
import "./WorldMap.css";

interface View {
  north: number;
  east: number;
  /** Degrees of longitude from side to side. */
  wide: number;
}

const WHOLE: View = { north: 20, east: 0, wide: 360 };
const SHAPE = 0.6;
const CLOSER = 4;
const CLOSEST = 3;
/** From here on towns are shown. */
const TOWNS_FROM = 60;
const NAMED = 7;
const EDGE = 180;

const within = (value: number, most: number) => Math.max(-most, Math.min(most, value));
const box = ({ north, east, wide }: View) => ({
  south: within(north - (wide * SHAPE) / 2, 90),
  north: within(north + (wide * SHAPE) / 2, 90),
  west: within(east - wide / 2, 180),
  east: within(east + wide / 2, 180),
});

/** The coasts and borders as one path, a degree to a unit. */
function outlines(): string {
  const atlas = world as unknown as Topology;
  const countries = atlas.objects["countries"];
  if (countries === undefined) return "";
  const { coordinates } = mesh(atlas, countries as never);
  // A border over the edge of the map is no line across it.
  const parts = coordinates.filter((line) =>
    line.every(([east = 0], at) => Math.abs(east - (line[at - 1]?.[0] ?? east)) < EDGE),
  );
  return parts.map((line) => `M${line.map(([east = 0, north = 0]) => `${east} ${-north}`).join("L")}`).join("");
}

/** A plain drawn map: each touch goes closer, the last one is the point. */
export default function WorldMap({ take }: { take: (north: number, east: number) => void }) {
  const [view, setView] = useState(WHOLE);
  const lines = useMemo(() => outlines(), []);
  const shown = box(view);
  const dots = useQuery({
    queryKey: ["dots", shown],
    queryFn: () => api.dots(shown),
    enabled: view.wide <= TOWNS_FROM,
    staleTime: Infinity,
  });
  const isClosest = view.wide <= CLOSEST;
  const touch = (event: React.MouseEvent<SVGSVGElement>) => {
    const { left, top, width, height } = event.currentTarget.getBoundingClientRect();
    const east = view.east + ((event.clientX - left) / width - 0.5) * view.wide;
    const north = view.north - ((event.clientY - top) / height - 0.5) * view.wide * SHAPE;
    if (isClosest) take(within(north, 90), within(east, 180));
    else setView({ north, east, wide: view.wide / CLOSER });
  };
  const unit = view.wide / 100;
  return (
    <div className="world">
      <svg
        viewBox={`${view.east - view.wide / 2} ${-view.north - (view.wide * SHAPE) / 2} ${view.wide} ${view.wide * SHAPE}`}
        role="img"
        aria-label={isClosest ? say("begin.map_touch_the_house") : say("begin.map_touch_to_go_closer")}
        onClick={touch}
      >
        <path d={lines} className="world-line" strokeWidth={unit * 0.25} />
        {(dots.data ?? []).map((dot, at) => (
          <g key={`${dot.name} ${dot.latitude_deg}`} transform={`translate(${dot.longitude_deg} ${-dot.latitude_deg})`}>
            <circle r={unit * 0.6} className="world-dot" />
            {at < NAMED && (
              <text x={unit} y={unit} fontSize={unit * 2.6} className="world-name">
                {dot.name}
              </text>
            )}
          </g>
        ))}
      </svg>
      <p className="world-do">
        {isClosest ? say("begin.touch_where_the_house_stands") : say("begin.touch_to_go_closer")}{" "}
        {view.wide < WHOLE.wide && (
          <button
            type="button"
            className="quiet"
            onClick={() => setView({ ...view, wide: Math.min(WHOLE.wide, view.wide * CLOSER) })}
          >
            {say("begin.further_away")}
          </button>
        )}
      </p>
    </div>
  );
}
