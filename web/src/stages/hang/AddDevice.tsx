import { Button, Input } from "antd";
import { useState } from "react";
import type { Kind, Wall, WallDevice } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Pick } from "../../shared/fields/Pick";
import { SheetPick } from "../../shared/fields/SheetPick";
import { choices, DEVICE_KINDS } from "./words";
import { say } from "../../words/say";

const SHELVES: Record<WallDevice["kind"], Kind | null> = {
  inverter: null,
  isolator: "isolators",
  safety_switch: "safety_switches",
  meter: "wall_units",
  battery: "wall_units",
  trunking: "wall_units",
  other: "wall_units",
};

interface AddDeviceProps {
  jobId: string;
  wall: Wall;
  added: (name: string) => void;
}

/** One more device on the wall: the inverter, or a sheet from the shelf; asked for behind a touch. */
export function AddDevice(props: AddDeviceProps) {
  const [open, setOpen] = useState(props.wall.devices.length === 0);
  return open ? <DeviceForm {...props} /> : <Button onClick={() => setOpen(true)}>{say("hang.hang_another")}</Button>;
}

function DeviceForm({ jobId, wall, added }: AddDeviceProps) {
  const hasInverter = wall.devices.some((one) => one.kind === "inverter");
  const [kind, setKind] = useState<WallDevice["kind"]>(hasInverter ? "isolator" : "inverter");
  const [name, setName] = useState("");
  const [sheet, setSheet] = useState<string | null>(null);
  const edit = useEdit(jobId);
  const shelf = SHELVES[kind];
  const usual = kind === "inverter" ? say("common.inverter") : "";
  const called = name === "" ? usual : name;
  return (
    <form
      className="plane"
      aria-label={say("hang.hang_another")}
      onSubmit={(event) => {
        event.preventDefault();
        edit.mutate(
          { do: "hang_device", name: called, kind, sheet, x_mm: "", y_mm: "" },
          {
            onSuccess: () => {
              added(called);
              setName("");
              setKind("isolator");
            },
          },
        );
      }}
    >
      <h3>{say("hang.hang_another")}</h3>
      <div className="plane-fields">
        <Pick
          label={say("hang.what")}
          value={kind}
          options={choices(DEVICE_KINDS).filter(([one]) => one !== "inverter" || !hasInverter)}
          put={setKind}
        />
        <label className="entry">
          <span className="entry-label">{say("hang.called")}</span>
          <Input
            value={name}
            placeholder={usual === "" ? say("common.dc_isolator") : usual}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        {shelf !== null && (
          <SheetPick kind={shelf} label={say("common.sheet")} now={sheet} nowLabel={sheet ?? ""} put={setSheet} />
        )}
        <Button htmlType="submit" className="plane-off" loading={edit.isPending}>
          {say("hang.hang")}
        </Button>
      </div>
      <ProblemNote error={edit.error} />
    </form>
  );
}
