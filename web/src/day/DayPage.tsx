import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api } from "../shared/api/calls";
import type { Schemas } from "../shared/api/types";
import { dayFileUrl } from "../shared/api/urls";
import { useEdit } from "../shared/api/useJobWrite";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { Faces } from "../shared/layout/Faces";
import { StageFrame, type StageProps } from "../shared/layout/StageFrame";
import { longDay } from "../shared/lib/figures";
import { useNarrow } from "../shared/lib/useNarrow";
import { DayLanes } from "./DayLanes";
import { DayNotes, NextTasks } from "./DayNotes";
import { DaySettings } from "./DaySettings";
import { TaskList } from "./TaskList";
import { TaskPanel } from "./TaskPanel";
import { rich, say } from "../words/say";
import "./day.css";

const GOALS = ["shortest", "fewest_visits", "least_waiting"] as const;
// What was read meanwhile is seen, and now moves on.
const LOOK_AGAIN_MS = 60_000;

/** The day: the work laid along the sun, for the crew, over the visits. */
export default function DayPage({ jobId, view }: StageProps) {
  const [goal, setGoal] = useState<(typeof GOALS)[number]>("shortest");
  const [asPlanned, setAsPlanned] = useState(false);
  const [chosen, setChosen] = useState<string | null>(null);
  const [moved, setMoved] = useState<Schemas["MovedIn"][]>([]);
  const edit = useEdit(jobId);
  const isNarrow = useNarrow();
  const laid = useQuery({
    queryKey: ["day", jobId, view.revision, goal, asPlanned],
    queryFn: () => api.day(jobId, goal, !asPlanned),
    staleTime: LOOK_AGAIN_MS,
    refetchInterval: LOOK_AGAIN_MS,
    placeholderData: keepPreviousData,
  });
  // A good plan stands while the best is sought.
  const isSought = laid.isPending || laid.isPlaceholderData;
  const atOnce = useQuery({
    queryKey: ["day-at-once", jobId, view.revision, goal, asPlanned],
    queryFn: () => api.day(jobId, goal, !asPlanned, true),
    enabled: isSought,
  });
  const best = isSought ? (atOnce.data ?? laid.data) : laid.data;
  const tried = useQuery({
    queryKey: ["day", jobId, view.revision, goal, asPlanned, moved],
    queryFn: () => api.tryDay(jobId, { goal: goal, moved, from_now: !asPlanned }),
    enabled: moved.length > 0,
    placeholderData: keepPreviousData,
  });
  const isNowhere = !isSought && laid.data !== undefined && laid.data.tasks.every((one) => one.start_min === null);
  const relax = useQuery({
    queryKey: ["day-relax", jobId, view.revision, asPlanned],
    queryFn: () => api.dayRelax(jobId, !asPlanned),
    enabled: isNowhere && laid.data.tasks.length > 0,
  });
  const day = moved.length > 0 ? (tried.data ?? best) : best;
  const move = (task: string, start: number) =>
    setMoved([...moved.filter((one) => one.task !== task), { task, start_min: start }]);
  const task = day?.tasks.find((one) => one.id === chosen);
  const isBegun = asPlanned || day?.now_min != null;
  return (
    <StageFrame
      title={say("day.the_day")}
      about={day?.line ?? say("day.laying_the_day")}
      aside={day !== undefined && day.bound !== "" ? say("day.no_plan_ends_before", { bound: day.bound }) : ""}
      caution={say("day.times_are_first_guesses_of_the")}
      rail={
        <>
          {task !== undefined && day !== undefined && (
            <TaskPanel
              key={`${task.id} ${task.start_min}`}
              task={task}
              day={day}
              keep={(visit, at) => {
                setMoved([]);
                edit.mutate({ do: "move_task", task: task.id, visit, at, reason: "" });
              }}
              free={() => {
                setMoved([]);
                edit.mutate({ do: "move_task", task: task.id, visit: 1, at: "", reason: "" });
              }}
            />
          )}
          <ProblemNote error={edit.error} />
          {day !== undefined && !isNarrow && <NextTasks day={day} choose={setChosen} />}
          {day !== undefined && <DayNotes day={day} choose={setChosen} />}
          <DaySettings jobId={jobId} view={view} />
        </>
      }
    >
      {day !== undefined && isNarrow && <NextTasks day={day} choose={setChosen} />}
      <div className="faces">
        <Faces faces={GOALS} face={goal} show={setGoal} />
        {moved.length > 0 && (
          <button type="button" className="quiet" onClick={() => setMoved([])}>
            {say("day.as_it_was_laid")}
          </button>
        )}
        {isBegun && (
          <button type="button" className="quiet" onClick={() => setAsPlanned(!asPlanned)}>
            {asPlanned ? say("day.lay_the_rest_from_now") : say("day.as_it_was_in_the_morning")}
          </button>
        )}
      </div>
      {day !== undefined && day.late !== "" && (
        <p className="day-late" role="status">
          {day.late}
        </p>
      )}
      <ProblemNote error={laid.error ?? tried.error} />
      {day !== undefined && day.broken.length > 0 && (
        <ul className="day-broken" role="alert" aria-label={say("day.what_breaks")}>
          {day.broken.map((one, index) => (
            <li key={`${one.rule}-${index}`}>{one.said}</li>
          ))}
        </ul>
      )}
      {day !== undefined && day.nowhere.length > 0 && (
        <ul className="day-broken" aria-label={say("day.what_does_not_fit")}>
          {day.nowhere.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
      )}
      {relax.isLoading && <p className="source">{say("day.looking_for_what_would_let_it")}</p>}
      {relax.data !== undefined && relax.data.length > 0 && <WouldFit changes={relax.data} />}
      {relax.data?.length === 0 && (day?.people.length ?? 0) > 0 && (
        <p className="source">{say("day.no_single_change_was_found_that")}</p>
      )}
      {day !== undefined && day.later.length > 0 && (
        <p className="day-late">{say("day.for_a_visit_with_the_inverter", { later: day.later.join(" · ") })}</p>
      )}
      {day?.visits.map((visit, number) => (
        <section key={visit.day} aria-label={longDay(visit.day)} className="day-visit">
          <h2>
            {longDay(visit.day)}
            {visit.travel_min > 0 && (
              <small> {say("day.min_on_the_way_before", { travel_min: visit.travel_min })}</small>
            )}
          </h2>
          <DayLanes day={day} number={number} chosen={chosen} choose={setChosen} move={move} />
          <TaskList day={day} number={number} chosen={chosen} choose={setChosen} />
        </section>
      ))}
      <p className="object-do day-files">
        <a className="quiet" href={dayFileUrl(jobId, "sheet")}>
          {say("day.day_sheet_a4")}
        </a>
        <a className="quiet" href={dayFileUrl(jobId, "tasks")}>
          {say("day.tasks_as_csv")}
        </a>
        <a className="quiet" href={dayFileUrl(jobId, "calendar")}>
          {say("day.calendar_file")}
        </a>
        <Link className="quiet" to="/weeks">
          {say("day.weeks_of_the_crew")}
        </Link>
      </p>
    </StageFrame>
  );
}

/** Single changes that would let the days fit, and what then lies on a further visit. */
function WouldFit({ changes }: { changes: Schemas["Relax"][] }) {
  return (
    <section className="day-relax">
      <h2>{say("day.what_would_let_it_fit")}</h2>
      <ul aria-label={say("day.what_would_let_it_fit")}>
        {changes.map((one) => (
          <li key={one.what}>
            {rich("day.done_2", { what: <b>{one.what}</b>, ends: one.ends })}

            {one.goes.length > 0 && (
              <span className="source"> {say("day.on_the_further_visit", { goes: one.goes.join(" · ") })}</span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
