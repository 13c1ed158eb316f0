import type { Prompt, Judgement } from "../api/types";
import { figure } from "../lib/figures";
import { Mark } from "../marks/Mark";
import { say } from "../../words/say";
import "./readings.css";
import "./Verdicts.css";

/** What a reading means: each verdict that is not clear, or the first when all are. */
export function Verdicts({ ask, all }: { ask: Prompt; all: boolean }) {
  const telling = ask.judgements.filter((one) => one.verdict !== "clear");
  const shown: Judgement[] = all || telling.length === 0 ? ask.judgements : telling;
  return (
    <div className={`verdicts verdicts-${ask.verdict}`}>
      {shown.map((judgement) => (
        <div key={judgement.rule_id}>
          <Mark verdict={judgement.verdict} />
          <p>{judgement.reason}</p>
          {all && <p className="source">{say("shared.source", { source: judgement.source })}</p>}
        </div>
      ))}
      {all && ask.expected_because !== "" && (
        <p className="source">{say("common.expected", { expected_because: ask.expected_because })}</p>
      )}
      <Causes ask={ask} />
    </div>
  );
}

function Causes({ ask }: { ask: Prompt }) {
  if (ask.causes.length === 0) return null;
  const fits = ask.causes.some((cause) => cause.fits);
  return (
    <div className="causes">
      <h3>{fits ? say("shared.most_likely_first") : say("shared.nothing_fits_nearest")}</h3>
      <ol>
        {ask.causes.map((cause) => (
          <li key={cause.cause_id}>
            {cause.title}{" "}
            <span className="would-read">
              {say("shared.would_read", { expected_v: figure(cause.expected_v, "V", 0), current: cause.current })}
            </span>
          </li>
        ))}
      </ol>
      {ask.not_told_apart.length > 0 && <p className="apart">{say("shared.this_reading_alone_cannot_tell_these")}</p>}
      <p>
        <span className="look-next">{say("shared.look_next")}</span> {ask.look_next}
      </p>
    </div>
  );
}
