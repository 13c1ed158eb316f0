import type { Schemas } from "../shared/api/types";
import { figure, longDay } from "../shared/lib/figures";
import { clockOf } from "./clockOf";

interface DayNotesProps {
  day: Schemas["DayView"];
  choose: (task: string) => void;
}

/** Beside the lanes: what must not slip, what lies before and after the day, own times. */
export function DayNotes({ day, choose }: DayNotesProps) {
  return (
    <>
      {day.slips.length > 0 && (
        <section aria-label="What must not slip" className="day-note">
          <header className="rail-head">
            <h2>Must not slip</h2>
          </header>
          <ul className="crew">
            {day.slips.map((one) => (
              <li key={one.task} className="next-task slip-line">
                <button type="button" className="quiet" onClick={() => choose(one.task)}>
                  {one.said}
                </button>
                <span>{one.room_min} min of room</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <section aria-label="Before and after" className="day-note">
        <header className="rail-head">
          <h2>Before and after</h2>
        </header>
        <ul className="crew errands">
          {day.errands.map((one) => (
            <li key={one.id} className={one.done ? "errand-done" : ""}>
              <span>
                {one.label}
                <small>
                  {one.done ? "done" : `by ${longDay(one.due)}`} · {one.minutes} min
                </small>
              </span>
            </li>
          ))}
        </ul>
      </section>
      {day.times.length > 0 && (
        <section aria-label="Your own times" className="day-note">
          <header className="rail-head">
            <h2>Your own times</h2>
          </header>
          <ul className="crew errands">
            {day.times.map((one) => (
              <li key={one.kind}>
                <span>
                  {one.label}: {figure(one.each_min, "min")} each
                  <small>
                    half of them {figure(one.low_min, "min")} to {figure(one.high_min, "min")} · seen {one.seen} times
                  </small>
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

/** For each of the crew what comes next: what is under way, or what begins first from now on. */
export function NextTasks({ day, choose }: DayNotesProps) {
  const now = day.now_min;
  const next = (name: string) =>
    day.tasks
      .filter((one) => one.people.includes(name) && (now === null || (one.start_min ?? 0) + one.minutes > now))
      .sort((a, b) => (a.start_min ?? 0) - (b.start_min ?? 0))[0];
  return (
    <section aria-label="Next for each">
      <header className="rail-head">
        <h2>Next</h2>
        {now !== null && <span>{clockOf(now)}</span>}
      </header>
      <ul className="crew">
        {day.people.map((person) => {
          const task = next(person.id);
          return (
            <li key={person.id} className="next-task">
              <b>{person.id}</b>
              {task === undefined ? (
                <span>nothing</span>
              ) : (
                <button type="button" className="quiet" onClick={() => choose(task.id)}>
                  {task.clock} {task.label}
                </button>
              )}
            </li>
          );
        })}
      </ul>
      {day.people.length === 0 && <p className="source">Nobody is on this job yet: name the crew in Arrive.</p>}
    </section>
  );
}
