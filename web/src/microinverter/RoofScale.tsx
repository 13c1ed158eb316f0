import { useRef, useState, type KeyboardEvent, type PointerEvent, type ReactNode } from "react";
import type { RoofModule, RoofPlane, RoofStage, UnitState } from "../shared/api/types";
import { wrapped } from "../shared/draw/labels";
import { useWidth } from "../shared/draw/useWidth";
import { MarkShape } from "../shared/marks/Mark";
import type { Verdict } from "../shared/api/types";
import { say } from "../words/say";
import "./RoofScale.css";
import "./microinverter.css";

const MARGIN_PX = 10;
const OVER_PX = 6;
/** A module is never drawn narrower than a thumb; a long row then scrolls. */
const LEAST_MODULE_PX = 44;
const MOST_PX_PER_MM = 0.085;
/** Half of a unit as it is drawn: never so large that it meets the words below it. */
const UNIT_PX = 9;
const UNIT_OF_MODULE = 0.13;
const RING_PX = 5;
const MARK_PX = 9;
/** Below this a module holds four signs of a serial, above it six. */
const WIDE_PX = 62;
const HEAD_AT = 0.64;
const FOOT_PX = 16;
/** What a letter of a foot takes. */
const LETTER_PX = 6.5;
const LONG_SIGNS = 6;
const SHORT_SIGNS = 4;
const STEPS: Partial<Record<string, [number, number]>> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** What a module shows of its unit: a large word, a small one, a mark, and how it is tinted. */
export interface Shown {
  head: string;
  foot: string;
  /** The small word is a serial: as many of its last signs are shown as there is room for. */
  isSerial?: boolean;
  verdict: Verdict | null;
  tone: "own" | "other" | "free" | "next";
}

interface RoofScaleProps {
  stage: RoofStage;
  chosen: string | null;
  shown: (unit: UnitState | null) => Shown;
  /** The trunks to draw: each the names of its units from the fed end. */
  trunks: { name: string; units: string[]; strong: boolean }[];
  touch: (unit: UnitState) => void;
  /** A finger passes over a unit while it is down. */
  pass?: (unit: UnitState) => void;
  lift?: () => void;
  onKey?: (event: KeyboardEvent, unit: UnitState) => void;
  /** Where a unit is shown while it is moved, mm along the row. */
  shifted?: { unit: string; mm: number } | null;
  onUnitDown?: (event: PointerEvent, unit: UnitState, pxPerMm: number) => void;
  children?: (plane: RoofPlane) => ReactNode;
}

/** Every plane of the roof to one scale: modules, rails, units on their rails, the trunks that join them. */
export function RoofScale({ stage, children, ...props }: RoofScaleProps) {
  const [ref, width] = useWidth(820);
  const widest = Math.max(...stage.planes.map((plane) => plane.width_mm), 1);
  const narrowest = Math.min(...stage.planes.filter((plane) => plane.drawn).map((plane) => plane.module_w_mm), widest);
  const fit = Math.min((width - 2 * MARGIN_PX) / widest, MOST_PX_PER_MM);
  const pxPerMm = Math.max(fit, LEAST_MODULE_PX / narrowest);
  return (
    <div ref={ref} className="roof-scale">
      {stage.planes.map((plane) => (
        <section key={plane.name} className="scale-plane" aria-label={say("common.roof", { plane: plane.name })}>
          <h2>
            {plane.name} <span>{plane.facing}</span>
          </h2>
          {plane.drawn ? (
            <PlaneScale plane={plane} stage={stage} pxPerMm={pxPerMm} fits={fit >= pxPerMm} {...props} />
          ) : (
            <p className="source">{say("microinverter.not_drawn_yet_give_it_rows")}</p>
          )}
          {children?.(plane)}
        </section>
      ))}
    </div>
  );
}

interface PlaneScaleProps extends Omit<RoofScaleProps, "children"> {
  plane: RoofPlane;
  pxPerMm: number;
  fits: boolean;
}

