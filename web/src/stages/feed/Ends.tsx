import type { FeedStage } from "../../shared/api/types";
import { figure } from "../../shared/lib/figures";
import { GateLine } from "../../shared/judging/GateLine";
import { JudgementList } from "../../shared/judging/JudgementList";
import { Mark } from "../../shared/marks/Mark";
import { EndPicture } from "./EndPicture";
import "./Ends.css";

interface EndsProps {
  stage: FeedStage;
  take: (key: string) => void;
  whyAll: boolean;
}

/** Every termination: how it is made, and the torque and pull that it got. */
export function Ends({ stage, take, whyAll }: EndsProps) {
  return (
    <section className="device-panel" aria-label="Ends">
      <header>
        <h2>Terminations and torque log</h2>
        <span>Parts go on before the end is made. Touch a torque to take it.</span>
      </header>
      <GateLine gate={stage.dead} />
      {stage.ends.length === 0 && <p className="nothing">No run ends at a device of this job yet.</p>}
      <ul className="ends">
        {stage.ends.map((end) => (
          <li key={end.name}>
            <h3>
              {end.run} <span>at {end.device}</span> <Mark verdict={end.verdict} />
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
                  aria-label={`Torque, ${end.name}`}
                >
                  <span>torque{end.torque_nm !== null && `, ${figure(end.torque_nm, "Nm")} wanted`}</span>
                  <b>{end.torque_read_nm === null ? "– Nm" : figure(end.torque_read_nm, "Nm", 2)}</b>
                  <Mark verdict={end.torque_verdict} />
                </button>
                <button
                  type="button"
                  className="torque"
                  onClick={() => take(`pull/${end.name}`)}
                  aria-label={`Pull, ${end.name}`}
                >
                  <span>pull</span>
                  <b>{end.pull_verdict === "clear" ? "holds" : end.pull_verdict === "stop" ? "moves" : "–"}</b>
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
