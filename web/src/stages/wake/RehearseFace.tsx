import { Button } from "antd";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Pick } from "../../shared/fields/Pick";
import { EventLog } from "./EventLog";
import { PlantPicture } from "./PlantPicture";
import { PlayedSteps } from "./PlayedSteps";
import { useRehearsal, type Setting } from "./useRehearsal";
import { say } from "../../words/say";
import "./wake.css";
import "./RehearseFace.css";

const SPEEDS = [0, 1, 10, 60] as const;
const S_PER_MIN = 60;
const FACES = [
  ["on", say("wake.switching_on")],
  ["off", say("wake.switching_off")],
  ["replace", say("wake.replacing")],
  ["emergency", say("wake.emergency_off")],
] as const;
const SUNS = [
  ["bright", say("wake.bright_sun")],
  ["weak", say("wake.little_sun")],
  ["dark", say("wake.no_sun")],
] as const;
const SUPPLIES = [
  ["usual", say("wake.the_usual_supply")],
  ["high", say("wake.a_high_supply")],
] as const;

/** The sequence against a model of this plant: any switch in any order, and what would follow. */
export function RehearseFace({ jobId }: { jobId: string }) {
  const play = useRehearsal(jobId);
  const { played, setting } = play;
  const put = (change: Partial<Setting>) => play.again({ ...setting, ...change });
  return (
    <section className="rehearse" aria-label={say("wake.rehearsal")} aria-busy={play.isFormer}>
      <div className="rehearse-tools">
        <Pick label={say("wake.rehearse")} value={setting.face} options={FACES} put={(face) => put({ face })} />
        <Pick label={say("wake.with")} value={setting.sun} options={SUNS} put={(sun) => put({ sun })} />
        <Pick label={say("common.on")} value={setting.supply} options={SUPPLIES} put={(supply) => put({ supply })} />
        <Button onClick={() => put({ seed: setting.seed + 1 })}>{say("wake.another_day")}</Button>
        <Button onClick={() => put({})}>{say("common.begin_again")}</Button>
      </div>
      <div className="rehearse-clock">
        <b role="timer">
          {Math.floor(play.atS / S_PER_MIN)}:{String(Math.floor(play.atS) % S_PER_MIN).padStart(2, "0")}
        </b>
        <div role="radiogroup" aria-label={say("wake.how_fast_time_runs")}>
          {SPEEDS.map((speed) => (
            <button
              key={speed}
              type="button"
              role="radio"
              aria-checked={play.speed === speed}
              className="face"
              onClick={() => play.setSpeed(speed)}
            >
              {speed === 0 ? say("wake.hold") : `${speed}×`}
            </button>
          ))}
        </div>
        {played !== undefined && (
          <p className={played.shown.harmed ? "rehearse-line harmed" : "rehearse-line"}>{played.line}</p>
        )}
      </div>
      <ProblemNote error={play.error} />
      {played !== undefined && (
        <>
          <PlantPicture played={played} act={play.act} />
          <div className="rehearse-below">
            <PlayedSteps steps={played.steps} act={play.act} />
            <EventLog events={played.shown.events} />
          </div>
        </>
      )}
    </section>
  );
}
