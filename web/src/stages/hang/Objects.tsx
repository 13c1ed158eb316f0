import { Button, Input } from "antd";
import { useState } from "react";
import type { Edit, Wall, WallObject } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { figure } from "../../shared/lib/figures";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Pick } from "../../shared/fields/Pick";
import { choices, OBJECT_KINDS, OPENS } from "./words";
import { say } from "../../words/say";
import "./Objects.css";

type Put = Extract<Edit, { do: "put_object" }>;

const NEW: Put = {
  do: "put_object",
  was: null,
  name: "",
  kind: "window",
  x_mm: "",
  y_mm: "",
  width_mm: "",
  height_mm: "",
  opens: "no",
};
const FIELDS = [
  ["x_mm", say("common.from_the_left_edge")],
  ["y_mm", say("hang.above_the_ground")],
  ["width_mm", say("hang.width")],
  ["height_mm", say("hang.height")],
] as const;

function asEntered(one: WallObject): Put {
  const mm = (value: number) => figure(value, "mm");
  return {
    do: "put_object",
    was: one.name,
    name: one.name,
    kind: one.kind,
    x_mm: mm(one.x_mm),
    y_mm: mm(one.y_mm),
    width_mm: mm(one.width_mm),
    height_mm: mm(one.height_mm),
    opens: one.opens,
  };
}

/** What is on the wall already: openings, boxes, pipes, a backing board. */
export function Objects({ jobId, wall }: { jobId: string; wall: Wall }) {
  return (
    <section aria-label={say("hang.on_the_wall")}>
      <h2 className="why-head">{say("hang.on_the_wall_already")}</h2>
      {wall.objects.map((one) => (
        <ObjectForm key={one.name} jobId={jobId} object={one} />
      ))}
      <ObjectForm jobId={jobId} object={null} />
    </section>
  );
}

function ObjectForm({ jobId, object }: { jobId: string; object: WallObject | null }) {
  const [draft, setDraft] = useState<Put | null>(null);
  const edit = useEdit(jobId);
  const entered = draft ?? (object === null ? NEW : asEntered(object));
  const put = (change: Partial<Put>) => setDraft({ ...entered, ...change });
  return (
    <form
      className="plane"
      aria-label={object === null ? say("hang.another_object") : object.name}
      onSubmit={(event) => {
        event.preventDefault();
        edit.mutate(entered, { onSuccess: () => setDraft(null) });
      }}
    >
      <div className="object-fields">
        <label className="entry">
          <span className="entry-label">{object === null ? say("hang.another_name") : say("common.name")}</span>
          <Input value={entered.name} onChange={(event) => put({ name: event.target.value })} />
        </label>
        <Pick
          label={say("hang.what")}
          value={entered.kind}
          options={choices(OBJECT_KINDS)}
          put={(kind) => put({ kind })}
        />
        {FIELDS.map(([name, label]) => (
          <label key={name} className="entry">
            <span className="entry-label">{label}</span>
            <Input value={entered[name]} onChange={(event) => put({ [name]: event.target.value })} />
          </label>
        ))}
        <Pick
          label={say("hang.opens")}
          value={entered.opens}
          options={choices(OPENS)}
          put={(opens) => put({ opens })}
        />
        <div className="object-do">
          <Button htmlType="submit" disabled={draft === null} loading={edit.isPending}>
            {object === null ? say("common.put_it_there") : say("common.keep")}
          </Button>
          {object !== null && (
            <Button onClick={() => edit.mutate({ do: "remove_object", name: object.name })}>
              {say("common.remove")}
            </Button>
          )}
        </div>
      </div>
      <ProblemNote error={edit.error} />
    </form>
  );
}
