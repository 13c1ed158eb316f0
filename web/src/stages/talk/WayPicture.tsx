import type { Schemas } from "../../shared/api/types";
import { Mark } from "../../shared/marks/Mark";
import { say } from "../../words/say";

/** The chain from each device to its portal, rung by rung, as it was last read. */
export function WayPicture({ talk }: { talk: Schemas["TalkStage"] }) {
  if (talk.ladders.length === 0) return null;
  return (
    <div className="ways-out" aria-label={say("talk.way_to_the_portal")}>
      {talk.ladders.map((one) => (
        <section key={one.device} className="way-out">
          <h2>
            {one.device} <Mark verdict={one.verdict} />
          </h2>
          <ol>
            {one.rungs.map((rung) => (
              <li key={rung.number} className={`rung rung-${rung.stands}`} aria-current={rung.stands === "broken"}>
                <b>{rung.number}</b>
                <span>{rung.name}</span>
              </li>
            ))}
          </ol>
        </section>
      ))}
    </div>
  );
}
