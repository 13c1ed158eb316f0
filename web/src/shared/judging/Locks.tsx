import { useState, type ReactNode } from "react";
import { useNavigate } from "react-router";
import type { Lock } from "../api/types";
import { stageAddress } from "../lib/stageSlugs";
import { Mark } from "../marks/Mark";
import { say } from "../../words/say";
import "./Locks.css";

const FIRST = 4;

interface LocksProps {
  jobId: string;
  locks: Lock[];
  /** The stage that shows them: its own locks lead nowhere else. */
  here: number;
  /** What may be done about one lock, beside going there. */
  lift?: (lock: Lock) => ReactNode;
}

/** Everything that keeps a hand from doing it: what holds it, where, and one touch to there. */
export function Locks({ jobId, locks, here, lift }: LocksProps) {
  const [all, setAll] = useState(false);
  const navigate = useNavigate();
  const stops = locks.filter((one) => one.verdict === "stop");
  const ordered = [...stops, ...locks.filter((one) => one.verdict !== "stop")];
  const shown = all ? ordered : ordered.slice(0, FIRST);
  return (
    <ul className="locks" aria-label={say("shared.locks")}>
      {shown.map((one) => (
        <li key={one.id} className="lock">
          <Mark verdict={one.verdict} word={false} />
          <div className="lock-said">
            <b>{one.where}</b> <span>{one.reason}</span>
            {lift?.(one)}
          </div>
          {one.stage !== here && (
            <button type="button" className="lock-go" onClick={() => void navigate(stageAddress(jobId, one.stage))}>
              {say("common.go_there")}
            </button>
          )}
        </li>
      ))}
      {ordered.length > FIRST && (
        <li>
          <button type="button" className="quiet" onClick={() => setAll(!all)}>
            {all ? say("shared.only_the_first") : say("shared.more", { orderedCount: ordered.length - FIRST })}
          </button>
        </li>
      )}
    </ul>
  );
}
