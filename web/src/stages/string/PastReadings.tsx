import type { Assessment } from "../../shared/api/types";
import { dayAndClock } from "../../shared/lib/figures";
import { say } from "../../words/say";

/** What was read and is no longer asked for since the plan changed: kept, and still to be seen. */
export function PastReadings({ past, timezone }: { past: Assessment["past_readings"]; timezone: string }) {
  if (past.length === 0) return null;
  return (
    <section>
      <h2 className="why-head">{say("string.read_earlier_no_longer_asked_for")}</h2>
      <ul className="history">
        {past.map(({ title, reading }) => (
          <li key={reading.id}>
            {title}: {reading.text}, {reading.by}, {dayAndClock(reading.taken_at, timezone)}
          </li>
        ))}
      </ul>
    </section>
  );
}
