import { useState } from "react";

const MINUTE_CHARS = 16;

function localNow(): string {
  const now = new Date();
  return new Date(now.getTime() - now.getTimezoneOffset() * 60_000).toISOString().slice(0, MINUTE_CHARS);
}

/** When a reading was taken: now, or an earlier moment when it comes from paper. */
export function Moment({ moment, setMoment }: { moment: string | null; setMoment: (iso: string | null) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  const change = (value: string) => {
    setTyped(value);
    setMoment(value === "" ? null : new Date(value).toISOString());
  };
  const now = () => {
    setTyped(null);
    setMoment(null);
  };
  if (typed === null && moment === null) {
    return (
      <div className="moment">
        <span>Read now</span>
        <button type="button" className="quiet" onClick={() => change(localNow())}>it was earlier</button>
      </div>
    );
  }
  return (
    <div className="moment">
      <label>
        Read at <input type="datetime-local" aria-label="Read at" value={typed ?? ""} onChange={(event) => change(event.target.value)} />
      </label>
      <button type="button" className="quiet" onClick={now}>now</button>
    </div>
  );
}
