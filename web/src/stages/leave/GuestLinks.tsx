import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { api } from "../../shared/api/calls";
import type { GuestLine } from "../../shared/api/types";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { rich, say } from "../../words/say";

const A_MONTH_MS = 30 * 24 * 3600 * 1000;
const monthOn = () => new Date(Date.now() + A_MONTH_MS).toISOString().slice(0, 10);

/** Links by which somebody who does not sign in sees this record until a day. */
export function GuestLinks({ jobId }: { jobId: string }) {
  const client = useQueryClient();
  const guests = useQuery({ queryKey: ["guests", jobId], queryFn: () => api.guests(jobId), staleTime: 0 });
  const [name, setName] = useState("");
  const [ends, setEnds] = useState(monthOn);
  const [link, setLink] = useState("");
  const shown = (lines: GuestLine[]) => client.setQueryData(["guests", jobId], lines);
  const invite = useMutation({
    mutationFn: () => api.inviteGuest(jobId, name, ends),
    onSuccess: (made) => {
      setLink(`${window.location.origin}${made.path}`);
      setName("");
      shown(made.guests);
    },
  });
  const end = useMutation({ mutationFn: (number: number) => api.endGuest(jobId, number), onSuccess: shown });
  const held = guests.data?.filter((one) => one.ended_at === null) ?? [];
  return (
    <section aria-label={say("leave.guests_of_this_record")}>
      <header className="rail-head">
        <h2>{say("leave.guests")}</h2>
        <span>{held.length}</span>
      </header>
      <ul className="open-points">
        {held.map((one) => (
          <li key={one.number}>
            {rich("leave.until", { name: <b>{one.name}</b>, ends_on: one.ends_on })}

            <button type="button" className="quiet" onClick={() => end.mutate(one.number)}>
              {say("leave.end_it")}
            </button>
          </li>
        ))}
      </ul>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          invite.mutate();
        }}
      >
        <label className="entry">
          <span className="entry-label">{say("leave.who_may_see_this_record")}</span>
          <Input value={name} onChange={(event) => setName(event.target.value)} />
        </label>
        <label className="entry">
          <span className="entry-label">{say("leave.until_2")}</span>
          <Input type="date" value={ends} onChange={(event) => setEnds(event.target.value)} />
        </label>
        <Button htmlType="submit" loading={invite.isPending} disabled={name.trim() === ""}>
          {say("common.make_a_link")}
        </Button>
      </form>
      {link !== "" && <p role="status">{rich("leave.shown_this_once", { link: <code>{link}</code> })}</p>}
      <ProblemNote error={guests.error ?? invite.error ?? end.error} />
    </section>
  );
}
