import type { WakeStage } from "../../shared/api/types";
import { dayAndClock } from "../../shared/lib/figures";

/** Every lock that was lifted: it stays in the record. */
export function Overrides({ overrides, timezone }: { overrides: WakeStage["overrides"]; timezone: string }) {
  if (overrides.length === 0) return null;
  return (
    <section className="attempts" aria-label="Locks lifted">
      <h2>Locks lifted</h2>
      <ol>
        {overrides.map((one) => (
          <li key={one.id}>
            <p>{one.lifted}</p>
            <p className="source">
              {one.reason}. {one.by}, licence {one.licence}, {dayAndClock(one.at, timezone)}
            </p>
          </li>
        ))}
      </ol>
    </section>
  );
}
