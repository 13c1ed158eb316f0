import { Button, Input } from "antd";
import { useState } from "react";
import type { Schemas } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { useShelf } from "../../shared/api/useShelf";
import { DraftField } from "../../shared/fields/DraftField";
import { Pick } from "../../shared/fields/Pick";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { rich, say } from "../../words/say";
import "./LetterFace.css";

type Letter = Schemas["OperatorLetter"];
type Setting = Schemas["SettingLine"];

const GROUPS = [
  [say("set.too_much_voltage"), "over_voltage"],
  [say("set.too_little_voltage"), "under_voltage"],
  [say("set.too_fast"), "over_frequency"],
  [say("set.too_slow"), "under_frequency"],
  [say("set.loss_of_mains"), "loss_of"],
  [say("set.connecting"), "connect"],
  [say("set.watch_and_ramp"), "observe|ramp"],
  [say("set.less_power_at_high_frequency"), "droop"],
  [say("set.reactive_power_by_voltage"), "volt_var"],
  [say("set.less_power_at_high_voltage"), "volt_watt"],
] as const;

const begun = (letter: Letter | null) => ({
  operator: letter?.operator ?? "",
  reference: letter?.reference ?? "",
  dated: letter?.dated ?? "",
  based_on: letter?.based_on ?? "",
  nominal_v: letter === null ? "" : String(letter.nominal_v),
  nominal_hz: letter === null ? "" : String(letter.nominal_hz),
});

const valuesOf = (points: { id: string; value: number }[]) =>
  Object.fromEntries(points.map((one) => [one.id, String(one.value)]));

/** The grid profile filled from the operator's letter, point by point, by somebody with a licence. */
export function LetterFace({ jobId, letter }: { jobId: string; letter: Letter | null }) {
  const shelf = useShelf();
  const edit = useEdit(jobId);
  const [head, setHead] = useState(begun(letter));
  const [typed, setTyped] = useState<Record<string, string>>(letter === null ? {} : valuesOf(letter.points));
  const profiles = shelf.data?.profiles ?? [];
  const settings = shelf.data?.settings ?? [];
  const base = valuesOf(profiles.find((one) => one.id === head.based_on)?.points ?? []);
  const put = (name: keyof typeof head) => (value: string) => setHead({ ...head, [name]: value });
  const field = (one: Setting) => (
    <label key={one.id} className="entry letter-point">
      <span className="entry-label">{one.title}</span>
      <Input
        value={typed[one.id] ?? base[one.id] ?? ""}
        suffix={one.unit === "" ? " " : one.unit}
        onChange={(event) => setTyped({ ...typed, [one.id]: event.target.value })}
      />
      <small>{one.allowed}</small>
    </label>
  );
  return (
    <form
      aria-label={say("set.profile_from_the_operators_letter")}
      onSubmit={(event) => {
        event.preventDefault();
        const points = Object.entries({ ...base, ...typed }).map(([id, entered]) => ({ id, entered }));
        edit.mutate({ do: "put_letter", ...head, by: "", licence: "", points });
      }}
    >
      <p className="source">{say("set.where_the_operator_asks_for_other")}</p>
      {letter !== null && (
        <p>
          {rich("set.now_letter_of_of_filled_in", {
            operator: <b>{letter.operator}</b>,
            reference: letter.reference,
            dated: letter.dated,
            by: letter.by,
            licence: letter.licence,
          })}{" "}
          <button type="button" className="quiet" onClick={() => edit.mutate({ do: "remove_letter" })}>
            {say("common.take_it_out")}
          </button>
        </p>
      )}
      <div className="letter-head">
        <DraftField label={say("common.network_operator")} value={head.operator} put={put("operator")} />
        <DraftField label={say("set.reference_of_the_letter")} value={head.reference} put={put("reference")} />
        <DraftField label={say("set.of_the_day")} value={head.dated} put={put("dated")} placeholder="2026-11-24" />
        <Pick
          label={say("set.begin_with")}
          value={head.based_on}
          options={[["", say("set.a_blank_profile")], ...profiles.map((one) => [one.id, one.label] as const)]}
          put={(based_on) => {
            setHead({ ...head, based_on });
            setTyped({});
          }}
        />
        {head.based_on === "" && (
          <>
            <DraftField
              label={say("set.nominal_voltage")}
              value={head.nominal_v}
              put={put("nominal_v")}
              placeholder="230 V"
            />
            <DraftField
              label={say("set.nominal_frequency")}
              value={head.nominal_hz}
              put={put("nominal_hz")}
              placeholder="50 Hz"
            />
          </>
        )}
      </div>
      {GROUPS.map(([title, starts]) => (
        <fieldset key={title} className="letter-group">
          <legend>{title}</legend>
          {settings.filter((one) => starts.split("|").some((start) => one.id.startsWith(start))).map(field)}
        </fieldset>
      ))}
      <p className="source">{say("set.empty_the_operator_sets_none")}</p>
      <ProblemNote error={edit.error} />
      <Button htmlType="submit" type="primary" loading={edit.isPending}>
        {say("set.keep_the_letters_profile")}
      </Button>
    </form>
  );
}
