import type { Verdict } from "../api/types";
import { say } from "../../words/say";
import "./Mark.css";

/** A verdict's shape, drawn around (x, y); shape and word carry it, colour repeats it. */
export function MarkShape({ verdict, x, y, size }: { verdict: Verdict; x: number; y: number; size: number }) {
  const half = size / 2;
  const className = `mark-${verdict}`;
  switch (verdict) {
    case "clear":
      return <circle className={className} cx={x} cy={y} r={half} />;
    case "watch":
      return <path className={className} d={`M${x} ${y - half}L${x + half} ${y + half}H${x - half}Z`} />;
    case "stop":
      return <rect className={className} x={x - half} y={y - half} width={size} height={size} />;
    case "waiting":
      return <circle className={className} cx={x} cy={y} r={half - 1} />;
  }
}

/** A verdict as shape and word, or as the shape alone with the word for readers of screens. */
export function Mark({ verdict, word = true }: { verdict: Verdict; word?: boolean }) {
  return (
    <span className={`mark word-${verdict}`}>
      <svg viewBox="0 0 12 12" width="12" height="12" aria-hidden="true">
        <MarkShape verdict={verdict} x={6} y={6} size={10} />
      </svg>
      <span className={word ? undefined : "unseen"}>{verdict}</span>
    </span>
  );
}

/**
 * What is only on this device yet: a ring that nothing fills, with its words. core: the version that judged it
 * here, empty where nothing did. What is on its way for a moment only is not shown so.
 */
export function HollowMark({ core = "" }: { core?: string }) {
  return (
    <span
      className="mark mark-late word-waiting"
      title={core === "" ? undefined : say("shared.judged_on_this_device_core", { core })}
    >
      <svg viewBox="0 0 12 12" width="12" height="12" aria-hidden="true">
        <circle className="mark-hollow" cx={6} cy={6} r={4} />
      </svg>
      <span>{say("shared.on_this_device")}</span>
    </span>
  );
}
