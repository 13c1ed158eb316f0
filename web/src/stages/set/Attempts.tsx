import type { GridStage } from "../../shared/api/types";
import { dayAndClock } from "../../shared/lib/figures";
import { Mark } from "../../shared/marks/Mark";
import { say } from "../../words/say";
import "./Attempts.css";

type Attempt = GridStage["attempts"][number];

/** Every writing and every look, the latest first; none is ever removed. */
export function Attempts({ attempts, timezone }: { attempts: Attempt[]; timezone: string }) {
  if (attempts.length === 0) return null;
  return (
    <section className="attempts">
      <h2>{say("set.written_and_looked_at")}</h2>
      <ol>
        {attempts.map((attempt, index) => (
          <li key={attempt.id} className={index === 0 ? "latest" : "earlier"}>
            <Mark verdict={attempt.outcome === "read_back" ? "clear" : "stop"} />
            <p>{attempt.said}</p>
            <p className="source">
              {attempt.by}, {dayAndClock(attempt.at, timezone)}, {attempt.profile}{" "}
              {attempt.only_read ? say("set.at") : say("set.to")} {attempt.address}
              {attempt.device !== null &&
                say("set.serial", {
                  maker: attempt.device.maker,
                  model: attempt.device.model,
                  serial: attempt.device.serial,
                })}
              {attempt.plate !== null && say("set.register_models", { models: attempt.plate.models.join(" ") })}
              {attempt.fingerprint !== null && say("set.settings", { fingerprint: attempt.fingerprint })}
            </p>
            {attempt.outcome !== "read_back" && <Parts attempt={attempt} />}
          </li>
        ))}
      </ol>
    </section>
  );
}

/** After a writing that broke off: what is set, what is not, what nobody knows. */
function Parts({ attempt }: { attempt: Attempt }) {
  const parts = [
    ["sent", attempt.sent],
    ["refused", attempt.refused],
    [say("set.not_sent"), attempt.not_sent],
    [say("set.not_read_back_unknown"), attempt.unread],
  ] as const;
  return (
    <dl className="attempt-parts">
      {parts.map(
        ([title, settings]) =>
          settings.length > 0 && (
            <div key={title}>
              <dt>{title}</dt>
              <dd>{settings.join(", ")}</dd>
            </div>
          ),
      )}
    </dl>
  );
}
