import type { Assessment } from "../../shared/api/client";
import { dayAndClock } from "../../shared/figures";

/** What was read on strings and planes that have left the plan: kept, and still to be seen. */
export function PastReadings({ past, timezone }: { past: Assessment["past_readings"]; timezone: string }) {
  if (past.length === 0) return null;
  return (
    <section>
      <h2 className="why-head">Read on strings and planes no longer in the plan</h2>
      <ul className="history">
        {past.map(({ title, reading }) => (
          <li key={reading.id}>{title}: {reading.text}, {reading.by}, {dayAndClock(reading.taken_at, timezone)}</li>
        ))}
      </ul>
    </section>
  );
}
