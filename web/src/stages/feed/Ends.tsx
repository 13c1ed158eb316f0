import type { FeedStage } from "../../shared/api/types";
import { figure } from "../../shared/lib/figures";
import { GateLine } from "../../shared/judging/GateLine";
import { JudgementList } from "../../shared/judging/JudgementList";
import { Mark } from "../../shared/marks/Mark";
import { EndPicture } from "./EndPicture";
import { say } from "../../words/say";
import "./Ends.css";

interface EndsProps {
  stage: FeedStage;
  take: (key: string) => void;
  whyAll: boolean;
}

/** Every termination: how it is made, and the torque and pull that it got. */
export function Ends({ stage, take, whyAll }: EndsProps) {
  return (
    <section className="device-panel" aria-label={say("feed.ends")}>
      <header>
        <h2>{say("feed.terminations_and_torque_log")}</h2>
        <span>{say("feed.parts_go_on_before_the_end")}</span>
      </header>
      <GateLine gate={stage.dead} />
      {stage.ends.length === 0 && <p className="nothing">{say("feed.no_run_ends_at_a_device")}</p>}
      <ul className="ends">
        {stage.ends.map((end) => (
          <li key={end.name}>
            <h3>
              {end.run} <span>{say("feed.at", { device: end.device })}</span> <Mark verdict={end.verdict} />
            </h3>
            <div className="end-body">
              <EndPicture end={end} />
              <div className="end-how">
                {end.threading.length > 0 && (
                  <ol>
                    {end.threading.map((part) => (
                      <li key={part}>{part}</li>
                    ))}
                  </ol>
                )}
                <p>{end.finish}.</p>
                <p className={`end-line word-${end.verdict}`}>{end.line}</p>
              </div>
              <div className="end-log">
                <button
                  type="button"
                  className="torque"
                  onClick={() => take(`torque/${end.name}`)}
                  aria-label={say("feed.torque", { end: end.name })}
                >
                  <span>
                    {say("feed.torque_2", {
                      torque_nm:
                        end.torque_nm !== null && say("feed.wanted", { torque_nm: figure(end.torque_nm, "Nm") }),
                    })}
                  </span>
                  <b>{end.torque_read_nm === null ? "– Nm" : figure(end.torque_read_nm, "Nm", 2)}</b>
                  <Mark verdict={end.torque_verdict} />
                </button>
                <button
                  type="button"
                  className="torque"
                  onClick={() => take(`pull/${end.name}`)}
                  aria-label={say("feed.pull", { end: end.name })}
                >
                  <span>{say("feed.pull_2")}</span>
                  <b>
                    {end.pull_verdict === "clear"
                      ? say("feed.holds")
                      : end.pull_verdict === "stop"
                        ? say("feed.moves")
                        : "–"}
                  </b>
                  <Mark verdict={end.pull_verdict} />
                </button>
              </div>
            </div>
            <JudgementList
              judgements={whyAll ? end.judgements : end.judgements.filter((one) => one.verdict !== "clear")}
              allOpen={whyAll}
            />
          </li>
        ))}
      </ul>
    </section>
  );
}
