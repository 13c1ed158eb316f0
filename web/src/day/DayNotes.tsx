import type { Schemas } from "../shared/api/types";
import { figure, longDay } from "../shared/lib/figures";
import { clockOf } from "./clockOf";
import { rich, say } from "../words/say";

interface DayNotesProps {
  day: Schemas["DayView"];
  choose: (task: string) => void;
}

/** Beside the lanes: what must not slip, what lies before and after the day, own times. */
export function DayNotes({ day, choose }: DayNotesProps) {
  return (
    <>
      {day.slips.length > 0 && (
        <section aria-label={say("day.what_must_not_slip")} className="day-note">
          <header className="rail-head">
            <h2>{say("day.must_not_slip")}</h2>
          </header>
          <ul className="crew">
            {day.slips.map((one) => (
              <li key={one.task} className="next-task slip-line">
                <button type="button" className="quiet" onClick={() => choose(one.task)}>
                  {one.said}
                </button>
                <span>{say("day.min_of_room", { room_min: one.room_min })}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <section aria-label={say("day.before_and_after")} className="day-note">
        <header className="rail-head">
          <h2>{say("day.before_and_after")}</h2>
        </header>
        <ul className="crew errands">
          {day.errands.map((one) => (
            <li key={one.id} className={one.done ? "errand-done" : ""}>
              <span>
                {one.label}
                <small>
                  {one.done ? say("day.done") : say("day.by", { due: longDay(one.due) })} · {one.minutes} min
                </small>
              </span>
            </li>
          ))}
        </ul>
      </section>
      {day.times.length > 0 && (
        <section aria-label={say("day.your_own_times")} className="day-note">
          <header className="rail-head">
            <h2>{say("day.your_own_times")}</h2>
          </header>
          <ul className="crew errands">
            {day.times.map((one) => (
              <li key={one.kind}>
                <span>
                  {rich("day.each", {
                    label: one.label,
                    each_min: figure(one.each_min, "min"),
                    low_min: (
                      <small>
                        {say("day.half_of_them_to_seen_times", {
                          low_min: figure(one.low_min, "min"),
                          high_min: figure(one.high_min, "min"),
                          seen: one.seen,
                        })}
                      </small>
                    ),
                  })}
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
    <section aria-label={say("day.next_for_each")}>
      <header className="rail-head">
        <h2>{say("common.next")}</h2>
        {now !== null && <span>{clockOf(now)}</span>}
      </header>
      <ul className="crew">
        {day.people.map((person) => {
          const task = next(person.id);
          return (
            <li key={person.id} className="next-task">
              <b>{person.id}</b>
              {task === undefined ? (
                <span>{say("common.nothing")}</span>
              ) : (
                <button type="button" className="quiet" onClick={() => choose(task.id)}>
                  {task.clock} {task.label}
                </button>
              )}
            </li>
          );
        })}
      </ul>
      {day.people.length === 0 && <p className="source">{say("day.nobody_is_on_this_job_yet")}</p>}
    </section>
  );
}
