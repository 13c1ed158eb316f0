import { useEffect, useState } from "react";
import { say } from "../../words/say";
import "./Countdown.css";

const TICK_MS = 1000;
const S_PER_MIN = 60;

/** Time left until a moment, from the moment itself: it survives a reload and a phone that sleeps. */
export function Countdown({ until }: { until: string }) {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), TICK_MS);
    return () => clearInterval(timer);
  }, []);
  const left = Math.max(0, Math.ceil((new Date(until).getTime() - now) / TICK_MS));
  if (left === 0) return <b className="countdown">{say("shared.the_wait_is_over")}</b>;
  return (
    <b className="countdown" role="timer">
      {say("shared.left", {
        minutes: Math.floor(left / S_PER_MIN),
        seconds: String(left % S_PER_MIN).padStart(2, "0"),
      })}
    </b>
  );
}
