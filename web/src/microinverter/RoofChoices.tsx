import { Checkbox } from "antd";
import type { Edit, JobView } from "../shared/api/types";
import { useEdit } from "../shared/api/useJobWrite";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { Pick } from "../shared/fields/Pick";

type Choices = Omit<Extract<Edit, { do: "set_roof" }>, "do">;
const GAPS = [
  ["skip", "skip drops, cap them"],
  ["extension", "let in an extension"],
] as const;
const ORDERS = [
  ["trunk_first", "trunk first, then units"],
  ["units_first", "units first, then trunk"],
] as const;
const LABELS = [
  ["frame_and_map", "on the frame and the map"],
  ["map", "on the map alone"],
] as const;

/** The schools by which this roof is done. */
export function RoofChoices({ jobId, view }: { jobId: string; view: JobView }) {
  const edit = useEdit(jobId);
  const { micro } = view.plan;
  if (micro === null) return null;
  const { gaps, earth = null, order, label, three_phase } = micro;
  const set = (change: Partial<Choices>) =>
    edit.mutate({ do: "set_roof", gaps, earth, order, label, three_phase, ...change });
  return (
    <>
      <h2 className="why-head">How this roof is done</h2>
      <div className="device-fields">
        <Pick label="Ways longer than a pitch" value={gaps} options={GAPS} put={(one) => set({ gaps: one })} />
        <Pick label="Order on the roof" value={order} options={ORDERS} put={(one) => set({ order: one })} />
        <Pick label="Serial labels go" value={label} options={LABELS} put={(one) => set({ label: one })} />
        {micro.unit.service === "single" && (
          <Checkbox checked={three_phase} onChange={(event) => set({ three_phase: event.target.checked })}>
            branches over three phases
          </Checkbox>
        )}
      </div>
      <ProblemNote error={edit.error} />
    </>
  );
}
