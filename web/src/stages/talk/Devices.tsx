import { Button } from "antd";
import { useState } from "react";
import type { JobView, Schemas } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { Field } from "../../shared/fields/Field";
import { Pick } from "../../shared/fields/Pick";
import { SheetPick } from "../../shared/fields/SheetPick";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Mark } from "../../shared/marks/Mark";
import { say } from "../../words/say";

interface DevicesProps {
  jobId: string;
  view: JobView;
  whyAll: boolean;
}

/** Everything that talks: inverters, boards, sticks, loggers, gateways, each with its sheet and place. */
export function Devices({ jobId, view, whyAll }: DevicesProps) {
  const { devices } = view.assessment.talk;
  const [open, setOpen] = useState<string | null>(null);
  const edit = useEdit(jobId);
  return (
    <section aria-label={say("talk.devices_that_talk")}>
      <h2>{say("talk.devices_that_talk")}</h2>
      <ul className="talkers">
        {devices.map((one) => (
          <li key={one.name}>
            <button
              type="button"
              className="talker"
              aria-expanded={open === one.name}
              onClick={() => setOpen(open === one.name ? null : one.name)}
            >
              <b>{one.name}</b>
              <span>
                {one.title}, {one.label}
                {one.of !== "" && one.of !== one.name && say("talk.in", { of: one.of })}
                {one.place !== "" && ` · ${one.place}`}
                {one.address !== null && say("talk.address", { address: one.address })}
                {one.serves !== "" && ` · ${one.serves}`}
              </span>
              <Mark verdict={one.verdict} />
            </button>
            {open === one.name && <Device jobId={jobId} view={view} device={one} whyAll={whyAll} />}
          </li>
        ))}
      </ul>
      <div className="add-talker">
        <SheetPick
          kind="talkers"
          label={say("talk.add_a_device_from_the_shelf")}
          now={null}
          nowLabel=""
          put={(id) => {
            if (id === null) return;
            const name = freeName(devices);
            edit.mutate(
              { do: "put_talk_device", was: null, name, sheet: id, of: "", place: "", address: "" },
              { onSuccess: () => setOpen(name) },
            );
          }}
        />
      </div>
      <ProblemNote error={edit.error} />
    </section>
  );
}

const freeName = (devices: Schemas["TalkerState"][]) => {
  let number = devices.length + 1;
  while (devices.some((one) => one.name === `Device ${number}`)) number += 1;
  return say("talk.device", { number });
};

interface DeviceProps extends DevicesProps {
  device: Schemas["TalkerState"];
}

function Device({ jobId, view, device, whyAll }: DeviceProps) {
  const edit = useEdit(jobId);
  const others = view.assessment.talk.devices.filter((one) => one.name !== device.name);
  const put = (change: Partial<Schemas["PutTalkDevice"]>) =>
    edit.mutateAsync({
      do: "put_talk_device",
      was: device.name,
      name: device.name,
      sheet: null,
      of: device.of,
      place: device.place,
      address: device.address === null ? "" : String(device.address),
      ...change,
    });
  return (
    <div className="talker-open">
      <div className="device-fields">
        <Field label={say("common.name")} shown={device.name} commit={(name) => put({ name })} />
        <Field
          label={say("talk.place")}
          shown={device.place}
          commit={(place) => put({ place })}
          hint={say("talk.room_wall_height")}
        />
        <Field
          label={say("talk.bus_address")}
          shown={device.address === null ? "" : String(device.address)}
          commit={(address) => put({ address })}
        />
        <Pick
          label={say("talk.sits_in")}
          value={others.some((one) => one.name === device.of) ? device.of : ""}
          options={[["", say("talk.stands_by_itself")], ...others.map((one) => [one.name, one.name] as const)]}
          put={(of) => void put({ of }).catch(() => undefined)}
        />
      </div>
      {device.lights.length > 0 && (
        <ul className="talk-lights">
          {device.lights.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
      )}
      <ProblemNote error={edit.error} />
      <JudgementList judgements={device.judgements} allOpen={whyAll} />
      <Button onClick={() => edit.mutate({ do: "remove_talk_device", name: device.name })}>
        {say("talk.take_out_of_the_plan", { device: device.name })}
      </Button>
    </div>
  );
}
