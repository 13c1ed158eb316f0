import { Checkbox } from "antd";
import type { JobView, Schemas } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { Field } from "../../shared/fields/Field";
import { KeepRow } from "../../shared/fields/KeepRow";
import { Pick } from "../../shared/fields/Pick";
import { useDraft } from "../../shared/fields/useDraft";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { FUNCTIONS, SHIELDS } from "./words";
import { say } from "../../words/say";

type Put = Schemas["PutTalkWire"];

interface WirePanelProps {
  jobId: string;
  view: JobView;
  /** The wire that is changed; none: a new one. */
  wire: Schemas["WireState"] | null;
  whyAll: boolean;
  done?: () => void;
}

/** One function from a device to another: its ends, its cable, its shield. */
export function WirePanel({ jobId, view, wire, whyAll, done }: WirePanelProps) {
  const { devices } = view.assessment.talk;
  const edit = useEdit(jobId);
  const names = devices.filter((one) => one.ports.length > 0).map((one) => one.name);
  const planned = view.plan.talk?.wires.find((one) => one.name === wire?.name);
  const shown: Omit<Put, "do" | "was"> = {
    name: wire?.name ?? "",
    function: (wire?.function ?? "network") as Put["function"],
    device: wire?.device ?? names[0] ?? "",
    port: wire?.port ?? "",
    far: wire?.far ?? "",
    far_port: wire?.far_port ?? "",
    length_m: text(planned?.length_m),
    outside_mm: text(planned?.outside_mm),
    cores: text(planned?.cores),
    shield: (wire?.shield ?? "none") as Put["shield"],
    shield_pin: text(planned?.shield_pin),
    no_device_yet: wire?.no_device_yet ?? false,
  };
  const draft = useDraft(shown);
  const put = (change: Partial<Put>) => {
    if (wire === null) {
      draft.put(change);
      return Promise.resolve();
    }
    return edit.mutateAsync({ do: "put_talk_wire", was: wire.name, ...shown, ...change });
  };
  const now = wire === null ? draft.entered : shown;
  const quietly = (change: Partial<Put>) => void put(change).catch(() => undefined);
  return (
    <form
      className="wire-panel"
      onSubmit={(event) => {
        event.preventDefault();
        edit.mutate({ do: "put_talk_wire", was: null, ...draft.entered }, { onSuccess: () => done?.() });
      }}
    >
      <h3>{wire === null ? say("talk.a_function_to_carry") : `${wire.name}: ${wire.title}`}</h3>
      <div className="device-fields">
        <Field label={say("common.name")} shown={now.name} commit={(name) => put({ name })} />
        <Pick
          label={say("talk.function")}
          value={now.function}
          options={FUNCTIONS}
          put={(one) => quietly({ function: one })}
        />
        <Pick
          label={say("common.from")}
          value={now.device}
          options={names.map((one) => [one, one] as const)}
          put={(device) => quietly({ device, port: "" })}
        />
        <Pick
          label={say("common.to")}
          value={names.includes(now.far) ? now.far : ""}
          options={[
            ["", say("talk.outside_the_plan")],
            ...names.filter((one) => one !== now.device).map((one) => [one, one] as const),
          ]}
          put={(far) => quietly({ far, far_port: "" })}
        />
        <Field label={say("talk.length_m")} shown={now.length_m} commit={(length_m) => put({ length_m })} />
        <Field
          label={say("talk.cable_outside_mm")}
          shown={now.outside_mm}
          commit={(outside_mm) => put({ outside_mm })}
        />
        <Field label={say("common.cores")} shown={now.cores} commit={(cores) => put({ cores })} />
        <Pick
          label={say("talk.shield_on_earth")}
          value={now.shield}
          options={SHIELDS}
          put={(shield) => quietly({ shield })}
        />
        <Field
          label={say("talk.shield_on_pin")}
          shown={now.shield_pin}
          commit={(shield_pin) => put({ shield_pin })}
          hint={say("talk.empty_the_sheets")}
        />
        <Checkbox checked={now.no_device_yet} onChange={(event) => quietly({ no_device_yet: event.target.checked })}>
          {say("talk.its_device_comes_later")}
        </Checkbox>
      </div>
      <ProblemNote error={edit.error} />
      {wire === null ? (
        <KeepRow changed={draft.entered.name.trim() !== ""} saving={edit.isPending} drop={() => done?.()} />
      ) : (
        <>
          <JudgementList judgements={wire.judgements} allOpen={whyAll} />
          <div className="object-do">
            <button
              type="button"
              className="quiet"
              onClick={() => edit.mutate({ do: "place_talk_wire", wire: wire.name, device: wire.device, port: "" })}
            >
              {say("talk.take_it_off_its_port")}
            </button>
            <button
              type="button"
              className="quiet"
              onClick={() => edit.mutate({ do: "remove_talk_wire", name: wire.name })}
            >
              {say("talk.not_wanted")}
            </button>
          </div>
        </>
      )}
    </form>
  );
}

const text = (value: number | null | undefined) => (value === null || value === undefined ? "" : String(value));
