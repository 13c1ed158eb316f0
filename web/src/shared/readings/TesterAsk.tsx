import { Button, Input } from "antd";
import { useState } from "react";
import { useEdit } from "../api/useJobWrite";
import { ProblemNote } from "../judging/ProblemNote";
import "./TesterAsk.css";

const EMPTY = { name: "", serial: "", due_on: "" };
const FIELDS = [
  ["name", "Tester", "Multimeter 1"],
  ["serial", "Serial", "MT-20417"],
  ["due_on", "Calibrated until", "2027-10-31"],
] as const;

/** The tester in hand, asked once: at the first reading that stands in the test record. */
export function TesterAsk({ jobId }: { jobId: string }) {
  const [typed, setTyped] = useState(EMPTY);
  const edit = useEdit(jobId);
  const keep = () =>
    edit.mutate(
      { do: "put_instrument", was: null, ...typed, calibrated_on: "", columns: [] },
      { onSuccess: () => setTyped(EMPTY) },
    );
  return (
    <section className="tester-ask" aria-label="Tester in hand">
      <p>This reading stands in the test record: with which tester is it made? Asked once, kept for every stage.</p>
      <div className="tester-ask-fields">
        {FIELDS.map(([name, label, example]) => (
          <label key={name} className="entry">
            <span className="entry-label">{label}</span>
            <Input
              value={typed[name]}
              placeholder={example}
              onChange={(event) => setTyped({ ...typed, [name]: event.target.value })}
            />
          </label>
        ))}
        <Button loading={edit.isPending} disabled={typed.name.trim() === ""} onClick={keep}>
          Keep the tester
        </Button>
      </div>
      <ProblemNote error={edit.error} />
    </section>
  );
}
