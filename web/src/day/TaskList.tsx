import type { Schemas } from "../shared/api/types";
import { clockOf } from "./clockOf";
import { say } from "../words/say";

interface TaskListProps {
  day: Schemas["DayView"];
  number: number;
  chosen: string | null;
  choose: (task: string) => void;
}

/** The tasks of a visit in their order; the numbers are those in the lanes. */
export function TaskList({ day, number, chosen, choose }: TaskListProps) {
  const own = ofVisit(day, number);
  if (own.length === 0) return <p className="source">{say("day.nothing_lies_on_this_visit")}</p>;
  return (
    <ol className="task-list">
      {own.map((one) => (
        <li key={one.id}>
          <button type="button" aria-pressed={chosen === one.id} onClick={() => choose(one.id)}>
            <b>{clockOf(one.start_min ?? 0)}</b>
            <span>
              {one.label}
              <small>{[`${one.minutes} min`, ...one.people].join(" · ")}</small>
            </span>
          </button>
        </li>
      ))}
    </ol>
  );
}

/** The tasks that lie on a visit, by when they begin. */
export function ofVisit(day: Schemas["DayView"], number: number): Schemas["TaskLine"][] {
  return day.tasks
    .filter((one) => one.visit === number && one.start_min !== null)
    .sort((a, b) => (a.start_min ?? 0) - (b.start_min ?? 0) || a.id.localeCompare(b.id));
}
