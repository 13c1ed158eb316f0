import type { WakeStep } from "../../shared/api/types";
import "./StepShape.css";

/** A step on its line: done, here, locked, not as expected, still to come. Shape carries it. */
export function StepShape({ standing, number }: { standing: WakeStep["standing"]; number: number }) {
  return (
    <svg
      className={`step-shape shape-${standing}`}
      width="44"
      height="44"
      viewBox="0 0 44 44"
      role="img"
      aria-label={standing}
    >
      {standing === "locked" && <path className="shackle" d="M14.5 18V11a7.5 7.5 0 0 1 15 0v7" />}
      {standing === "failed" ? (
        <rect x="7" y="7" width="30" height="30" />
      ) : standing === "locked" ? (
        <rect x="8" y="16" width="28" height="24" />
      ) : (
        <circle cx="22" cy="22" r="16" />
      )}
      {standing === "done" ? (
        <path className="tick-mark" d="M14 22.5l6 6 11-12" />
      ) : (
        <text x="22" y={standing === "locked" ? 34 : 27.5} textAnchor="middle">
          {number}
        </text>
      )}
    </svg>
  );
}
