import type { ReactNode } from "react";
import { Link } from "react-router";
import type { JobView } from "../shared/api/types";
import { useSun } from "../shared/api/useSun";
import { clock, figure, longDay } from "../shared/lib/figures";
import { Arc } from "./Arc";
import { say } from "../words/say";
import "./JobHead.css";

interface JobHeadProps {
  jobId: string;
  view: JobView;
  here: number;
  /** What comes next, where there is room for it. */
  children: ReactNode;
}

/** The top of every stage: the job, the sun's arc with the stages, the sun now, and what comes next. */
export function JobHead({ jobId, view, here, children }: JobHeadProps) {
  const { assessment, plan } = view;
  return (
    <header className="job-head">
      <div className="job-name">
        <Link to="/" className="brand">
          {say("common.long_noon")}
        </Link>
        <strong>{assessment.name}</strong>
        <span>
          {plan.site.place} · <Link to={`/jobs/${jobId}/day`}>{say("app.the_day")}</Link>
        </span>
      </div>
      <Arc jobId={jobId} stages={assessment.stages} here={here} />
      <SunNow jobId={jobId} timezone={plan.site.timezone} />
      {children}
    </header>
  );
}

/** A moment begins with its day. */
const ISO_DAY = 10;

const POLAR = { day: say("app.does_not_set_today"), night: say("app.does_not_rise_today") };

function SunNow({ jobId, timezone }: { jobId: string; timezone: string }) {
  const sun = useSun(jobId);
  if (sun.data === undefined) return <div className="sun-now" />;
  const { now, noon, sunset, polar, planes } = sun.data;
  const lit = planes.filter((plane) => plane.irradiance_w_per_m2 >= 1);
  return (
    <div className="sun-now">
      <b>{clock(now, timezone)}</b>
      <span className="on-paper">{longDay(now.slice(0, ISO_DAY))}</span>
      <span>
        {say("app.solar_noon", {
          noon: clock(noon, timezone),
          sunset: sunset !== null && say("app.sun_to", { sunset: clock(sunset, timezone) }),
          polar: polar !== "" && ` · ${POLAR[polar]}`,
        })}
      </span>
      <span className="sun-planes">
        {lit.length === 0
          ? say("app.the_sun_is_down")
          : say("app.clear_sky", {
              lit: lit.map((plane) => `${plane.name} ${figure(plane.irradiance_w_per_m2, "W/m²", 0)}`).join(", "),
            })}
      </span>
    </div>
  );
}