function PlaneScale({
  plane,
  stage,
  pxPerMm,
  fits,
  chosen,
  shown,
  trunks,
  touch,
  pass,
  lift,
  onKey,
  shifted,
  onUnitDown,
}: PlaneScaleProps) {
  const [down, setDown] = useState<UnitState | null>(null);
  // A press that went over to another unit paints; the click that ends it is no touch of its own.
  const swept = useRef(false);
  const units = new Map(stage.units.map((unit) => [unit.name, unit]));
  const x = (mm: number) => MARGIN_PX + mm * pxPerMm;
  const y = (mm: number) => OVER_PX + mm * pxPerMm;
  const wide = plane.module_w_mm * pxPerMm;
  const tall = plane.module_h_mm * pxPerMm;
  const half = Math.min(UNIT_PX, wide * UNIT_OF_MODULE);
  const signs = wide < WIDE_PX ? SHORT_SIGNS : LONG_SIGNS;
  const under = (event: PointerEvent): UnitState | null => {
    const found = document.elementFromPoint(event.clientX, event.clientY)?.closest<SVGElement>("[data-unit]");
    return found === null || found === undefined ? null : (units.get(found.dataset.unit ?? "") ?? null);
  };
  const at = (unit: UnitState) => x((unit.x_mm ?? 0) + (shifted?.unit === unit.name ? shifted.mm : 0));
  const here = (name: string) => {
    const unit = units.get(name);
    return unit !== undefined && unit.plane === plane.name && unit.x_mm !== null && unit.y_mm !== null ? unit : null;
  };
  const goTo = (event: KeyboardEvent, module: RoofModule) => {
    const step = STEPS[event.key];
    if (step === undefined) return;
    event.preventDefault();
    const selector = `[data-at="${CSS.escape(plane.name)} ${module.row + step[0]} ${module.column + step[1]}"]`;
    event.currentTarget.closest(".roof-scale")?.querySelector<SVGElement>(selector)?.focus();
  };
  return (
    <div className="roof-sheet">
      <svg
        className={fits ? "roof-drawn roof-fits" : "roof-drawn"}
        width={x(plane.width_mm) + MARGIN_PX}
        height={y(plane.height_mm) + OVER_PX}
        onPointerMove={(event) => {
          const unit = down === null ? null : under(event);
          if (down === null || unit === null || (!swept.current && unit.name === down.name)) return;
          if (!swept.current) pass?.(down);
          swept.current = true;
          pass?.(unit);
        }}
        onPointerUp={() => {
          setDown(null);
          lift?.();
        }}
        onPointerCancel={() => setDown(null)}
      >
        <title>{say("microinverter.to_scale", { plane: plane.name })}</title>
        {plane.rails.map((rail) => (
          <path
            key={`${rail.x_mm} ${rail.y_mm}`}
            className="roof-rail"
            d={`M${x(rail.x_mm)} ${y(rail.y_mm)}h${rail.length_mm * pxPerMm}`}
          />
        ))}
        {plane.gaps.map((gap) => (
          <g key={`${gap.x_mm} ${gap.y_mm}`} className="roof-gap-box" aria-hidden="true">
            <rect x={x(gap.x_mm)} y={y(gap.y_mm)} width={gap.width_mm * pxPerMm} height={tall} />
            {wrapped([gap.text], gap.width_mm * pxPerMm, LETTER_PX).map((line, at, lines) => (
              <text
                key={line}
                className="module-foot"
                x={x(gap.x_mm + gap.width_mm / 2)}
                y={y(gap.y_mm) + tall * HEAD_AT + (at - (lines.length - 1) / 2) * FOOT_PX}
              >
                {line}
              </text>
            ))}
          </g>
        ))}
        {plane.modules.map((module) => {
          const unit = units.get(module.unit) ?? null;
          const told = shown(unit);
          const [left, top] = [x(module.x_mm), y(module.y_mm)];
          return (
            <g
              key={`${module.row} ${module.column}`}
              role="button"
              tabIndex={0}
              data-unit={module.unit}
              data-at={`${plane.name} ${module.row} ${module.column}`}
              className={`roof-module module-${told.tone}${unit !== null && unit.name === chosen ? " module-chosen" : ""}`}
              aria-label={say("microinverter.row_number", {
                plane: plane.name,
                row: module.row,
                column: module.column,
                unit:
                  unit === null
                    ? say("microinverter.no_unit")
                    : `${unit.name}${unit.branch === "" ? say("microinverter.on_no_branch_2") : say("microinverter.branch_number", { branch: unit.branch, number: unit.number })}${told.foot === "" ? "" : `, ${told.foot}`}`,
              })}
              aria-pressed={unit !== null && unit.name === chosen}
              onPointerDown={(event) => {
                event.currentTarget.releasePointerCapture(event.pointerId);
                swept.current = false;
                if (unit !== null && pass !== undefined) setDown(unit);
              }}
              onClick={() => {
                if (unit !== null && !swept.current) touch(unit);
              }}
              onKeyDown={(event) => {
                if (unit !== null) onKey?.(event, unit);
                if (event.defaultPrevented) return;
                if (unit !== null && (event.key === " " || event.key === "Enter")) {
                  event.preventDefault();
                  touch(unit);
                } else goTo(event, module);
              }}
            >
              <rect x={left} y={top} width={wide} height={tall} />
              {module.input <= 1 && (
                <text aria-hidden="true" className="module-head" x={left + wide / 2} y={top + tall * HEAD_AT}>
                  {told.head}
                </text>
              )}
              {module.input <= 1 && told.foot !== "" && (
                <text aria-hidden="true" className="module-foot" x={left + wide / 2} y={top + tall * HEAD_AT + FOOT_PX}>
                  {told.isSerial === true ? told.foot.slice(-signs) : told.foot}
                </text>
              )}
              {module.input === 2 && (
                <text aria-hidden="true" className="module-foot" x={left + wide / 2} y={top + tall * HEAD_AT}>
                  {say("microinverter.input_2")}
                </text>
              )}
              {module.input <= 1 && told.verdict !== null && (
                <MarkShape verdict={told.verdict} x={left + wide - MARK_PX} y={top + MARK_PX} size={MARK_PX + 2} />
              )}
            </g>
          );
        })}
        {trunks.map((trunk) => {
          const spots = trunk.units.map(here);
          return (
            <g key={trunk.name} className={trunk.strong ? "trunk trunk-own" : "trunk"}>
              {spots.slice(1).map((spot, index) => {
                const before = spots[index];
                if (spot === null || before === null || before === undefined) return null;
                return (
                  <path key={spot.name} d={`M${at(before)} ${y(before.y_mm ?? 0)}L${at(spot)} ${y(spot.y_mm ?? 0)}`} />
                );
              })}
              <Ends
                first={here(trunk.units[0] ?? "")}
                last={here(trunk.units[trunk.units.length - 1] ?? "")}
                at={at}
                y={y}
                ring={half + RING_PX}
              />
            </g>
          );
        })}
        {stage.units
          .filter((unit) => here(unit.name) !== null)
          .map((unit) => (
            <rect
              key={unit.name}
              className={unit.name === chosen ? "roof-unit roof-unit-chosen" : "roof-unit"}
              x={at(unit) - half}
              y={y(unit.y_mm ?? 0) - half}
              width={2 * half}
              height={2 * half}
              pointerEvents={onUnitDown === undefined ? "none" : undefined}
              onPointerDown={(event) => onUnitDown?.(event, unit, pxPerMm)}
            />
          ))}
      </svg>
    </div>
  );
}

interface EndsProps {
  first: UnitState | null;
  last: UnitState | null;
  at: (unit: UnitState) => number;
  y: (mm: number) => number;
  ring: number;
}

/** Where a trunk is fed, and where its end cap sits. */
function Ends({ first, last, at, y, ring }: EndsProps) {
  return (
    <>
      {first !== null && <circle className="trunk-fed" cx={at(first)} cy={y(first.y_mm ?? 0)} r={ring} />}
      {last !== null && <path className="trunk-cap" d={`M${at(last) - 7} ${y(last.y_mm ?? 0) + ring}h14`} />}
    </>
  );
}
