import { useMutation } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { api } from "../shared/api/calls";
import type { Schemas } from "../shared/api/types";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { longDay } from "../shared/lib/figures";
import { say } from "../words/say";

interface ProposalsProps {
  proposal: Schemas["Proposal"];
  taken: () => void;
  close: () => void;
}

const keyOf = (one: Schemas["Proposed"]) => `${one.job} ${one.number ?? ""}`;

/** Days proposed, taken one by one or all. */
export function Proposals({ proposal, taken, close }: ProposalsProps) {
  const [done, setDone] = useState<string[]>([]);
  const take = useMutation({
    mutationFn: async (lines: Schemas["Proposed"][]) => {
      for (const one of lines) {
        const { revision } = await api.job(one.job);
        await api.edit(one.job, revision, { do: "move_visit", number: one.number, day: one.day });
        setDone((before) => [...before, keyOf(one)]);
      }
    },
    onSettled: taken,
  });
  const left = proposal.visits.filter((one) => !done.includes(keyOf(one)));
  return (
    <section className="week-panel" aria-label={say("weeks.days_proposed")}>
      <header className="rail-head">
        <h2>{say("weeks.days_proposed")}</h2>
        <button type="button" className="quiet" onClick={close}>
          {say("weeks.close")}
        </button>
      </header>
      {proposal.visits.length === 0 && proposal.left.length === 0 && (
        <p>{say("weeks.nothing_clashes_and_every_job_has")}</p>
      )}
      <ul className="crew">
        {left.map((one) => (
          <li key={keyOf(one)} className="next-task visit-line">
            <span>
              <b>{one.name}</b>: {longDay(one.day)}
              {one.was !== one.day && say("weeks.instead_of", { was: longDay(one.was) })}
            </span>
            <Button onClick={() => take.mutate([one])} loading={take.isPending}>
              {say("common.take_it")}
            </Button>
          </li>
        ))}
      </ul>
      {proposal.left.length > 0 && (
        <p className="reason reason-stop">
          {say("weeks.no_room_in_six_weeks_for", { left: proposal.left.join(", ") })}
        </p>
      )}
      <ProblemNote error={take.error} />
      {left.length > 1 && (
        <Button type="primary" onClick={() => take.mutate(left)} loading={take.isPending}>
          {say("weeks.take_all", { leftCount: left.length })}
        </Button>
      )}
    </section>
  );
}
