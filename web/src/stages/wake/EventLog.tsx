import type { Rehearsal, Verdict } from "../../shared/api/types";
import { Mark } from "../../shared/marks/Mark";
import "./EventLog.css";

type Event = Rehearsal["shown"]["events"][number];
const S_PER_MIN = 60;
const VERDICTS: Record<Event["weight"], Verdict> = { note: "waiting", good: "clear", look: "watch", harm: "stop" };
const WORDS: Record<Event["weight"], string> = { note: "so", good: "good", look: "look", harm: "harm" };

/** What followed, the latest first. */
export function EventLog({ events }: { events: Event[] }) {
  if (events.length === 0) return <p className="events-none">Move a switch: what follows stands here.</p>;
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
