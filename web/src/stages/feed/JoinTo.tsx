import { Button } from "antd";
import { useState } from "react";
import type { FeedDevice, FeedPlan } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { DraftField } from "../../shared/fields/DraftField";
import { Pick } from "../../shared/fields/Pick";
import { ProblemNote } from "../../shared/judging/ProblemNote";

/** A device that nothing leads to yet: a run to it. */
export function JoinTo({
  jobId,
  device,
  feed,
  open,
}: {
  jobId: string;
  device: FeedDevice;
  feed: FeedPlan;
  open: (what: string) => void;
}) {
  const others = feed.devices.filter((one) => one.name !== device.name).map((one) => [one.name, one.name] as const);
  const [start, setStart] = useState(others[0]?.[0] ?? "");
  const [length, setLength] = useState("");
  const [size, setSize] = useState("");
  const [cores, setCores] = useState(String(feed.runs.at(-1)?.cores ?? ""));
  const edit = useEdit(jobId);
  const name = `To ${device.name}`.slice(0, 28);
  return (
    <form
      aria-label={`A run to ${device.name}`}
      onSubmit={(event) => {
        event.preventDefault();
        edit.mutate(
          {
            do: "put_run",
            was: null,
            name,
            start,
            end: device.name,
            length_m: length,
            section_mm2: size,
            cores,
            material: "copper",
            strands: "stranded",
            insulation: "pvc",
            terminals: "70",
            method: "C",
            air_c: "30 °C",
            grouped: "1",
            outside_mm: "",
            of_network: false,
            shared: false,
          },
          { onSuccess: () => open(`run ${name}`) },
        );
      }}
    >
      <h3>Nothing leads to {device.name} yet: run a cable</h3>
      <div className="device-fields">
        <Pick label="From" value={start} options={others} put={setStart} />
        <DraftField label="One-way length" value={length} placeholder="12 m" put={setLength} />
        <DraftField label="Size, mm² or AWG" value={size} placeholder="6 mm²" put={setSize} />
        <DraftField label="Cores" value={cores} placeholder="3, 4 or 5" put={setCores} />
        <Button htmlType="submit" loading={edit.isPending}>
          Run it
        </Button>
      </div>
      <ProblemNote error={edit.error} />
    </form>
  );
}
