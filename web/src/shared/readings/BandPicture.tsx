import type { Prompt, Verdict } from "../api/types";
import { linear } from "../draw/scale";
import { useWidth } from "../draw/useWidth";
import { figure } from "../lib/figures";
import { MarkShape } from "../marks/Mark";
import { say } from "../../words/say";
import "./BandPicture.css";

const HEIGHT_PX = 62;
const LINE_Y_PX = 30;
const SIDE_PX = 14;
const ROOM_SHARE = 0.35;

interface BandPictureProps {
  ask: Prompt;
  value: number | null;
  verdict: Verdict;
}

/** The expected range as an open box, the reading as the filled mark on it, the limit as a line. */
export function BandPicture({ ask, value, verdict }: BandPictureProps) {
  const [ref, width] = useWidth(300);
  const { expected_low: low, expected_high: high } = ask;
  if (low === null || high === null) return null;
  const never = ask.judgements.find((one) => one.rule_id === "string_under_max")?.limit ?? null;
  const known = [low, high, ...(value === null ? [] : [value]), ...(never === null ? [] : [never])];
  const room = (Math.max(...known) - Math.min(...known)) * ROOM_SHARE;
  const x = linear([Math.min(...known) - room / 2, Math.max(...known) + room / 2], [SIDE_PX, width - SIDE_PX]);
  const near = never !== null && x(never) - x(high) < 120;
  return (
    <div ref={ref} className="band-picture">
      <svg
        width={width}
        height={HEIGHT_PX}
        role="img"
        aria-label={say("common.expected_2", { expected_text: ask.expected_text })}
      >
        <line className="axis" x1={0} x2={width} y1={LINE_Y_PX} y2={LINE_Y_PX} />
        <rect
          className="expected-box"
          x={x(low)}
          y={LINE_Y_PX - 12}
          width={Math.max(x(high) - x(low), 3)}
          height={24}
        />
        <text className="tick" x={(x(low) + x(high)) / 2} y={HEIGHT_PX - 4} textAnchor="middle">
          {ask.expected_text}
        </text>
        {never !== null && (
          <>
            <line className="never" x1={x(never)} x2={x(never)} y1={6} y2={46} />
            <text className="tick never-text" x={x(never) + 4} y={near ? 12 : HEIGHT_PX - 4} textAnchor="end">
              {say("shared.max", { never: figure(never, ask.unit, 0) })}
            </text>
          </>
        )}
        {value !== null && <MarkShape verdict={verdict} x={x(value)} y={LINE_Y_PX} size={15} />}
      </svg>
    </div>
  );
}
