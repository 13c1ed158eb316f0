import { useState } from "react";
import type { Assessment } from "../../shared/api/types";
import { Locks } from "../../shared/judging/Locks";
import { Mark } from "../../shared/marks/Mark";
import { say } from "../../words/say";
import "./MayBeDone.css";

const HERE = 8;

/** Each permission of the plant: whether it is given, and what keeps it, one touch away. */
export function MayBeDone({ jobId, assessment }: { jobId: string; assessment: Assessment }) {
  const [open, setOpen] = useState<string | null>(null);
  const locks = new Map(assessment.locks.map((one) => [one.id, one]));
  return (
    <section className="may-be-done" aria-label={say("wake.what_may_be_done_now")}>
      <h2>{say("wake.what_may_be_done_now")}</h2>
      <ul>
        {assessment.permissions
          .filter((one) => one.scope === "")
          .map((one) => (
            <li key={one.id}>
              <button
                type="button"
                className="may-head"
                aria-expanded={open === one.id}
                disabled={one.locks.length === 0}
                onClick={() => setOpen(open === one.id ? null : one.id)}
              >
                <span>{one.title}</span>
                <span className="may-count">{one.locks.length > 0 && one.locks.length}</span>
                <Mark verdict={one.verdict} />
              </button>
              {open === one.id && (
                <Locks jobId={jobId} here={HERE} locks={one.locks.flatMap((id) => locks.get(id) ?? [])} />
              )}
            </li>
          ))}
      </ul>
    </section>
  );
}
