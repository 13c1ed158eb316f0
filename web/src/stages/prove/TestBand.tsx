import type { Prompt, Verdict } from "../../shared/api/types";
import { linear } from "../../shared/draw/scale";
import { MarkShape } from "../../shared/marks/Mark";
import { say } from "../../words/say";
import "./TestBand.css";

const WIDTH_PX = 132;
const HEIGHT_PX = 22;
const SIDE_PX = 9;
const ROOM_SHARE = 0.45;

/**
 * A test in a line: the expected range as an open box, the reading as its mark; nothing where there is no
 * range.
 */
export function TestBand({ ask, verdict }: { ask: Prompt | undefined; verdict: Verdict }) {
  const low = ask?.expected_low ?? null;
  const high = ask?.expected_high ?? null;
  const value = ask?.reading?.value ?? null;
  if (low === null || high === null) return <span className="test-band" />;
  const known = [low, high, ...(value === null ? [] : [value])];
  const room = (Math.max(...known) - Math.min(...known)) * ROOM_SHARE;
  const x = linear([Math.min(...known) - room, Math.max(...known) + room], [SIDE_PX, WIDTH_PX - SIDE_PX]);
  const middle = HEIGHT_PX / 2;
  return (
    <svg
      className="test-band"
      width={WIDTH_PX}
      height={HEIGHT_PX}
      role="img"
      aria-label={ask === undefined ? "" : say("common.expected_2", { expected_text: ask.expected_text })}
    >
      <line className="axis" x1={0} x2={WIDTH_PX} y1={middle} y2={middle} />
      <rect className="expected-box" x={x(low)} y={4} width={Math.max(x(high) - x(low), 3)} height={HEIGHT_PX - 8} />
      {value !== null && <MarkShape verdict={verdict} x={x(value)} y={middle} size={12} />}
    </svg>
  );
}
