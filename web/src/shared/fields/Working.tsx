import { useEffect, useState } from "react";
import { say } from "../../words/say";
import "./Working.css";

const SECOND_MS = 1000;

interface WorkingProps {
  /** Whether the work is under way. */
  is: boolean;
  doing: string;
  stop: () => void;
}

/** Work under way: for how long already, and the way to stop it; nothing of what is done at once. */
export function Working({ is, doing, stop }: WorkingProps) {
  return is ? <Clock doing={doing} stop={stop} /> : null;
}

function Clock({ doing, stop }: Omit<WorkingProps, "is">) {
  const [seconds, setSeconds] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => setSeconds((before) => before + 1), SECOND_MS);
    return () => clearInterval(timer);
  }, []);
  if (seconds === 0) return null;
  return (
    <span className="working">
      <span role="status">{doing}</span> <b>{seconds} s</b>
      <button type="button" className="quiet" onClick={stop}>
        {say("shared.stop")}
      </button>
    </span>
  );
}
