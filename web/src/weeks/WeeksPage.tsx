import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { useSession } from "../people/useSession";
import { useStop } from "../shared/api/stopping";
import { Working } from "../shared/fields/Working";
import { api } from "../shared/api/calls";
import type { Schemas } from "../shared/api/types";
import { calendarUrl } from "../shared/api/urls";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { longDay } from "../shared/lib/figures";
import { Absences } from "./Absences";
import { plusDays } from "./days";
import { Proposals } from "./Proposals";
import { WeekGrid } from "./WeekGrid";
import { VisitPanel } from "./VisitPanel";
import { say } from "../words/say";
import "./weeks.css";

const WEEKS = 3;
const DAYS_A_WEEK = 7;

/** Weeks of the crew: every visit of every job, what clashes, who is away. */
export default function WeeksPage() {
  const client = useQueryClient();
  const { may } = useSession();
  const [first, setFirst] = useState<string | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const weeks = useQuery({ queryKey: ["weeks", first], queryFn: () => api.weeks(first, WEEKS), staleTime: 0 });
  const board = weeks.data;
  const start = board?.days[0];
  const again = () => client.invalidateQueries({ queryKey: ["weeks"] });
  const move = useMutation({
    mutationFn: async ({ visit, day }: { visit: Schemas["BoardVisit"]; day: string }) => {
      const { revision } = await api.job(visit.job);
      await api.edit(visit.job, revision, { do: "move_visit", number: visit.number, day });
    },
    onSettled: again,
  });
  const { begun, stop } = useStop();
  const propose = useMutation({
    mutationFn: (jobs: string[]) => api.proposeVisits(jobs, start ?? "", begun()),
  });
  const visit = board?.visits.find((one) => one.id === chosen);
  return (
    <main className="weeks">
      <header className="shelf-head">
        <Link to="/" className="brand">
          {say("common.long_noon")}
        </Link>
        <h1>{say("weeks.weeks")}</h1>
        <a className="quiet" href={calendarUrl("")}>
          {say("weeks.calendar_of_all")}
        </a>
      </header>
      <ProblemNote error={weeks.error ?? move.error ?? propose.error} />
      {weeks.isPending && <p className="nothing">{say("weeks.opening_the_weeks")}</p>}
      {board !== undefined && start !== undefined && (
        <>
          <div className="weeks-tools">
            <button type="button" className="quiet" onClick={() => setFirst(plusDays(start, -DAYS_A_WEEK))}>
              {say("weeks.a_week_back")}
            </button>
            <b>{say("weeks.to_3", { start: longDay(start), days: longDay(board.days.at(-1) ?? start) })}</b>
            <button type="button" className="quiet" onClick={() => setFirst(plusDays(start, DAYS_A_WEEK))}>
              {say("weeks.a_week_on")}
            </button>
            {may("plan") && (
              <Button loading={propose.isPending} onClick={() => propose.mutate([])}>
                {say("weeks.propose_days_for_what_clashes_or")}
              </Button>
            )}
            <Working is={propose.isPending} doing={say("weeks.laying_the_visits")} stop={stop} />
          </div>
          {board.clashes.length > 0 && (
            <ul className="week-clashes" aria-label={say("weeks.what_clashes")}>
              {board.clashes.map((one, index) => (
                <li key={`${one.rule} ${one.visit} ${index}`}>
                  <button type="button" className="quiet" onClick={() => setChosen(one.visit)}>
                    {one.said}
                  </button>
                </li>
              ))}
            </ul>
          )}
          {propose.data !== undefined && (
            <Proposals proposal={propose.data} taken={() => void again()} close={() => propose.reset()} />
          )}
          {visit !== undefined && (
            <VisitPanel
              key={`${visit.id} ${visit.day}`}
              visit={visit}
              mayPlan={may("plan")}
              move={(day) => move.mutate({ visit, day })}
              propose={() => propose.mutate([visit.job])}
              close={() => setChosen(null)}
            />
          )}
          <WeekGrid
            board={board}
            chosen={chosen}
            choose={setChosen}
            move={(one, day) => {
              if (may("plan")) move.mutate({ visit: one, day });
            }}
          />
          <Absences board={board} mayPlan={may("plan")} changed={() => void again()} />
        </>
      )}
    </main>
  );
}
