import { Button, Input, Select } from "antd";
import { memo, useState } from "react";
import { useEdit } from "../api/useJobWrite";
import { ProblemNote } from "../judging/ProblemNote";
import { MOUNTINGS } from "./PlaneEditor";
import { say } from "../../words/say";

type Mounting = "close" | "raised" | "open" | "in_roof";
const EMPTY = { name: "", tilt_deg: "", azimuth_deg: "", mounting: "close" as Mounting };

/** One more roof plane. */
export const AddPlane = memo(function AddPlane({ jobId, first = false }: { jobId: string; first?: boolean }) {
  const [entered, setEntered] = useState(EMPTY);
  const edit = useEdit(jobId);
  return (
    <form
      className="plane"
      aria-label={say("shared.add_a_plane")}
      onSubmit={(event) => {
        event.preventDefault();
        edit.mutate({ do: "add_plane", ...entered }, { onSuccess: () => setEntered(EMPTY) });
      }}
    >
      <h3>{first ? say("shared.the_first_plane") : say("shared.another_plane")}</h3>
      <div className="plane-fields">
        <label className="entry">
          <span className="entry-label">{say("common.name")}</span>
          <Input
            value={entered.name}
            placeholder={say("shared.garden_side")}
            onChange={(event) => setEntered({ ...entered, name: event.target.value })}
          />
        </label>
        <label className="entry">
          <span className="entry-label">{say("shared.tilt")}</span>
          <Input
            value={entered.tilt_deg}
            placeholder="35°"
            onChange={(event) => setEntered({ ...entered, tilt_deg: event.target.value })}
          />
        </label>
        <label className="entry">
          <span className="entry-label">{say("common.facing_180_south")}</span>
          <Input
            value={entered.azimuth_deg}
            placeholder="180°"
            onChange={(event) => setEntered({ ...entered, azimuth_deg: event.target.value })}
          />
        </label>
        <label className="entry">
          <span className="entry-label">{say("common.mounting")}</span>
          <Select
            aria-label={say("shared.mounting_of_the_new_plane")}
            value={entered.mounting}
            options={MOUNTINGS}
            onChange={(mounting: Mounting) => setEntered({ ...entered, mounting })}
          />
        </label>
        <Button htmlType="submit" className="plane-off" loading={edit.isPending}>
          {say("common.add")}
        </Button>
      </div>
      <ProblemNote error={edit.error} />
    </form>
  );
});
