import { Button, Input } from "antd";
import { useState } from "react";
import type { Schemas } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { useShelf } from "../../shared/api/useShelf";
import { DraftField } from "../../shared/fields/DraftField";
import { Pick } from "../../shared/fields/Pick";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import "./LetterFace.css";

type Letter = Schemas["OperatorLetter"];
type Setting = Schemas["SettingLine"];

const GROUPS = [
  ["Too much voltage", "over_voltage"],
  ["Too little voltage", "under_voltage"],
  ["Too fast", "over_frequency"],
  ["Too slow", "under_frequency"],
  ["Loss of mains", "loss_of"],
  ["Connecting", "connect"],
  ["Watch and ramp", "observe|ramp"],
  ["Less power at high frequency", "droop"],
  ["Reactive power by voltage", "volt_var"],
  ["Less power at high voltage", "volt_watt"],
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
      aria-label="Profile from the operator's letter"
      onSubmit={(event) => {
        event.preventDefault();
        const points = Object.entries({ ...base, ...typed }).map(([id, entered]) => ({ id, entered }));
        edit.mutate({ do: "put_letter", ...head, by: "", licence: "", points });
      }}
    >
      <p className="source">
        Where the operator asks for other figures than a profile has, they are taken from its letter, one by one. Only
        somebody whose licence is in force keeps it; the record says whose letter it follows and who filled it in.
      </p>
      {letter !== null && (
        <p>
          Now: letter of <b>{letter.operator}</b>, {letter.reference}, of {letter.dated}, filled in by {letter.by},
          licence {letter.licence}.{" "}
          <button type="button" className="quiet" onClick={() => edit.mutate({ do: "remove_letter" })}>
            Take it out
          </button>
        </p>
      )}
      <div className="letter-head">
        <DraftField label="Network operator" value={head.operator} put={put("operator")} />
        <DraftField label="Reference of the letter" value={head.reference} put={put("reference")} />
        <DraftField label="Of the day" value={head.dated} put={put("dated")} placeholder="2026-11-24" />
        <Pick
          label="Begin with"
          value={head.based_on}
          options={[["", "a blank profile"], ...profiles.map((one) => [one.id, one.label] as const)]}
          put={(based_on) => {
            setHead({ ...head, based_on });
            setTyped({});
          }}
        />
        {head.based_on === "" && (
          <>
            <DraftField label="Nominal voltage" value={head.nominal_v} put={put("nominal_v")} placeholder="230 V" />
            <DraftField label="Nominal frequency" value={head.nominal_hz} put={put("nominal_hz")} placeholder="50 Hz" />
          </>
        )}
      </div>
      {GROUPS.map(([title, starts]) => (
        <fieldset key={title} className="letter-group">
          <legend>{title}</legend>
          {settings.filter((one) => starts.split("|").some((start) => one.id.startsWith(start))).map(field)}
        </fieldset>
      ))}
      <p className="source">Empty: the operator sets none.</p>
      <ProblemNote error={edit.error} />
      <Button htmlType="submit" type="primary" loading={edit.isPending}>
        Keep the letter's profile
      </Button>
    </form>
  );
}
