import { Link } from "react-router";
import { leadAddress, stageAddress } from "../shared/lib/stageSlugs";
import type { JobLine, StageStanding } from "../shared/api/types";
import { longDay } from "../shared/lib/figures";
import { Mark, MarkShape } from "../shared/marks/Mark";
import { Along } from "./Along";
import { rich, say } from "../words/say";
import "./DayLine.css";

const WIDTH = 360;
const HEIGHT = 120;
const BASE = 104;

/** The arc shows how every stage stands; in words stands only what holds the day up. */
const HOLDS_UP = "stop";

/** Jobs as days on one line, the sun's arc over each. */
export function DayLine({ jobs }: { jobs: JobLine[] }) {
  const today = new Date().toISOString().slice(0, 10);
  return (
    <ol className="day-line">
      {jobs.map((job) => (
        <li key={job.id}>
          <Day job={job} isToday={job.day === today} />
          {job.next !== null && (
            <Link className="day-go" to={leadAddress(job.id, job.next.lead)}>
              <span className="day-label">{say("common.next")}</span> {job.next.does}
            </Link>
          )}
          <Along job={job} />
        </li>
      ))}
    </ol>
  );
}

function Day({ job, isToday }: { job: JobLine; isToday: boolean }) {
  const standing = job.stages.find((stage) => stage.number === job.stands_at);
  return (
    <Link className="day" to={stageAddress(job.id, job.stands_at)}>
      <span className="day-date">
        {longDay(job.day)}
        {isToday && <b> {say("home.today")}</b>}
      </span>
      <DayArc stages={job.stages} here={job.stands_at} />
      <strong>{job.name}</strong>
      <span className="day-place">
        {job.place} · {job.equipment}
      </span>
      <span className="day-standing">
        <Mark verdict={job.verdict} /> {rich("home.stands_at", { title: <b>{standing?.title}</b> })}
      </span>
      {job.blocks.length > 0 && (
        <span className="day-blocks">
          <span className="day-label">{say("home.blocked_by")}</span> {job.blocks[0]}
        </span>
      )}
      {job.look_due !== "" && (
        <span className="day-next">
          <span className="day-label">{say("home.look_again")}</span> {job.look_due}
        </span>
      )}
      {job.inverters.length > 0 && (
        <ul className="day-inverters">
          {job.inverters.map((one) => (
            <li key={one.id}>
              <b>{one.name}</b> <Mark verdict={one.verdict} />
            </li>
          ))}
        </ul>
      )}
      <ul className="day-stages">
        {job.stages
          .filter((stage) => stage.number !== job.stands_at && stage.verdict === HOLDS_UP)
          .map((stage) => (
            <li key={stage.number}>
              <b>{stage.title}</b> <Mark verdict={stage.verdict} /> <Why stage={stage} />
            </li>
          ))}
      </ul>
    </Link>
  );
}

function DayArc({ stages, here }: { stages: StageStanding[]; here: number }) {
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="day-arc" aria-hidden="true">
      <path className="day-sky" d={`M20 ${BASE}A160 88 0 0 1 340 ${BASE}Z`} />
      <line className="horizon" x1={0} x2={WIDTH} y1={BASE} y2={BASE} />
      {stages.map((stage, index) => {
        const angle = Math.PI * (1 - (index + 0.5) / stages.length);
        const x = 180 + 160 * Math.cos(angle);
        const y = BASE - 88 * Math.sin(angle);
        if (stage.number === here) return <circle key={stage.number} className="here" cx={x} cy={y} r={11} />;
        return <MarkShape key={stage.number} verdict={stage.verdict} x={x} y={y} size={13} />;
      })}
    </svg>
  );
}

/** What blocks a stage, or what is next in it; nothing where it goes well. */
function Why({ stage }: { stage: JobLine["stages"][number] }) {
  const why = stage.verdict === "waiting" ? stage.next : (stage.blocks[0] ?? "");
  return why === "" ? null : <span className="day-why">{why}</span>;
}
