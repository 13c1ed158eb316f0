import type { Schemas } from "../../shared/api/types";
import { figure } from "../../shared/lib/figures";
import { say } from "../../words/say";

const WIDE = 720;
const LEFT = 10;
const BAR_Y = 34;
const BAR = 30;
const AXIS = 76;

/** What was read beside what was due: the band, the middle of it, and a mark for the reading. */
export function YieldPicture({ look }: { look: Schemas["YieldState"] }) {
  const { read_kwh: read, low_kwh: low, high_kwh: high, expected_kwh: middle } = look;
  if (read === null || high === null || low === null || middle === null) return null;
  const most = Math.max(high, read, 0.1) * 1.12;
  const x = (kwh: number) => LEFT + (Math.max(0, kwh) / most) * (WIDE - 2 * LEFT);
  const onRight = x(read) > WIDE * 0.7;
  return (
    <svg
      className="yield-picture"
      viewBox={`0 0 ${WIDE} 96`}
      role="img"
      aria-label={say("leave.read_to_due", {
        read: figure(read, "kWh"),
        low: figure(low, "", 1),
        high: figure(high, "kWh"),
      })}
    >
      <rect x={x(low)} y={BAR_Y} width={x(high) - x(low)} height={BAR} className="yield-band" />
      <line x1={x(middle)} x2={x(middle)} y1={BAR_Y} y2={BAR_Y + BAR} className="yield-middle" />
      <line x1={LEFT} x2={WIDE - LEFT} y1={BAR_Y + BAR} y2={BAR_Y + BAR} className="yield-axis" />
      <line
        x1={x(read)}
        x2={x(read)}
        y1={BAR_Y - 8}
        y2={BAR_Y + BAR + 6}
        className={`yield-read yield-${look.verdict}`}
      />
      <text
        x={x(read) + (onRight ? -6 : 6)}
        y={BAR_Y - 12}
        textAnchor={onRight ? "end" : "start"}
        className="yield-said"
      >
        {say("leave.read", { read: figure(read, "kWh") })}
      </text>
      <text x={x(low)} y={AXIS + 8} textAnchor={low <= 0 ? "start" : "middle"}>
        {figure(low, "", 1)}
      </text>
      <text x={x(high)} y={AXIS + 8} textAnchor="middle">
        {figure(high, "kWh")}
      </text>
    </svg>
  );
}
