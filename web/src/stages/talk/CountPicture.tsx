import type { Schemas } from "../../shared/api/types";
import { say } from "../../words/say";

const W = 640;
const H = 190;
const LEFT = 40;
const BOTTOM = 160;
const TOP = 18;
const RIGHT = 16;

/** How many report, minute by minute, drawn against the plan; dotted where a look is due. */
export function CountPicture({ report }: { report: Schemas["ReportState"] }) {
  const last = Math.max(...report.looks_min, ...report.counts.map((one) => one.at_min), 1);
  const most = Math.max(report.plan, ...report.counts.map((one) => one.count), 1);
  const x = (minute: number) => LEFT + ((W - LEFT - RIGHT) * minute) / last;
  const y = (count: number) => BOTTOM - ((BOTTOM - TOP) * count) / most;
  const way = report.counts.map((one, at) => `${at === 0 ? "M" : "L"}${x(one.at_min)} ${y(one.count)}`).join("");
  return (
    <svg
      className="count-picture"
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label={say("talk.counts_of_planned", {
        countsCount: report.counts.length,
        device: report.device,
        plan: report.plan,
      })}
    >
      <line className="axis" x1={LEFT} x2={W - RIGHT} y1={BOTTOM} y2={BOTTOM} />
      <line className="plan-line" x1={LEFT} x2={W - RIGHT} y1={y(report.plan)} y2={y(report.plan)} />
      <text className="tick strong" x={LEFT - 6} y={y(report.plan) + 5} textAnchor="end">
        {report.plan}
      </text>
      {report.looks_min.map((minute) => (
        <g key={minute}>
          <line className="look-line" x1={x(minute)} x2={x(minute)} y1={TOP} y2={BOTTOM} />
          <text className="tick" x={x(minute)} y={BOTTOM + 20} textAnchor={minute === last ? "end" : "middle"}>
            {minute} min
          </text>
        </g>
      ))}
      {way !== "" && <path className="count-way" d={way} />}
      {report.counts.map((one) => (
        <circle key={one.at} className="count-dot" cx={x(one.at_min)} cy={y(one.count)} r="6" />
      ))}
    </svg>
  );
}
