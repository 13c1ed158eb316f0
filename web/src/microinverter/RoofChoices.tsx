import { Checkbox } from "antd";
import { memo } from "react";
import type { Edit } from "../shared/api/types";
import { useEdit } from "../shared/api/useJobWrite";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { Pick } from "../shared/fields/Pick";
import { say } from "../words/say";

type Choices = Omit<Extract<Edit, { do: "set_roof" }>, "do">;
const GAPS = [
  ["skip", say("microinverter.skip_drops_cap_them")],
  ["extension", say("microinverter.let_in_an_extension")],
] as const;
const ORDERS = [
  ["trunk_first", say("microinverter.trunk_first_then_units")],
  ["units_first", say("microinverter.units_first_then_trunk")],
] as const;
const LABELS = [
  ["frame_and_map", say("microinverter.on_the_frame_and_the_map")],
  ["map", say("microinverter.on_the_map_alone")],
] as const;

interface RoofChoicesProps extends Choices {
  jobId: string;
  /** Its units feed one phase each. */
  isSingle: boolean;
}

/** The schools by which this roof is done. */
export const RoofChoices = memo(function RoofChoices({ jobId, isSingle, ...now }: RoofChoicesProps) {
  const edit = useEdit(jobId);
  const { gaps, order, label, three_phase } = now;
  const set = (change: Partial<Choices>) => edit.mutate({ do: "set_roof", ...now, ...change });
  return (
    <>
      <h2 className="why-head">{say("microinverter.how_this_roof_is_done")}</h2>
      <div className="device-fields">
        <Pick
          label={say("microinverter.ways_longer_than_a_pitch")}
          value={gaps}
          options={GAPS}
          put={(one) => set({ gaps: one })}
        />
        <Pick
          label={say("microinverter.order_on_the_roof")}
          value={order}
          options={ORDERS}
          put={(one) => set({ order: one })}
        />
        <Pick
          label={say("microinverter.serial_labels_go")}
          value={label}
          options={LABELS}
          put={(one) => set({ label: one })}
        />
        {isSingle && (
          <Checkbox checked={three_phase} onChange={(event) => set({ three_phase: event.target.checked })}>
            {say("microinverter.branches_over_three_phases")}
          </Checkbox>
        )}
      </div>
      <ProblemNote error={edit.error} />
    </>
  );
});
