import type { WakeStage } from "../../shared/api/types";
import { dayAndClock } from "../../shared/lib/figures";
import { say } from "../../words/say";

/** Every lock that was lifted: it stays in the record. */
export function Overrides({ overrides, timezone }: { overrides: WakeStage["overrides"]; timezone: string }) {
  if (overrides.length === 0) return null;
  return (
    <section className="attempts" aria-label={say("wake.locks_lifted")}>
      <h2>{say("wake.locks_lifted")}</h2>
      <ol>
        {overrides.map((one) => (
          <li key={one.id}>
            <p>{one.lifted}</p>
            <p className="source">
              {say("wake.licence", {
                reason: one.reason,
                by: one.by,
                licence: one.licence,
                at: dayAndClock(one.at, timezone),
              })}
            </p>
          </li>
        ))}
      </ol>
    </section>
  );
}
