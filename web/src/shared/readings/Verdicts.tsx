import type { Prompt, Judgement } from "../api/types";
import { figure } from "../lib/figures";
import { Mark } from "../marks/Mark";
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
          {all && <p className="source">Source: {judgement.source}</p>}
        </div>
      ))}
      {all && ask.expected_because !== "" && <p className="source">Expected: {ask.expected_because}</p>}
      <Causes ask={ask} />
    </div>
  );
}

function Causes({ ask }: { ask: Prompt }) {
  if (ask.causes.length === 0) return null;
  const fits = ask.causes.some((cause) => cause.fits);
  return (
    <div className="causes">
      <h3>{fits ? "Most likely first" : "Nothing fits; nearest"}</h3>
      <ol>
        {ask.causes.map((cause) => (
          <li key={cause.cause_id}>
            {cause.title}{" "}
            <span className="would-read">
              would read {figure(cause.expected_v, "V", 0)}, {cause.current}
            </span>
          </li>
        ))}
      </ol>
      {ask.not_told_apart.length > 0 && <p className="apart">This reading alone cannot tell these apart.</p>}
      <p>
        <span className="look-next">Look next</span> {ask.look_next}
      </p>
    </div>
  );
}
