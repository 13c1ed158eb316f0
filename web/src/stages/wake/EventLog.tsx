import type { Rehearsal, Verdict } from "../../shared/api/types";
import { Mark } from "../../shared/marks/Mark";
import { say } from "../../words/say";
import "./EventLog.css";

type Event = Rehearsal["shown"]["events"][number];
const S_PER_MIN = 60;
const VERDICTS: Record<Event["weight"], Verdict> = { note: "waiting", good: "clear", look: "watch", harm: "stop" };
const WORDS: Record<Event["weight"], string> = {
  note: say("wake.so"),
  good: say("wake.good"),
  look: say("common.look"),
  harm: say("wake.harm"),
};

/** What followed, the latest first. */
export function EventLog({ events }: { events: Event[] }) {
  if (events.length === 0) return <p className="events-none">{say("wake.move_a_switch_what_follows_stands")}</p>;
  return (
    <ol className="events" aria-live="polite">
      {[...events].reverse().map((one, index) => (
        <li key={`${one.at_s}-${index}`} className={`event event-${one.weight}`}>
          <span className="event-at">
            {Math.floor(one.at_s / S_PER_MIN)}:{String(Math.floor(one.at_s) % S_PER_MIN).padStart(2, "0")}
          </span>
          <Mark verdict={VERDICTS[one.weight]} word={false} />
          <p>
            <b className="unseen">{WORDS[one.weight]}: </b>
            {one.text}
          </p>
        </li>
      ))}
    </ol>
  );
}
