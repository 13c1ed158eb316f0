import { useMutation } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { api } from "../shared/api/calls";
import type { Schemas } from "../shared/api/types";
import { DraftField } from "../shared/fields/DraftField";
import { FileButton } from "../shared/fields/FileButton";
import { Pick } from "../shared/fields/Pick";
import { ProblemNote } from "../shared/judging/ProblemNote";

interface AbsencesProps {
  board: Schemas["Board"];
  mayPlan: boolean;
  changed: () => void;
}

/** Who is away: by hand, or the busy times of somebody's own calendar. */
export function Absences({ board, mayPlan, changed }: AbsencesProps) {
  const end = useMutation({ mutationFn: (number: number) => api.endAbsence(number), onSettled: changed });
  return (
    <section aria-label="Who is away" className="week-away-list">
      <header className="rail-head">
        <h2>Away</h2>
        <span>{board.absences.length === 0 ? "nobody in these weeks" : board.absences.length}</span>
      </header>
      <ul className="crew">
        {board.absences.map((one) => (
          <li key={one.number} className="next-task visit-line">
            <span>
              <b>{one.who}</b>, {one.begins} to {one.ends}
              {one.what !== "" && `, ${one.what}`}
              {one.source !== "" && <small className="source"> from {one.source}</small>}
            </span>
            {mayPlan && (
              <Button onClick={() => end.mutate(one.number)} loading={end.isPending}>
                Take it out
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
      aria-label="Somebody is away"
      className="week-say"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate();
      }}
    >
      <Pick label="Who" value={who} options={board.people.map((one) => [one, one] as const)} put={setWho} />
      <label className="entry">
        <span className="entry-label">From the morning of</span>
        <Input type="date" value={first} onChange={(event) => setFirst(event.target.value)} />
      </label>
      <label className="entry">
        <span className="entry-label">To the evening of</span>
        <Input type="date" value={last} onChange={(event) => setLast(event.target.value)} />
      </label>
      <DraftField label="Why, if you like" value={what} put={setWhat} />
      <div className="object-do">
        <Button htmlType="submit" loading={keep.isPending}>
          Away then
        </Button>
        <FileButton
          label="Busy times as iCalendar"
          accept=".ics,text/calendar"
          busy={busy.isPending}
          take={(file) => busy.mutate(file)}
        >
          Busy times from a calendar file
        </FileButton>
      </div>
      <ProblemNote error={keep.error ?? busy.error} />
      {busy.data !== undefined && (
        <p role="status">
          {busy.data.times} busy times of {who} taken in place of those before.
          {busy.data.cut && " What repeats without end is taken for 26 weeks."}
        </p>
      )}
    </form>
  );
}
