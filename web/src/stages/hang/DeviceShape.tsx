import type { HungDevice } from "../../shared/api/types";
import type { Place } from "../../shared/draw/labels";
import type { Scale } from "../../shared/draw/scale";
import { figure } from "../../shared/lib/figures";
import { MarkShape } from "../../shared/marks/Mark";
import "./DeviceShape.css";

const NAME_PX = 8.2;
const MARK_PX = 11;
/** Below this width the holes would hide the device. */
const LEAST_FOR_HOLES_PX = 26;
/** So that a text about the left edge stays on the picture. */
const LEAST_TEXT_X_PX = 62;

interface DeviceShapeProps {
  device: HungDevice;
  /** Where its name stands; inside it where that is not said. */
  named: Place | undefined;
  chosen: boolean;
  across: Scale;
  up: Scale;
  pxPerMm: number;
}

/** Whether a device's name stands inside it. */
export const isRoomy = (device: HungDevice, pxPerMm: number) =>
  device.width_mm * pxPerMm > device.name.length * NAME_PX + MARK_PX + 10 && device.height_mm * pxPerMm > 26;

/** A name beside a device is that wide. */
export const nameWidthPx = (name: string) => name.length * NAME_PX;

/** One device: its body, its holes, the space around it, and what of that space is missing. */
export function DeviceShape({ device, named, chosen, across, up, pxPerMm }: DeviceShapeProps) {
  const [x, y] = [across(device.x_mm), up(device.y_mm + device.height_mm)];
  const [w, h] = [device.width_mm * pxPerMm, device.height_mm * pxPerMm];
  return (
    <>
      {chosen && <Space device={device} across={across} up={up} pxPerMm={pxPerMm} />}
      <rect className="device-body" x={x} y={y} width={w} height={h} />
      <rect
        className="touch"
        x={x - Math.max(22 - w / 2, 0)}
        y={y - Math.max(22 - h / 2, 0)}
        width={Math.max(w, 44)}
        height={Math.max(h, 44)}
      />
      {device.display_mm !== null && (
        <rect className="device-display" x={x + w * 0.3} y={up(device.display_mm) - 4} width={w * 0.4} height={8} />
      )}
      {w > LEAST_FOR_HOLES_PX &&
        device.holes.map((hole) => (
          <path
            key={`${hole.mark.x_mm} ${hole.mark.above_floor_mm}`}
            className={hole.bears ? "hole" : "hole hole-loose"}
            d={`M${across(hole.mark.x_mm) - 4} ${up(hole.mark.above_floor_mm)}h8m-4 -4v8`}
          />
        ))}
      {device.sides.map(
        (side) =>
          side.missing !== null && (
            <g key={side.side} className="missing">
              <rect
                x={across(side.missing.x_mm)}
                y={up(side.missing.y_mm + side.missing.height_mm)}
                width={side.missing.width_mm * pxPerMm}
                height={side.missing.height_mm * pxPerMm}
                fill="url(#missing)"
              />
              <text
                x={Math.max(across(side.missing.x_mm + side.missing.width_mm / 2), LEAST_TEXT_X_PX)}
                y={
                  side.side === "top" || side.side === "bottom"
                    ? up(side.missing.y_mm + side.missing.height_mm / 2) + 5
                    : y - 7
                }
                textAnchor="middle"
              >
                {side.missing.text}
              </text>
            </g>
          ),
      )}
      <MarkShape
        verdict={device.verdict}
        x={named === undefined ? x + 11 : x + w / 2}
        y={named === undefined ? y + h - 13 : y + h / 2}
        size={MARK_PX}
      />
      {named === undefined ? (
        <text className="device-name" x={x + 21} y={y + h - 8}>
          {device.name}
        </text>
      ) : (
        <text className="device-name small" x={named.x} y={named.y} textAnchor={named.anchor}>
          {device.name}
        </text>
      )}
      {chosen && (
        <>
          <path className="measure" d={`M${across(0)} ${y + h / 2}H${x}M${x + w / 2} ${y + h}V${up(0)}`} />
          <text className="measure-text" x={x + w / 2 - 6} y={up(0) - 8} textAnchor="end">
            → {figure(device.x_mm, "mm", 0)}
          </text>
          <text className="measure-text" x={x + w / 2 + 6} y={up(0) - 8}>
            ↑ {figure(device.y_mm, "mm", 0)}
          </text>
        </>
      )}
    </>
  );
}

/** The space that the sheet asks for around the chosen device. */
function Space({ device, across, up, pxPerMm }: Omit<DeviceShapeProps, "chosen" | "named">) {
  const needed = (side: string) => device.sides.find((one) => one.side === side)?.needed_mm ?? 0;
  if (device.sides.length === 0) return null;
  const [left, right, top, bottom] = [needed("left"), needed("right"), needed("top"), needed("bottom")];
  return (
    <rect
      className="space"
      x={across(device.x_mm - left)}
      y={up(device.y_mm + device.height_mm + top)}
      width={(device.width_mm + left + right) * pxPerMm}
      height={(device.height_mm + top + bottom) * pxPerMm}
    />
  );
}
