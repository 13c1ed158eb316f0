import { Button, Input, Select } from "antd";
import { useState } from "react";
import { useEdit } from "../api/useJobWrite";
import { ProblemNote } from "../judging/ProblemNote";
import { MOUNTINGS } from "./PlaneEditor";

type Mounting = "close" | "raised" | "open" | "in_roof";
const EMPTY = { name: "", tilt_deg: "", azimuth_deg: "", mounting: "close" as Mounting };

/** One more roof plane. */
export function AddPlane({ jobId, first = false }: { jobId: string; first?: boolean }) {
  const [entered, setEntered] = useState(EMPTY);
  const edit = useEdit(jobId);
  return (
    <form
      className="plane"
      aria-label="Add a plane"
      onSubmit={(event) => {
        event.preventDefault();
        edit.mutate({ do: "add_plane", ...entered }, { onSuccess: () => setEntered(EMPTY) });
      }}
    >
      <h3>{first ? "The first plane" : "Another plane"}</h3>
      <div className="plane-fields">
        <label className="entry">
          <span className="entry-label">Name</span>
          <Input
            value={entered.name}
            placeholder="Garden side"
            onChange={(event) => setEntered({ ...entered, name: event.target.value })}
          />
        </label>
        <label className="entry">
          <span className="entry-label">Tilt</span>
          <Input
            value={entered.tilt_deg}
            placeholder="35°"
            onChange={(event) => setEntered({ ...entered, tilt_deg: event.target.value })}
          />
        </label>
        <label className="entry">
          <span className="entry-label">Facing, 180 south</span>
          <Input
            value={entered.azimuth_deg}
            placeholder="180°"
            onChange={(event) => setEntered({ ...entered, azimuth_deg: event.target.value })}
          />
        </label>
        <label className="entry">
          <span className="entry-label">Mounting</span>
          <Select
            aria-label="Mounting of the new plane"
            value={entered.mounting}
            options={MOUNTINGS}
            onChange={(mounting: Mounting) => setEntered({ ...entered, mounting })}
          />
        </label>
        <Button htmlType="submit" className="plane-off" loading={edit.isPending}>
          Add
        </Button>
      </div>
      <ProblemNote error={edit.error} />
    </form>
  );
}
