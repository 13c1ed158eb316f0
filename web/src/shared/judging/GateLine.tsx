import type { Gate } from "../api/types";
import { Mark } from "../marks/Mark";

/** Whether the hand may move now, in one line. */
export function GateLine({ gate }: { gate: Gate }) {
  return (
    <p className={`gate gate-${gate.verdict}`}>
      <Mark verdict={gate.verdict} /> {gate.line}
    </p>
  );
}
