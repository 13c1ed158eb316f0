import { memo } from "react";
import { Link } from "react-router";
import type { StageStanding } from "../shared/api/types";
import { useWidth } from "../shared/draw/useWidth";
import { MarkShape } from "../shared/marks/Mark";
import { useNarrow } from "../shared/lib/useNarrow";
import { stageAddress } from "../shared/lib/stageSlugs";
import { say } from "../words/say";
import "./Arc.css";

const HEIGHT_PX = 104;
const NARROW_HEIGHT_PX = 76;
const LABEL_ROOM_PX = 42;
const SIDE_PX = 40;

interface ArcProps {
  jobId: string;
  stages: StageStanding[];
  here: number;
}

/** The sun's arc with the ten stages on it, in the order in which the work is done. */
export const Arc = memo(function Arc({ jobId, stages, here }: ArcProps) {
  const [ref, width] = useWidth(740);
  const narrow = useNarrow();
  const height = narrow ? NARROW_HEIGHT_PX : HEIGHT_PX;
  const side = narrow ? 20 : SIDE_PX;
  const base = height - (narrow ? 32 : LABEL_ROOM_PX);
  const place = (index: number) => {
    const share = index / (stages.length - 1);
    return { x: side + share * (width - 2 * side), y: base - Math.sin(share * Math.PI) * (base - 18) };
  };
  const line = stages
    .map((_, index) => place(index))
    .map(({ x, y }) => `${x},${y}`)
    .join(" ");
  return (
    <nav ref={ref} className="arc" aria-label={say("app.stages")}>
      <svg width={width} height={height}>
        <polyline className="sun-path" points={line} />
        {stages.map((stage, index) => {
          const { x, y } = place(index);
          return (
            <StagePoint
              key={stage.number}
              jobId={jobId}
              stage={stage}
              here={stage.number === here}
              x={x}
              y={y}
              narrow={narrow}
            />
          );
        })}
      </svg>
    </nav>
  );
});

interface StagePointProps {
  jobId: string;
  stage: StageStanding;
  here: boolean;
  x: number;
  y: number;
  narrow: boolean;
}

function StagePoint({ jobId, stage, here, x, y, narrow }: StagePointProps) {
  return (
    <Link
      to={stageAddress(jobId, stage.number)}
      aria-label={`${stage.title}, ${stage.verdict}`}
      aria-current={here ? "page" : undefined}
    >
      <rect className="touch" x={x - 22} y={y - 22} width={44} height={44} />
      {here ? <circle className="here" cx={x} cy={y} r={14} /> : <circle className="stop-point" cx={x} cy={y} r={11} />}
      {here ? (
        <text className="here-number" aria-hidden="true" x={x} y={y + 5} textAnchor="middle">
          {stage.number}
        </text>
      ) : (
        <MarkShape verdict={stage.verdict} x={x} y={y} size={9} />
      )}
      {(!narrow || here) && (
        <text className={here ? "label here-label" : "label"} x={x} y={y + (narrow ? 28 : 29)} textAnchor="middle">
          {stage.title}
        </text>
      )}
    </Link>
  );
}
