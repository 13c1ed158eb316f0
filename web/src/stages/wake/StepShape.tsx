import type { WakeStep } from "../../shared/api/client";

/** A step on its line: done, here, locked, not as expected, still to come. Shape carries it. */
export function StepShape({ standing, number }: { standing: WakeStep["standing"]; number: number }) {
  return (
    <svg className={`step-shape shape-${standing}`} width="44" height="44" viewBox="0 0 44 44" role="img" aria-label={standing}>
      {standing === "failed" ? <rect x="7" y="7" width="30" height="30" /> : <circle cx="22" cy="22" r="16" />}
      {standing === "locked" && <path className="shackle" d="M13 10V6.5a9 9 0 0 1 18 0V10" />}
      {standing === "done" ? <path className="tick-mark" d="M14 22.5l6 6 11-12" /> : <text x="22" y="27.5" textAnchor="middle">{number}</text>}
    </svg>
  );
}
