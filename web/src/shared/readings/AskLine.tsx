import type { Ask, KeptReading } from "../api/client";
import { dayAndClock } from "../figures";
import { Mark } from "../marks/Mark";
import { Verdicts } from "./Verdicts";

interface AskLineProps {
  ask: Ask;
  timezone: string;
  whyAll: boolean;
  take: () => void;
  correct: (reading: KeptReading) => void;
}

/** One thing to read or read already: the big figure, what was expected, who and when. */
export function AskLine({ ask, timezone, whyAll, take, correct }: AskLineProps) {
  const { reading } = ask;
  const tells = ask.verdict !== "clear" || whyAll;
  return (
    <section className={`ask ask-${ask.verdict}`} id={`ask-${ask.key}`}>
      <div className="ask-head">
        <span>{ask.title}{ask.optional && <i> (optional)</i>}</span>
        <Mark verdict={ask.verdict} />
      </div>
      {reading === null ? (
        <div className="ask-empty">
          <span>{ask.expected_text === "" ? "" : `expect ${ask.expected_text}`}</span>
          <button type="button" className="quiet" onClick={take}>read</button>
        </div>
      ) : (
        <>
          <div className="ask-value">
            <b>{reading.text}</b>
            {reading.basis === "clear_sky" && <em>clear sky, computed</em>}
            {ask.expected_text !== "" && <span>expect {ask.expected_text}</span>}
          </div>
          {tells && <Verdicts ask={ask} all={whyAll} />}
          <div className="ask-foot">
            <History history={ask.history} timezone={timezone} />
            <button type="button" className="quiet" onClick={() => correct(reading)}>correct</button>
            <button type="button" className="quiet" onClick={take}>read again</button>
          </div>
        </>
      )}
    </section>
  );
}

function History({ history, timezone }: { history: KeptReading[]; timezone: string }) {
  return (
    <ul className="history">
      {history.map((kept) => (
        <li key={kept.id} className={kept.superseded_by === null ? undefined : "superseded"}>
          <span>{kept.text}</span> {kept.by}, {dayAndClock(kept.taken_at, timezone)}
          {kept.superseded_by !== null && " (corrected)"}
        </li>
      ))}
    </ul>
  );
}
