import { Button, Checkbox, Input } from "antd";
import { useState } from "react";
import type { Arrival, StageStanding } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Pick } from "../../shared/fields/Pick";
import { say } from "../../words/say";
import "./OpenItems.css";

interface OpenItemsProps {
  jobId: string;
  items: Arrival["open_items"];
  stages: StageStanding[];
}

const EMPTY = { what: "", owner: "", stage: "2" };

/** What was left open on purpose: it stays with the job from visit to visit, settled or not. */
export function OpenItems({ jobId, items, stages }: OpenItemsProps) {
  const [entered, setEntered] = useState(EMPTY);
  const edit = useEdit(jobId);
  const titles = new Map(stages.map((one) => [one.number, one.title]));
  return (
    <section aria-label={say("arrive.left_open_2")}>
      <ul className="crew">
        {items.map((item, index) => (
          <li key={item.what}>
            <Checkbox
              checked={item.settled}
              onChange={(event) => edit.mutate({ do: "settle_item", number: index + 1, settled: event.target.checked })}
            >
              <span className={item.settled ? "settled" : undefined}>
                <b>{item.what}</b>
              </span>{" "}
              {item.owner}, {titles.get(item.stage)}
            </Checkbox>
          </li>
        ))}
      </ul>
      {items.length === 0 && <p className="source">{say("arrive.nothing_is_left_open_what_waits")}</p>}
      <form
        className="plane-fields"
        onSubmit={(event) => {
          event.preventDefault();
          edit.mutate(
            { do: "leave_open", what: entered.what, owner: entered.owner, stage: Number(entered.stage) },
            { onSuccess: () => setEntered(EMPTY) },
          );
        }}
      >
        <label className="entry">
          <span className="entry-label">{say("arrive.what_is_left_open")}</span>
          <Input value={entered.what} onChange={(event) => setEntered({ ...entered, what: event.target.value })} />
        </label>
        <label className="entry">
          <span className="entry-label">{say("arrive.who_sees_to_it")}</span>
          <Input value={entered.owner} onChange={(event) => setEntered({ ...entered, owner: event.target.value })} />
        </label>
        <Pick
          label={say("arrive.in_which_stage")}
          value={entered.stage}
          options={stages.map((one) => [String(one.number), one.title] as const)}
          put={(stage) => setEntered({ ...entered, stage })}
        />
        <Button htmlType="submit" className="plane-off" loading={edit.isPending}>
          {say("arrive.leave_open")}
        </Button>
      </form>
      <ProblemNote error={edit.error} />
    </section>
  );
}
