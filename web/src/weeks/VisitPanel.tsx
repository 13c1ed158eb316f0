import { Button, Input } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../shared/api/types";
import { calendarUrl } from "../shared/api/urls";
import { longDay } from "../shared/lib/figures";

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
    <section className="week-panel" aria-label="This visit">
      <header className="rail-head">
        <h2>{visit.name}</h2>
        <button type="button" className="quiet" onClick={close}>
          close
        </button>
      </header>
      <p>
        {longDay(visit.day)}, {visit.begins} to {visit.ends}
        {visit.people.length > 0 && `, ${visit.people.join(", ")}`}
        {visit.number === null && ": the job’s own day, no visit is planned"}
      </p>
      {!visit.permit && <p className="source">No permit on file yet.</p>}
      {visit.clashes.map((said) => (
        <p key={said} className="reason reason-stop">
          {said}
        </p>
      ))}
      <div className="object-do">
        {mayPlan && (
          <>
            <label className="entry">
              <span className="entry-label">Day</span>
              <Input type="date" value={day} onChange={(event) => setDay(event.target.value)} />
            </label>
            <Button type="primary" onClick={() => move(day)}>
              {visit.number === null ? "Plan it there" : "Put it there"}
            </Button>
            <Button onClick={propose}>Propose days for this job</Button>
          </>
        )}
        <Link className="quiet" to={`/jobs/${visit.job}/day`}>
          its day
        </Link>
        {visit.people.map((one) => (
          <a key={one} className="quiet" href={calendarUrl(one)}>
            calendar of {one}
          </a>
        ))}
      </div>
    </section>
  );
}
