import { useQuery } from "@tanstack/react-query";
import { api } from "../../shared/api/calls";
import type { Wall } from "../../shared/api/types";
import { linear } from "../../shared/draw/scale";
import { useWidth } from "../../shared/draw/useWidth";
import { figure } from "../../shared/lib/figures";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { say } from "../../words/say";
import "./WallSun.css";

const HEIGHT_PX = 230;
const TOP_PX = 22;
const UNDER_PX = 26;
const LEFT_PX = 40;
const GAP_PX = 8;
const LEAST_HOURS = 8;
const MONTHS = [
  say("hang.jan"),
  say("hang.feb"),
  say("hang.mar"),
  say("hang.apr"),
  say("hang.may"),
  say("hang.jun"),
  say("hang.jul"),
  say("hang.aug"),
  say("hang.sep"),
  say("hang.oct"),
  say("hang.nov"),
  say("hang.dec"),
];

/** Hours of direct sun on the wall by month, at the inverter's middle, under the eave. */
export function WallSun({ jobId, wall, whyAll }: { jobId: string; wall: Wall; whyAll: boolean }) {
  const [ref, width] = useWidth(820);
  const sun = useQuery({ queryKey: ["wall-sun", jobId, wall], queryFn: () => api.wallSun(jobId) });
  if (sun.isError) return <ProblemNote error={sun.error} />;
  if (sun.data === undefined) return <p className="source">{say("hang.following_the_sun_around_the_house")}</p>;
  const { months, judgement, hottest } = sun.data;
  const most = Math.max(LEAST_HOURS, ...months.map((one) => one.hours));
  const up = linear([0, most], [HEIGHT_PX - UNDER_PX, TOP_PX]);
  const step = (width - LEFT_PX) / months.length;
  return (
    <>
      <div ref={ref} className="picture">
        <svg width={width} height={HEIGHT_PX}>
          <title>{say("hang.direct_sun_on_the_wall_hours")}</title>
          {judgement.limit !== null && (
            <>
              <path className="start" d={`M${LEFT_PX} ${up(judgement.limit)}H${width}`} />
              <text className="tick" x={0} y={up(judgement.limit) + 5}>
                {figure(judgement.limit, "h", 0)}
              </text>
            </>
          )}
          {months.map((one, index) => (
            <g key={one.month}>
              <rect
                className={one.month === hottest ? "sun-bar sun-most" : "sun-bar"}
                x={LEFT_PX + index * step}
                y={up(one.hours)}
                width={step - GAP_PX}
                height={up(0) - up(one.hours)}
              />
              <text
                className="tick strong haloed"
                x={LEFT_PX + index * step + (step - GAP_PX) / 2}
                y={up(one.hours) - 5}
                textAnchor="middle"
              >
                {figure(one.hours, "", 1)}
              </text>
              <text
                className="tick"
                x={LEFT_PX + index * step + (step - GAP_PX) / 2}
                y={HEIGHT_PX - 7}
                textAnchor="middle"
              >
                {MONTHS[one.month - 1]}
              </text>
            </g>
          ))}
          <path className="axis" d={`M${LEFT_PX} ${up(0)}H${width}`} />
        </svg>
      </div>
      <p className="source">
        {say("hang.hours_of_direct_sun_on_the", {
          azimuth_deg: figure(wall.azimuth_deg, "°", 0),
          eave_mm: figure(wall.eave_mm, "mm", 0),
        })}
      </p>
      <JudgementList judgements={[judgement]} allOpen={whyAll} />
    </>
  );
}
