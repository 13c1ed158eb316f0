import { Button } from "antd";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Pick } from "../../shared/fields/Pick";
import { EventLog } from "./EventLog";
import { PlantPicture } from "./PlantPicture";
import { PlayedSteps } from "./PlayedSteps";
import { useRehearsal, type Setting } from "./useRehearsal";
import "./wake.css";
import "./RehearseFace.css";

const SPEEDS = [0, 1, 10, 60] as const;
const S_PER_MIN = 60;
const FACES = [
  ["on", "switching on"],
  ["off", "switching off"],
  ["replace", "replacing"],
  ["emergency", "emergency off"],
] as const;
const SUNS = [
  ["bright", "bright sun"],
  ["weak", "little sun"],
  ["dark", "no sun"],
] as const;
const SUPPLIES = [
  ["usual", "the usual supply"],
  ["high", "a high supply"],
] as const;

/** The sequence against a model of this plant: any switch in any order, and what would follow. */
export function RehearseFace({ jobId }: { jobId: string }) {
  const play = useRehearsal(jobId);
  const { played, setting } = play;
  const put = (change: Partial<Setting>) => play.again({ ...setting, ...change });
  return (
    <section className="rehearse" aria-label="Rehearsal" aria-busy={play.isFormer}>
      <div className="rehearse-tools">
        <Pick label="Rehearse" value={setting.face} options={FACES} put={(face) => put({ face })} />
        <Pick label="With" value={setting.sun} options={SUNS} put={(sun) => put({ sun })} />
        <Pick label="On" value={setting.supply} options={SUPPLIES} put={(supply) => put({ supply })} />
        <Button onClick={() => put({ seed: setting.seed + 1 })}>Another day</Button>
        <Button onClick={() => put({})}>Begin again</Button>
      </div>
      <div className="rehearse-clock">
        <b role="timer">
          {Math.floor(play.atS / S_PER_MIN)}:{String(Math.floor(play.atS) % S_PER_MIN).padStart(2, "0")}
        </b>
        <div role="radiogroup" aria-label="How fast time runs">
          {SPEEDS.map((speed) => (
            <button
              key={speed}
              type="button"
              role="radio"
              aria-checked={play.speed === speed}
              className="face"
              onClick={() => play.setSpeed(speed)}
            >
              {speed === 0 ? "hold" : `${speed}×`}
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
