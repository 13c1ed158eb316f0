import type { GridStage } from "../../shared/api/client";
import { dayAndClock } from "../../shared/figures";
import { Mark } from "../../shared/marks/Mark";

/** Every writing of a profile to the inverter, the latest first; none is ever removed. */
export function Attempts({ attempts, timezone }: { attempts: GridStage["attempts"]; timezone: string }) {
  if (attempts.length === 0) return null;
  return (
    <section className="attempts">
      <h2>Written</h2>
      <ol>
        {attempts.map((attempt, index) => (
          <li key={attempt.id} className={index === 0 ? "latest" : "earlier"}>
            <Mark verdict={attempt.outcome === "read_back" ? "clear" : "stop"} />
            <p>{attempt.said}</p>
            <p className="source">
              {attempt.by}, {dayAndClock(attempt.at, timezone)}, {attempt.profile} to {attempt.address}
              {attempt.device !== null && `, ${attempt.device.maker} ${attempt.device.model}, serial ${attempt.device.serial}`}
              {attempt.fingerprint !== null && `, settings ${attempt.fingerprint}`}
            </p>
          </li>
        ))}
      </ol>
    </section>
  );
}
