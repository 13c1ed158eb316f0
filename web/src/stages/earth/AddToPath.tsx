import { Button, Input } from "antd";
import { useState } from "react";
import type { Earthing } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Pick } from "../../shared/fields/Pick";
import { NODE_KINDS } from "./words";
import { say } from "../../words/say";

/** One more thing that is bonded, and the step that leads on from it. */
export function AddToPath({ jobId, nodes }: { jobId: string; nodes: Earthing["nodes"] }) {
  const [name, setName] = useState("");
  const [kind, setKind] = useState<(typeof NODE_KINDS)[number][0]>("other");
  const [start, setStart] = useState(nodes[0]?.name ?? "");
  const [end, setEnd] = useState(nodes.at(-1)?.name ?? "");
  const edit = useEdit(jobId);
  const names = nodes.map((node) => [node.name, node.name] as const);
  return (
    <details>
      <summary>{say("earth.change_what_the_path_is_made")}</summary>
      <form
        className="plane-fields"
        aria-label={say("earth.another_thing")}
        onSubmit={(event) => {
          event.preventDefault();
          edit.mutate({ do: "add_node", name, kind }, { onSuccess: () => setName("") });
        }}
      >
        <label className="entry">
          <span className="entry-label">{say("earth.another_thing_that_is_bonded")}</span>
          <Input
            value={name}
            placeholder={say("earth.balcony_rail")}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <Pick label={say("common.what_it_is")} value={kind} options={NODE_KINDS} put={setKind} />
        <Button htmlType="submit" className="plane-off">
          {say("common.add_it")}
        </Button>
      </form>
      <form
        className="plane-fields"
        aria-label={say("earth.another_step")}
        onSubmit={(event) => {
          event.preventDefault();
          edit.mutate({
            do: "put_link",
            was: null,
            name: `${start} → ${end}`.slice(0, 60),
            start,
            end,
            how: "wire",
            length_m: "",
            section_mm2: "",
            joints: "2",
            stud_mm: "",
          });
        }}
      >
        <Pick label={say("earth.another_step_from")} value={start} options={names} put={setStart} />
        <Pick label={say("common.to")} value={end} options={names} put={setEnd} />
        <Button htmlType="submit" className="plane-off">
          {say("earth.add_the_step")}
        </Button>
      </form>
      <p className="crew">
        {nodes.map((node) => (
          <button
            key={node.name}
            type="button"
            className="quiet"
            onClick={() => edit.mutate({ do: "remove_node", name: node.name })}
          >
            {say("earth.remove", { node: node.name })}
          </button>
        ))}
      </p>
      <Button onClick={() => edit.mutate({ do: "propose_path" })}>{say("earth.make_it_anew_from_the_plan")}</Button>
      <ProblemNote error={edit.error} />
    </details>
  );
}
