import { Button, Checkbox, Input } from "antd";
import { useState } from "react";
import type { Arrival } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { say } from "../../words/say";

const NOBODY = { name: "", licence: "" };

/** Who is on the job, who of them is licensed, who is here. */
export function Crew({ jobId, crew }: { jobId: string; crew: Arrival["crew"] }) {
  const [entered, setEntered] = useState(NOBODY);
  const edit = useEdit(jobId);
  const set = (next: Arrival["crew"], done?: () => void) =>
    edit.mutate({ do: "set_crew", crew: next }, done === undefined ? {} : { onSuccess: done });
  return (
    <section aria-label={say("arrive.people")}>
      <h2 className="why-head">{say("arrive.people")}</h2>
      <ul className="crew">
        {crew.map((one, index) => (
          <li key={one.name}>
            <Checkbox
              checked={one.present}
              onChange={(event) =>
                set(crew.map((other, at) => (at === index ? { ...other, present: event.target.checked } : other)))
              }
            >
              <b>{one.name}</b>,{" "}
              {one.licence === "" ? say("common.no_licence") : say("common.licence", { licence: one.licence })}
            </Checkbox>
            <button type="button" className="quiet" onClick={() => set(crew.filter((_, at) => at !== index))}>
              {say("common.take_off")}
            </button>
          </li>
        ))}
      </ul>
      <form
        className="plane-fields"
        onSubmit={(event) => {
          event.preventDefault();
          set([...crew, { ...entered, present: true }], () => setEntered(NOBODY));
        }}
      >
        <label className="entry">
          <span className="entry-label">{say("common.name")}</span>
          <Input value={entered.name} onChange={(event) => setEntered({ ...entered, name: event.target.value })} />
        </label>
        <label className="entry">
          <span className="entry-label">{say("arrive.licence_number_or_empty")}</span>
          <Input
            value={entered.licence}
            onChange={(event) => setEntered({ ...entered, licence: event.target.value })}
          />
        </label>
        <Button htmlType="submit" className="plane-off" loading={edit.isPending}>
          {say("common.add")}
        </Button>
      </form>
      <ProblemNote error={edit.error} />
    </section>
  );
}
