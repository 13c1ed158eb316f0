import { useRef, useState, type KeyboardEvent, type PointerEvent, type ReactNode } from "react";
import type { HangStage, HungDevice, Wall, WallPlace } from "../../shared/api/types";
import { useWidth } from "../../shared/draw/useWidth";
import { figure } from "../../shared/lib/figures";
import { useNarrow } from "../../shared/lib/useNarrow";
import { placeNames } from "../../shared/draw/labels";
import { DeviceShape, isRoomy, nameWidthPx } from "./DeviceShape";
import { shifted } from "./moved";
import { objectNameBox, WallBack } from "./WallBack";
import { say } from "../../words/say";
import "./WallPicture.css";
import "./hang.css";

const HEIGHT_PX = 452;
const NARROW_HEIGHT_PX = 330;
const LEFT_PX = 46;
const RIGHT_PX = 12;
const UNDER_PX = 34;
const OVER_PX = 26;
const DRAG_STEP_MM = 5;
const STEP_MM = 10;
const FINE_STEP_MM = 1;
const LARGE_STEP_MM = 50;
const ARROWS: Partial<Record<string, [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

interface WallPictureProps {
  wall: Wall;
  stage: HangStage;
  devices: HungDevice[];
  chosen: string | null;
  places: WallPlace[];
  select: (name: string) => void;
  place: (name: string, x: number, y: number) => void;
  /** What is said of the chosen device: beside the wall where there is room. */
  children: ReactNode;
}

interface Held {
  name: string;
  right: number;
  up: number;
}

/** The wall to scale: devices are dragged, or moved by arrow keys; what is missing of a space is hatched. */
export function WallPicture({ wall, stage, devices, chosen, places, select, place, children }: WallPictureProps) {
  const [ref, width] = useWidth(820);
  const tall = useNarrow() ? NARROW_HEIGHT_PX : HEIGHT_PX;
  const [held, setHeld] = useState<Held | null>(null);
  const start = useRef<{ x: number; y: number } | null>(null);
  const pxPerMm = Math.min((width - LEFT_PX - RIGHT_PX) / wall.width_mm, (tall - UNDER_PX - OVER_PX) / wall.height_mm);
  const across = (mm: number) => LEFT_PX + mm * pxPerMm;
  const up = (mm: number) => OVER_PX + (wall.height_mm - mm) * pxPerMm;
  const height = OVER_PX + wall.height_mm * pxPerMm + UNDER_PX;

  const shown = devices.map((one) => (held?.name === one.name ? shifted(one, held.right, held.up) : one));
  const bodyOf = (one: HungDevice) => ({
    x: across(one.x_mm),
    y: up(one.y_mm + one.height_mm),
    width: one.width_mm * pxPerMm,
    height: one.height_mm * pxPerMm,
  });
  const names = placeNames(
    shown
      .filter((one) => !isRoomy(one, pxPerMm))
      .map((one) => ({ name: one.name, widthPx: nameWidthPx(one.name), of: bodyOf(one) })),
    [...shown.map(bodyOf), ...wall.objects.map((one) => objectNameBox(one, across, up))],
    { x: across(0), y: up(wall.height_mm), width: wall.width_mm * pxPerMm, height: wall.height_mm * pxPerMm },
  );

  const letGo = () => {
    setHeld(null);
    start.current = null;
  };
  const drop = () => {
    const device = devices.find((one) => one.name === held?.name);
    if (held !== null && device !== undefined && (held.right !== 0 || held.up !== 0)) {
      place(device.name, clamped(device.x_mm + held.right), clamped(device.y_mm + held.up));
    }
    letGo();
  };
  const onMove = (event: PointerEvent) => {
    if (held === null || start.current === null) return;
    setHeld({
      ...held,
      right: onGrid((event.clientX - start.current.x) / pxPerMm),
      up: onGrid((start.current.y - event.clientY) / pxPerMm),
    });
  };
  const onKey = (event: KeyboardEvent, device: HungDevice) => {
    const step = ARROWS[event.key];
    if (step === undefined) return;
    event.preventDefault();
    const mm = event.altKey ? FINE_STEP_MM : event.shiftKey ? LARGE_STEP_MM : STEP_MM;
    const before = held?.name === device.name ? held : { right: 0, up: 0 };
    setHeld({ name: device.name, right: before.right + step[0] * mm, up: before.up + step[1] * mm });
  };
  return (
    <div ref={ref} className="wall-and-device">
      <svg
        className="wall"
        width={LEFT_PX + wall.width_mm * pxPerMm + RIGHT_PX}
        height={height}
        onPointerMove={onMove}
        onPointerUp={drop}
        onPointerCancel={letGo}
      >
        <title>{say("hang.the_wall_to_scale")}</title>
        <defs>
          <pattern id="missing" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <path className="hatch" d="M4 0V8" />
          </pattern>
        </defs>
        <WallBack wall={wall} stage={stage} across={across} up={up} />
        {places.map((one, index) => {
          const device = devices.find((other) => other.name === chosen);
          if (device === undefined) return null;
          return (
            <g key={`${one.x_mm} ${one.y_mm}`} className="place-ghost">
              <rect
                x={across(one.x_mm)}
                y={up(one.y_mm + device.height_mm)}
                width={device.width_mm * pxPerMm}
                height={device.height_mm * pxPerMm}
              />
              <text x={across(one.x_mm) + 5} y={up(one.y_mm) - 6}>
                {index + 1}
              </text>
            </g>
          );
        })}
        {shown.map((device) => {
          return (
            <g
              key={device.name}
              role="button"
              tabIndex={0}
              className={device.name === chosen ? "device device-chosen" : "device"}
              aria-label={say("hang.from_the_left_edge_above_the", {
                device: device.name,
                verdict: device.verdict,
                x_mm: figure(device.x_mm, "mm", 0),
                y_mm: figure(device.y_mm, "mm", 0),
              })}
              aria-pressed={device.name === chosen}
              onPointerDown={(event) => {
                select(device.name);
                event.currentTarget.setPointerCapture(event.pointerId);
                start.current = { x: event.clientX, y: event.clientY };
                setHeld({ name: device.name, right: 0, up: 0 });
              }}
              onFocus={() => {
                if (start.current === null && device.name !== chosen) select(device.name);
              }}
              onKeyDown={(event) => onKey(event, device)}
              onKeyUp={(event) => {
                if (ARROWS[event.key] !== undefined) drop();
              }}
            >
              <g aria-hidden="true">
                <DeviceShape
                  device={device}
                  named={names.get(device.name)}
                  chosen={device.name === chosen}
                  across={across}
                  up={up}
                  pxPerMm={pxPerMm}
                />
              </g>
            </g>
          );
        })}
      </svg>
      {children}
    </div>
  );
}

const onGrid = (mm: number) => Math.round(mm / DRAG_STEP_MM) * DRAG_STEP_MM;
/** A place off the wall's lower left corner is its edge: nothing hangs below the ground. */
const clamped = (mm: number) => Math.max(Math.round(mm), 0);
