import type { GridResponse } from "../../shared/api/types";
import { linear, ticks } from "../../shared/draw/scale";
import { useWidth } from "../../shared/draw/useWidth";
import { figure } from "../../shared/lib/figures";
import { say } from "../../words/say";
import "./set.css";
import "./ResponsePicture.css";

const HEIGHT_PX = 182;
const TOP_PX = 54;
const BOTTOM_PX = 28;
const LEFT_PX = 48;
const RIGHT_PX = 12;
const REACH = 0.25;
const FULL_PCT = 100;

/** A response curve: the profile's as a full line with its corners, the inverter's dashed over it. */
export function ResponsePicture({ response }: { response: GridResponse }) {
  const [ref, width] = useWidth(280);
  const corners = [...response.wanted, ...response.got];
  if (corners.length === 0) return <Off response={response} />;
  const at = corners.map((one) => one.at);
  const low = Math.min(...at);
  const high = Math.max(...at);
  const room = (high - low) * REACH || 1;
  const range: [number, number] = [low - room, high + room];
  const lowest = Math.min(0, ...corners.map((one) => one.pct));
  const x = linear(range, [LEFT_PX, width - RIGHT_PX]);
  const y = linear(
    [lowest, Math.max(FULL_PCT * (lowest < 0 ? 0.5 : 1), ...corners.map((one) => one.pct))],
    [HEIGHT_PX - BOTTOM_PX, TOP_PX],
  );
  return (
    <div ref={ref} className="picture response">
      <svg width={width} height={HEIGHT_PX} role="img" aria-label={response.title}>
        <text className="tick strong" x={0} y={12}>
          {response.title}
        </text>
        <text className="tick" x={0} y={31}>
          {response.y_title}
          {response.read ? "" : say("set.not_read_yet")}
        </text>
        {response.wanted.length === 0 && (
          <text className="tick" x={LEFT_PX} y={HEIGHT_PX / 2 + 10}>
            {say("set.off_in_the_profile_on_in")}
          </text>
        )}
        {corners.length > 0 && (
          <>
            <line className="axis" x1={LEFT_PX} x2={width} y1={y(0)} y2={y(0)} />
            {ticks(range[0], range[1], 3).map((one) => (
              <text key={one} className="tick" x={x(one)} y={HEIGHT_PX - 6} textAnchor="middle">
                {figure(one, response.unit)}
              </text>
            ))}
            {response.wanted.length > 0 && <path className="response-line" d={path(response.wanted, x, y, range)} />}
            {response.got.length > 0 && <path className="got-line" d={path(response.got, x, y, range)} />}
            {response.wanted.map((one) => (
              <g key={`${one.at} ${one.pct}`}>
                <circle className="corner" cx={x(one.at)} cy={y(one.pct)} r={3.5} />
                <title>{`${figure(one.at, response.unit, 3)}: ${figure(one.pct, "%")}`}</title>
              </g>
            ))}
            {[...new Set(response.wanted.map((one) => one.pct))].map((pct) => (
              <text key={pct} className="tick" x={LEFT_PX - 5} y={y(pct) + 4} textAnchor="end">
                {figure(pct, "%", 0)}
              </text>
            ))}
          </>
        )}
      </svg>
    </div>
  );
}

/** A response that neither the profile nor the inverter has on. */
function Off({ response }: { response: GridResponse }) {
  return (
    <div className="response response-off">
      <h3>{response.title}</h3>
      <p className="source">
        {say("set.off_in_this_profile", {
          read: response.read ? say("set.off_in_the_inverter") : say("set.not_read_yet"),
        })}
      </p>
    </div>
  );
}

type Corner = GridResponse["wanted"][number];

/** Level before the first corner and after the last. */
function path(
  corners: Corner[],
  x: (at: number) => number,
  y: (pct: number) => number,
  range: [number, number],
): string {
  const first = corners[0];
  const last = corners.at(-1);
  if (first === undefined || last === undefined) return "";
  const inner = corners.map((one) => `L${x(one.at)} ${y(one.pct)}`).join("");
  return `M${x(range[0])} ${y(first.pct)}${inner}H${x(range[1])}`;
}
