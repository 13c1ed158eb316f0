import type { FeedStage } from "../../shared/api/types";
import { figure } from "../../shared/lib/figures";
import { say } from "../../words/say";
import "./EndPicture.css";

type End = FeedStage["ends"][number];

const WIDTH_PX = 366;
const CORE_PX = 26;
const JACKET_PX = 78;
const CORES_TO_PX = 152;
const STRIP_PX = 34;
const THICK_PX = 11;
const LONGER_PX = 26;

/** One end as it is made: jacket, cores in their colours, bare ends, the protective core longest. */
export function EndPicture({ end }: { end: End }) {
  const height = end.cores.length * CORE_PX + 26;
  const middle = (end.cores.length * CORE_PX) / 2 + 4;
  const longer = end.cores.find((core) => core.longer_mm > 0);
  return (
    <svg
      className="end-picture"
      width={WIDTH_PX}
      height={height}
      role="img"
      aria-label={say("feed.end", {
        end: end.name,
        cores: end.cores.map((core) => `${core.conductor} ${core.colour}`).join(", "),
      })}
    >
      <rect
        className="end-jacket"
        x={1}
        y={middle - (end.cores.length * CORE_PX) / 2}
        width={JACKET_PX}
        height={end.cores.length * CORE_PX}
      />
      <text x={JACKET_PX / 2} y={middle + 5} textAnchor="middle" className="end-cable">
        {end.cable}
      </text>
      {end.cores.map((core, index) => {
        const y = 4 + CORE_PX * (index + 0.5);
        const to = CORES_TO_PX + (core.longer_mm > 0 ? LONGER_PX : 0);
        const [ink, stripe] = core.inks;
        return (
          <g key={core.conductor}>
            <rect
              className="end-core"
              x={JACKET_PX}
              y={y - THICK_PX / 2}
              width={to - JACKET_PX}
              height={THICK_PX}
              fill={ink}
            />
            {stripe !== undefined && <rect x={JACKET_PX} y={y - 2} width={to - JACKET_PX} height={4} fill={stripe} />}
            <rect className="end-bare" x={to} y={y - 3} width={STRIP_PX} height={6} />
            <text x={to + STRIP_PX + 6} y={y + 5}>
              <tspan className="strong">{core.conductor}</tspan> {core.colour}
            </text>
          </g>
        );
      })}
      <text className="soft" x={0} y={height - 3}>
        {end.strip_mm === null
          ? say("feed.strip_as_the_sheet_says")
          : say("feed.strip", { strip_mm: figure(end.strip_mm, "mm") })}
        {longer !== undefined && say("feed.pe_longer", { longer_mm: figure(longer.longer_mm, "mm") })}
      </text>
    </svg>
  );
}
