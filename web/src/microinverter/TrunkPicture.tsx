import type { BranchState } from "../shared/api/types";
import { useWidth } from "../shared/draw/useWidth";
import { figure } from "../shared/lib/figures";
import { say } from "../words/say";
import "./microinverter.css";
import "./TrunkPicture.css";

const HEIGHT_PX = 118;
const LINE_PX = 58;
const LEFT_PX = 74;
const RIGHT_PX = 22;
const LEAST_PX_PER_M = 34;

/**
 * A trunk from its box to its end cap, to scale along its length: drops with a unit, drops that are capped,
 * extensions.
 */
export function TrunkPicture({ state, joint }: { state: BranchState; joint: string }) {
  const [ref, width] = useWidth(820);
  const { trunk } = state;
  if (trunk.length_m === null) return <p className="nothing">{say("microinverter.the_trunk_is_drawn_when_every")}</p>;
  const pxPerM = Math.max((width - LEFT_PX - RIGHT_PX) / Math.max(trunk.length_m, 1), LEAST_PX_PER_M);
  const spots = state.units.map((unit, index) => ({ unit, m: trunk.units_m[index] ?? 0 }));
  const x = (m: number) => LEFT_PX + m * pxPerM;
  const total = x(trunk.length_m) + RIGHT_PX;
  return (
    <div ref={ref} className="trunk-sheet">
      <svg className="trunk-drawn" width={total} height={HEIGHT_PX}>
        <title>{say("microinverter.the_trunk_of", { state: state.name })}</title>
        <rect className="trunk-box" x={LEFT_PX - 30} y={LINE_PX - 14} width={28} height={28} />
        <text className="trunk-note" x={LEFT_PX - 30} y={LINE_PX - 22}>
          {joint === "" ? say("microinverter.box") : joint}
        </text>
        <path className="trunk-line" d={`M${LEFT_PX - 2} ${LINE_PX}H${x(trunk.length_m)}`} />
        {trunk.links.map((link, index) => {
          const from = spots[index]?.m ?? 0;
          const middle = x(from + (link.cable_m ?? 0) / 2);
          return (
            <g key={link.start}>
              {Array.from({ length: Math.max(link.segments - 1, 0) }, (_, at) => (
                <Capped key={at} x={x(from + ((at + 1) * (link.cable_m ?? 0)) / (link.segments + link.extensions))} />
              ))}
              {link.extensions > 0 && (
                <path
                  className="trunk-extension"
                  d={`M${x(from) + 9} ${LINE_PX}H${x(from + (link.cable_m ?? 0)) - 9}`}
                />
              )}
              {(link.extensions > 0 || link.how === "joint" || link.jumps) && (
                <text className="trunk-note" x={middle} y={LINE_PX + 44} textAnchor="middle">
                  {link.how === "joint"
                    ? say("common.joint_box")
                    : link.extensions > 0
                      ? say("microinverter.extension_2")
                      : ""}{" "}
                  {figure(link.distance_m ?? 0, "m", 1)}
                </text>
              )}
            </g>
          );
        })}
        {spots.map((spot, index) => (
          <g key={spot.unit}>
            <rect className="trunk-unit" x={x(spot.m) - 8} y={LINE_PX - 8} width={16} height={16} />
            <text className="trunk-name" x={x(spot.m)} y={LINE_PX + 28} textAnchor="middle">
              {spot.unit}
            </text>
            {index > 0 && index % 2 === 0 && (
              <text className="trunk-note" x={x(spot.m)} y={LINE_PX - 16} textAnchor="middle">
                {figure(spot.m, "m")}
              </text>
            )}
          </g>
        ))}
        <path className="trunk-cap" d={`M${x(trunk.length_m) + 10} ${LINE_PX - 10}v20`} />
        {state.feed === "centre" && (
          <text className="trunk-note" x={LEFT_PX} y={HEIGHT_PX - 4}>
            {say("microinverter.fed_in_its_middle_both_ends")}
          </text>
        )}
      </svg>
    </div>
  );
}

/** A drop that stays empty, under its sealing cap. */
function Capped({ x }: { x: number }) {
  return <path className="trunk-sealed" d={`M${x} ${LINE_PX - 7}v14M${x - 6} ${LINE_PX - 7}h12`} />;
}
