import { Button } from "antd";
import { useState } from "react";
import type { FeedDevice, FeedPlan } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { DraftField } from "../../shared/fields/DraftField";
import { Pick } from "../../shared/fields/Pick";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { say } from "../../words/say";

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
  const name = say("feed.to", { device: device.name }).slice(0, 28);
  return (
    <form
      aria-label={say("feed.a_run_to", { device: device.name })}
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
      <h3>{say("feed.nothing_leads_to_yet_run_a", { device: device.name })}</h3>
      <div className="device-fields">
        <Pick label={say("common.from")} value={start} options={others} put={setStart} />
        <DraftField label={say("feed.one_way_length")} value={length} placeholder="12 m" put={setLength} />
        <DraftField label={say("feed.size_mm_or_awg")} value={size} placeholder="6 mm²" put={setSize} />
        <DraftField label={say("common.cores")} value={cores} placeholder={say("feed.3_4_or_5")} put={setCores} />
        <Button htmlType="submit" loading={edit.isPending}>
          {say("feed.run_it")}
        </Button>
      </div>
      <ProblemNote error={edit.error} />
    </form>
  );
}
