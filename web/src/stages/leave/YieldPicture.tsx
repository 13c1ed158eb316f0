import type { Schemas } from "../../shared/api/types";
import { useWidth } from "../../shared/draw/useWidth";
import { figure } from "../../shared/lib/figures";
import { say } from "../../words/say";

const WIDEST_PX = 720;
const HIGH_PX = 96;
/** Half of what is written under the band: it stays inside the picture. */
const HALF_PX = 84;
const LEFT = 10;
const BAR_Y = 34;
const BAR = 30;
const AXIS = 76;

/** What was read beside what was due: the band, the middle of it, and a mark for the reading. */
export function YieldPicture({ look }: { look: Schemas["YieldState"] }) {
  const [frame, room] = useWidth(WIDEST_PX);
  const { read_kwh: read, low_kwh: low, high_kwh: high, expected_kwh: middle } = look;
  if (read === null || high === null || low === null || middle === null) return null;
  const most = Math.max(high, read, 0.1) * 1.12;
  const wide = Math.min(room, WIDEST_PX);
  const x = (kwh: number) => LEFT + (Math.max(0, kwh) / most) * (wide - 2 * LEFT);
  const onRight = x(read) > wide * 0.7;
  const dueX = Math.min(Math.max(x(middle), HALF_PX), wide - HALF_PX);
  return (
    <div className="yield-picture" ref={frame}>
      <svg
        width={wide}
        height={HIGH_PX}
        role="img"
        aria-label={say("leave.read_to_due", {
          read: figure(read, "kWh"),
          low: figure(low, "", 1),
          high: figure(high, "kWh"),
        })}
      >
        <rect x={x(low)} y={BAR_Y} width={x(high) - x(low)} height={BAR} className="yield-band" />
        <line x1={x(middle)} x2={x(middle)} y1={BAR_Y} y2={BAR_Y + BAR} className="yield-middle" />
        <line x1={LEFT} x2={wide - LEFT} y1={BAR_Y + BAR} y2={BAR_Y + BAR} className="yield-axis" />
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
        <text x={dueX} y={AXIS + 10} textAnchor="middle">
          {say("leave.due_to", { low: figure(low, "", 1), high: figure(high, "kWh") })}
        </text>
      </svg>
    </div>
  );
}
