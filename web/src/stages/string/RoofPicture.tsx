import { useState, type KeyboardEvent, type PointerEvent } from "react";
import type { ModulePlace, Plane, StringPlan } from "../../shared/api/types";
import { figure } from "../../shared/lib/figures";
import { hasModule, passed, samePlace, touched } from "../../shared/plan/roof";
import { say } from "../../words/say";
import "./RoofPicture.css";
import "./string.css";

const STEPS: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

interface RoofPictureProps {
  planes: Plane[];
  strings: StringPlan[];
  selected: string;
  cutting: boolean;
  paint: (places: ModulePlace[]) => void;
  cut: (plane: Plane, row: number, column: number) => void;
}

interface Held {
  name: string;
  number: number;
  end: "plus" | "minus" | null;
}

/** The roof with the strings on it: paint modules by tap, drag or keys, from the minus end to the plus end. */
export function RoofPicture({ planes, strings, selected, cutting, paint, cut }: RoofPictureProps) {
  const own = strings.find((one) => one.name === selected)?.places ?? [];
  const [draft, setDraft] = useState<ModulePlace[] | null>(null);
  const path = draft ?? own;
  // A press that paints has done its work when it is lifted: the click that follows is no touch of its own.
  const [isPainted, setPainted] = useState(false);

  const held = (place: ModulePlace): Held | null => {
    for (const string of strings) {
      const places = string.name === selected ? path : string.places;
      const at = places.findIndex((one) => samePlace(one, place));
      const isTaken = string.name !== selected && path.some((one) => samePlace(one, place));
      if (at !== -1 && !isTaken)
        return {
          name: string.name,
          number: at + 1,
          end: at === places.length - 1 ? "plus" : at === 0 ? "minus" : null,
        };
    }
    return null;
  };
  const placeUnder = (event: PointerEvent): ModulePlace | null => {
    const under = document.elementFromPoint(event.clientX, event.clientY)?.closest<HTMLElement>("[data-plane]");
    if (under == null) return null;
    return { plane: under.dataset.plane ?? "", row: Number(under.dataset.row), column: Number(under.dataset.column) };
  };
  const act = (plane: Plane, place: ModulePlace) => {
    if (cutting) cut(plane, place.row, place.column);
    else if (hasModule(plane, place.row, place.column)) paint(touched(own, place));
  };
  const onKey = (event: KeyboardEvent, plane: Plane, place: ModulePlace) => {
    const step = STEPS[event.key];
    if (step !== undefined) {
      event.preventDefault();
      const selector = `[data-plane="${CSS.escape(plane.name)}"][data-row="${place.row + step[0]}"][data-column="${place.column + step[1]}"]`;
      event.currentTarget.closest(".roof")?.querySelector<HTMLElement>(selector)?.focus();
    }
  };
  return (
    <div
      className={cutting ? "roof roof-cutting" : "roof"}
      onPointerMove={(event) => {
        const place = draft === null ? null : placeUnder(event);
        const plane = planes.find((one) => one.name === place?.plane);
        if (draft !== null && place !== null && plane !== undefined && hasModule(plane, place.row, place.column))
          setDraft(passed(draft, place));
      }}
      onPointerUp={() => {
        if (draft !== null) paint(draft);
        setDraft(null);
      }}
      onPointerCancel={() => setDraft(null)}
    >
      {planes.map((plane) => (
        <section key={plane.name} className="roof-plane" aria-label={say("common.roof", { plane: plane.name })}>
          <h3>
            {plane.name} {plane.azimuth_deg != null && <Facing azimuth={plane.azimuth_deg} />}{" "}
            <span>
              {plane.tilt_deg == null
                ? say("string.tilt_not_entered")
                : say("string.tilt", { tilt_deg: figure(plane.tilt_deg, "°") })}
              , {plane.azimuth_deg == null ? say("string.facing_not_entered") : figure(plane.azimuth_deg, "°")}
            </span>
          </h3>
          {plane.rows.length === 0 && <p className="source">{say("string.not_drawn_yet_give_it_rows")}</p>}
          <div className="roof-field">
            <div
              className="roof-grid"
              role="grid"
              style={{
                gridTemplateColumns: `repeat(${Math.max(...plane.rows.map((row) => row.length), 1)}, minmax(0, 62px))`,
              }}
            >
              {plane.rows.flatMap((row, rowIndex) =>
                Array.from(row).map((cell, columnIndex) => {
                  const place = { plane: plane.name, row: rowIndex + 1, column: columnIndex + 1 };
                  const holder = held(place);
                  return (
                    <button
                      key={`${place.row}-${place.column}`}
                      type="button"
                      role="gridcell"
                      data-plane={plane.name}
                      data-row={place.row}
                      data-column={place.column}
                      aria-label={say("string.row_number", {
                        plane: plane.name,
                        row: place.row,
                        column: place.column,
                        cell:
                          cell === "#"
                            ? holder === null
                              ? say("string.free")
                              : say("string.string_module", { holder: holder.name, number: holder.number })
                            : say("string.gap"),
                      })}
                      className={roofCell(cell, holder, selected)}
                      onPointerDown={(event) => {
                        event.currentTarget.releasePointerCapture(event.pointerId);
                        const paints =
                          !cutting &&
                          hasModule(plane, place.row, place.column) &&
                          !own.some((one) => samePlace(one, place));
                        setPainted(paints);
                        if (paints) setDraft(passed(own, place));
                      }}
                      onClick={(event) => {
                        const byKey = event.detail === 0;
                        if (byKey || !isPainted) act(plane, place);
                      }}
                      onKeyDown={(event) => onKey(event, plane, place)}
                    >
                      {holder !== null && <b>{holder.name}</b>}
                      {holder !== null && <span>{holder.number}</span>}
                      {holder?.end != null && (
                        <i className={`roof-end end-${holder.end}`}>{holder.end === "plus" ? "+" : "−"}</i>
                      )}
                    </button>
                  );
                }),
              )}
            </div>
            <Leads
              plane={plane}
              paths={strings.map((one) =>
                one.name === selected
                  ? path
                  : one.places.filter((place) => !path.some((mine) => samePlace(mine, place))),
              )}
            />
          </div>
        </section>
      ))}
    </div>
  );
}

// How far down a module the leads run, so that they pass under its letter.
const LEAD_DOWN = 0.16;

/** The leads from module to module, minus end to plus end, drawn over the plane. */
function Leads({ plane, paths }: { plane: Plane; paths: ModulePlace[][] }) {
  const columns = Math.max(...plane.rows.map((row) => row.length), 1);
  return (
    <svg
      className="roof-leads"
      viewBox={`0 0 ${columns} ${Math.max(plane.rows.length, 1)}`}
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      {paths.map((path, index) => (
        <polyline
          key={index}
          points={path
            .filter((place) => place.plane === plane.name)
            .map((place) => `${place.column - 0.5},${place.row - LEAD_DOWN}`)
            .join(" ")}
        />
      ))}
    </svg>
  );
}

function roofCell(cell: string, holder: Held | null, selected: string): string {
  if (cell !== "#") return "roof-cell roof-gap";
  if (holder === null) return "roof-cell roof-free";
  return holder.name === selected ? "roof-cell roof-own" : "roof-cell roof-other";
}

/** Which way a plane faces, north up. */
function Facing({ azimuth }: { azimuth: number }) {
  return (
    <svg className="facing" viewBox="0 0 20 20" width="20" height="20" aria-hidden="true">
      <circle cx="10" cy="10" r="9" />
      <path d="M10 1V10" transform={`rotate(${azimuth} 10 10)`} />
    </svg>
  );
}
