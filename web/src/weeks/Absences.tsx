import { useMutation } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { api } from "../shared/api/calls";
import type { Schemas } from "../shared/api/types";
import { DraftField } from "../shared/fields/DraftField";
import { FileButton } from "../shared/fields/FileButton";
import { Pick } from "../shared/fields/Pick";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { rich, say } from "../words/say";

interface AbsencesProps {
  board: Schemas["Board"];
  mayPlan: boolean;
  changed: () => void;
}

/** Who is away: by hand, or the busy times of somebody's own calendar. */
export function Absences({ board, mayPlan, changed }: AbsencesProps) {
  const end = useMutation({ mutationFn: (number: number) => api.endAbsence(number), onSettled: changed });
  return (
    <section aria-label={say("weeks.who_is_away")} className="week-away-list">
      <header className="rail-head">
        <h2>{say("weeks.away")}</h2>
        <span>{board.absences.length === 0 ? say("weeks.nobody_in_these_weeks") : board.absences.length}</span>
      </header>
      <ul className="crew">
        {board.absences.map((one) => (
          <li key={one.number} className="next-task visit-line">
            <span>
              {rich("weeks.to", {
                who: <b>{one.who}</b>,
                begins: one.begins,
                ends: one.ends,
                what: one.what !== "" && `, ${one.what}`,
              })}

              {one.source !== "" && <small className="source"> {say("weeks.from", { source: one.source })}</small>}
            </span>
            {mayPlan && (
              <Button onClick={() => end.mutate(one.number)} loading={end.isPending}>
                {say("common.take_it_out")}
              </Button>
            )}
          </li>
        ))}
      </ul>
      <ProblemNote error={end.error} />
      {mayPlan && board.people.length > 0 && <SayAway board={board} changed={changed} />}
    </section>
  );
}

function SayAway({ board, changed }: Omit<AbsencesProps, "mayPlan">) {
  const [who, setWho] = useState(board.people[0] ?? "");
  const [first, setFirst] = useState(board.today);
  const [last, setLast] = useState(board.today);
  const [what, setWhat] = useState("");
  const keep = useMutation({
    mutationFn: () => api.keepAbsence({ who, first, last, begins: "00:00", ends: "", what }),
    onSuccess: changed,
  });
  const busy = useMutation({ mutationFn: (file: File) => api.takeBusy(who, file), onSuccess: changed });
  return (
    <form
      aria-label={say("weeks.somebody_is_away")}
      className="week-say"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate();
      }}
    >
      <Pick
        label={say("common.who")}
        value={who}
        options={board.people.map((one) => [one, one] as const)}
        put={setWho}
      />
      <label className="entry">
        <span className="entry-label">{say("weeks.from_the_morning_of")}</span>
        <Input type="date" value={first} onChange={(event) => setFirst(event.target.value)} />
      </label>
      <label className="entry">
        <span className="entry-label">{say("weeks.to_the_evening_of")}</span>
        <Input type="date" value={last} onChange={(event) => setLast(event.target.value)} />
      </label>
      <DraftField label={say("weeks.why_if_you_like")} value={what} put={setWhat} />
      <div className="object-do">
        <Button htmlType="submit" loading={keep.isPending}>
          {say("weeks.away_then")}
        </Button>
        <FileButton
          label={say("weeks.busy_times_as_icalendar")}
          accept=".ics,text/calendar"
          busy={busy.isPending}
          take={(file) => busy.mutate(file)}
        >
          {say("weeks.busy_times_from_a_calendar_file")}
        </FileButton>
      </div>
      <ProblemNote error={keep.error ?? busy.error} />
      {busy.data !== undefined && (
        <p role="status">
          {say("weeks.busy_times_of_taken_in_place", {
            times: busy.data.times,
            who,
            cut: busy.data.cut && say("weeks.what_repeats_without_end_is_taken"),
          })}
        </p>
      )}
    </form>
  );
}
