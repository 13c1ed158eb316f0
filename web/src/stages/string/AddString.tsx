import { Button } from "antd";
import { useState } from "react";
import type { JobView } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { DraftField } from "../../shared/fields/DraftField";
import { Pick } from "../../shared/fields/Pick";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { strung } from "../../shared/lib/strung";
import { say } from "../../words/say";

const BY_ITSELF = "";

/** A string as it is typed: how many modules, on which plane, on which tracker. */
export function AddString({ jobId, view }: { jobId: string; view: JobView }) {
  const { planes } = view.plan;
  const edit = useEdit(jobId);
  const [count, setCount] = useState("");
  const [plane, setPlane] = useState(planes[0]?.name ?? "");
  const [tracker, setTracker] = useState(BY_ITSELF);
  const trackers = strung(view).inverter.trackers.map((_, at) => [String(at + 1), String(at + 1)] as const);
  return (
    <form
      aria-label={say("string.add_a_string")}
      onSubmit={(event) => {
        event.preventDefault();
        edit.mutate({ do: "add_string", plane, modules_in_series: count, tracker }, { onSuccess: () => setCount("") });
      }}
    >
      <div className="string-add">
        <DraftField label={say("common.modules_in_series")} value={count} placeholder="11" put={setCount} />
        <Pick
          label={say("common.plane")}
          value={plane}
          options={planes.map((one) => [one.name, one.name] as const)}
          put={setPlane}
        />
        <Pick
          label={say("common.tracker_3")}
          value={tracker}
          options={[[BY_ITSELF, say("string.the_one_with_fewest")] as const, ...trackers]}
          put={setTracker}
        />
        <Button htmlType="submit" type="primary" loading={edit.isPending}>
          {say("string.add_the_string")}
        </Button>
      </div>
      <ProblemNote error={edit.error} />
    </form>
  );
}
