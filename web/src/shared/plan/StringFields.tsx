import { Select } from "antd";
import type { JobView } from "../api/types";
import { useChange } from "../api/useJobWrite";
import { Entry } from "../fields/Entry";
import { figure } from "../lib/figures";
import { ProblemNote } from "../judging/ProblemNote";
import { strung } from "../lib/strung";
import { say } from "../../words/say";
import "./StringFields.css";

/** Where a string hangs, changed by hand: its plane, its tracker, the fuse in each of its poles. */
export function StringFields({ jobId, view, index }: { jobId: string; view: JobView; index: number }) {
  const change = useChange(jobId);
  const { plan } = view;
  const string = plan.strings[index];
  if (string === undefined) return null;
  const path = `$.strings[${index}]`;
  return (
    <div className="string-fields">
      <b>{string.name}</b>
      <label className="entry">
        <span className="entry-label">{say("common.plane")}</span>
        <Select
          aria-label={say("shared.plane_of_string", { string: string.name })}
          value={string.plane}
          options={plan.planes.map((one) => ({ value: one.name, label: one.name }))}
          onChange={(entered: string) => change.mutate([{ path: `${path}.plane`, entered }])}
        />
      </label>
      <label className="entry">
        <span className="entry-label">{say("common.tracker_3")}</span>
        <Select
          aria-label={say("shared.tracker_of_string", { string: string.name })}
          value={string.tracker}
          options={strung(view).inverter.trackers.map((_, at) => ({ value: at + 1, label: String(at + 1) }))}
          onChange={(entered: number) => change.mutate([{ path: `${path}.tracker`, entered: String(entered) }])}
        />
      </label>
      <Entry
        jobId={jobId}
        label={say("shared.fuse_if_any")}
        path={`${path}.fuse_a`}
        shown={string.fuse_a == null ? "" : figure(string.fuse_a, "A")}
      />
      <ProblemNote error={change.error} />
    </div>
  );
}
