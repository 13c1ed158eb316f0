import { say } from "../../words/say";

import "./Moment.css";
const MINUTE_CHARS = 16;
const MS_PER_MINUTE = 60_000;

/** A moment as the browser's date-and-time field has it, on this device's clock. */
function onThisClock(moment: Date): string {
  return new Date(moment.getTime() - moment.getTimezoneOffset() * MS_PER_MINUTE).toISOString().slice(0, MINUTE_CHARS);
}

/** When a reading was taken: now, or an earlier moment when it comes from paper. */
export function Moment({ moment, setMoment }: { moment: string | null; setMoment: (iso: string | null) => void }) {
  if (moment === null) {
    return (
      <div className="moment">
        <span>{say("shared.read_now")}</span>
        <button type="button" className="quiet" onClick={() => setMoment(new Date().toISOString())}>
          {say("shared.it_was_earlier")}
        </button>
      </div>
    );
  }
  return (
    <div className="moment">
      <label>
        {say("shared.read_at")}{" "}
        <input
          type="datetime-local"
          value={onThisClock(new Date(moment))}
          onChange={(event) => {
            if (event.target.value !== "") setMoment(new Date(event.target.value).toISOString());
          }}
        />
      </label>
      <button type="button" className="quiet" onClick={() => setMoment(null)}>
        {say("shared.now")}
      </button>
    </div>
  );
}
