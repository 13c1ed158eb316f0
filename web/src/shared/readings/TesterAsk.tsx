import { Button, Input } from "antd";
import { useState } from "react";
import { useEdit } from "../api/useJobWrite";
import { ProblemNote } from "../judging/ProblemNote";
import { say } from "../../words/say";
import "./TesterAsk.css";

const EMPTY = { name: "", serial: "", due_on: "" };
const FIELDS = [
  ["name", say("shared.tester"), say("shared.multimeter_1")],
  ["serial", say("common.serial"), "MT-20417"],
  ["due_on", say("shared.calibrated_until"), "2027-10-31"],
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
    <section className="tester-ask" aria-label={say("common.tester_in_hand")}>
      <p>{say("shared.this_reading_stands_in_the_test")}</p>
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
          {say("shared.keep_the_tester")}
        </Button>
      </div>
      <ProblemNote error={edit.error} />
    </section>
  );
}
