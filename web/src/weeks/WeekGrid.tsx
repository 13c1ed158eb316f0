import { useState, type KeyboardEvent } from "react";
import type { Schemas } from "../shared/api/types";
import { longDay } from "../shared/lib/figures";
import { plusDays, shortDay } from "./days";
import { say } from "../words/say";

interface WeekGridProps {
  board: Schemas["Board"];
  chosen: string | null;
  choose: (visit: string) => void;
  move: (visit: Schemas["BoardVisit"], day: string) => void;
}

const DAYS_A_WEEK = 7;

/** One row for who works together, one column for a day, seven columns under each other; visits move by drag or keys. */
export function WeekGrid({ board, chosen, choose, move }: WeekGridProps) {
  const [held, setHeld] = useState<string | null>(null);
  const weeks = Array.from({ length: Math.ceil(board.days.length / DAYS_A_WEEK) }, (_, week) =>
    board.days.slice(week * DAYS_A_WEEK, (week + 1) * DAYS_A_WEEK),
  );
  const keys = (event: KeyboardEvent, visit: Schemas["BoardVisit"]) => {
    const by = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -DAYS_A_WEEK, ArrowDown: DAYS_A_WEEK }[event.key] ?? 0;
    if (by !== 0) {
      event.preventDefault();
      move(visit, plusDays(visit.day, by));
    }
  };
  return (
    <>
      {weeks.map((days) => (
        <div
          key={days[0]}
          className="week"
          role="grid"
          aria-label={say("weeks.week_of", { day: longDay(days[0] ?? "") })}
        >
          <div role="row" className="week-row">
            <span role="columnheader" className="week-corner">
              {say("common.who_2")}
            </span>
            {days.map((day) => {
              const { name, number } = shortDay(day);
              return (
                <span key={day} role="columnheader" className={`week-day${day === board.today ? " week-today" : ""}`}>
                  {name} <b>{number}</b>
                </span>
              );
            })}
          </div>
          {board.lanes
            .filter((people) => inUse(board, people, days))
            .map((people) => {
              const lane = people.join(" · ");
              return (
                <div key={lane} role="row" className="week-row">
                  <b role="rowheader" className="week-who">
                    {people.length === 0 ? say("weeks.nobody_named") : lane}
                  </b>
                  {days.map((day) => {
                    const own = board.visits.filter((one) => one.day === day && one.people.join(" · ") === lane);
                    const away = board.absences.filter(
                      (one) => people.includes(one.who) && one.first <= day && day <= one.last,
                    );
                    return (
                      <div
                        key={`${lane} ${day}`}
                        className="week-cell"
                        role="gridcell"
                        tabIndex={-1}
                        onDragOver={(event) => event.preventDefault()}
                        onDrop={() => {
                          const visit = board.visits.find((one) => one.id === held);
                          if (visit !== undefined && visit.day !== day) move(visit, day);
                          setHeld(null);
                        }}
                      >
                        <span className="unseen">
                          {lane}, {longDay(day)}
                        </span>
                        {own.map((one) => (
                          <button
                            key={one.id}
                            type="button"
                            draggable
                            onDragStart={() => setHeld(one.id)}
                            className={`week-visit${one.clashes.length > 0 ? " week-clash" : ""}${one.number === null ? " week-open" : ""}${one.done ? " week-done" : ""}`}
                            aria-pressed={one.id === chosen}
                            onClick={() => choose(one.id)}
                            onKeyDown={(event) => keys(event, one)}
                          >
                            <b>{one.name}</b>
                            <small className="week-visit-day">{longDay(one.day)}</small>
                            <small>
                              {one.number === null ? say("weeks.no_visit_planned") : `${one.begins}–${one.ends}`}
                              {one.done && say("weeks.signed")}
                            </small>
                            {one.comes.map((said) => (
                              <small key={said} className="week-goods">
                                {said}
                              </small>
                            ))}
                          </button>
                        ))}
                        {away.map((one) => (
                          <span key={one.number} className="week-away">
                            {say("weeks.away_2", { who: one.who })}
                          </span>
                        ))}
                      </div>
                    );
                  })}
                </div>
              );
            })}
        </div>
      ))}
    </>
  );
}

/** Whether anything lies in a lane on these days: a visit, or somebody of it away. */
function inUse(board: Schemas["Board"], people: string[], days: string[]): boolean {
  const [first = "", last = ""] = [days[0], days.at(-1)];
  return (
    board.visits.some((one) => one.people.join() === people.join() && first <= one.day && one.day <= last) ||
    board.absences.some((one) => people.includes(one.who) && one.first <= last && first <= one.last)
  );
}
