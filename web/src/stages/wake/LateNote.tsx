import { useEffect, useState } from "react";
import { say } from "../../words/say";

const TICK_MS = 1000;

/** What to do once something is later than it should be; until then when it is expected. */
export function LateNote({ at, otherwise }: { at: string; otherwise: string }) {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), TICK_MS);
    return () => clearInterval(timer);
  }, []);
  if (now < new Date(at).getTime()) return null;
  return <p className="reason reason-watch">{say("wake.later_than_expected", { otherwise })}</p>;
}
