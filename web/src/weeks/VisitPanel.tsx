import { Button, Input } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../shared/api/types";
import { calendarUrl } from "../shared/api/urls";
import { longDay } from "../shared/lib/figures";
import { say } from "../words/say";

interface VisitPanelProps {
  visit: Schemas["BoardVisit"];
  mayPlan: boolean;
  move: (day: string) => void;
  propose: () => void;
  close: () => void;
}

/** One visit: who, what clashes, moved by a typed day or as proposed. */
export function VisitPanel({ visit, mayPlan, move, propose, close }: VisitPanelProps) {
  const [day, setDay] = useState(visit.day);
  return (
    <section className="week-panel" aria-label={say("weeks.this_visit")}>
      <header className="rail-head">
        <h2>{visit.name}</h2>
        <button type="button" className="quiet" onClick={close}>
          {say("weeks.close")}
        </button>
      </header>
      <p>
        {say("weeks.to_2", {
          day: longDay(visit.day),
          begins: visit.begins,
          ends: visit.ends,
          peopleCount: visit.people.length > 0 && `, ${visit.people.join(", ")}`,
          number: visit.number === null && say("weeks.the_jobs_own_day_no_visit"),
        })}
      </p>
      {!visit.permit && <p className="source">{say("weeks.no_permit_on_file_yet")}</p>}
      {visit.clashes.map((said) => (
        <p key={said} className="reason reason-stop">
          {said}
        </p>
      ))}
      <div className="object-do">
        {mayPlan && (
          <>
            <label className="entry">
              <span className="entry-label">{say("common.day")}</span>
              <Input type="date" value={day} onChange={(event) => setDay(event.target.value)} />
            </label>
            <Button type="primary" onClick={() => move(day)}>
              {visit.number === null ? say("weeks.plan_it_there") : say("common.put_it_there")}
            </Button>
            <Button onClick={propose}>{say("weeks.propose_days_for_this_job")}</Button>
          </>
        )}
        <Link className="quiet" to={`/jobs/${visit.job}/day`}>
          {say("weeks.its_day")}
        </Link>
        {visit.people.map((one) => (
          <a key={one} className="quiet" href={calendarUrl(one)}>
            {say("weeks.calendar_of", { one })}
          </a>
        ))}
      </div>
    </section>
  );
}
