import type { ModulePlace, Plane } from "../api/types";

const MODULE = "#";
const GAP = ".";

export const samePlace = (a: ModulePlace, b: ModulePlace) =>
  a.plane === b.plane && a.row === b.row && a.column === b.column;

export const hasModule = (plane: Plane, row: number, column: number) => plane.rows[row - 1]?.[column - 1] === MODULE;

/** A drawing of so many rows and columns, keeping what was drawn where it still fits. */
export function resized(rows: string[], rowCount: number, columnCount: number): string[] {
  return Array.from({ length: rowCount }, (_, row) =>
    Array.from({ length: columnCount }, (_, column) => rows[row]?.[column] ?? MODULE).join(""),
  );
}

/** The drawing with a module turned to a gap, or a gap to a module. */
export function turned(rows: string[], row: number, column: number): string[] {
  return rows.map((cells, index) =>
    index === row - 1
      ? Array.from(cells)
          .map((cell, at) => (at === column - 1 ? (cell === MODULE ? GAP : MODULE) : cell))
          .join("")
      : cells,
  );
}

/** A string's path with one more module touched: it grows at the plus end, or is cut back to a module it has. */
export function touched(path: ModulePlace[], place: ModulePlace): ModulePlace[] {
  const at = path.findIndex((one) => samePlace(one, place));
  if (at === -1) return [...path, place];
  return at === path.length - 1 ? path.slice(0, at) : path.slice(0, at + 1);
}

/** A module newly under a moving finger: only grows the path. */
export function passed(path: ModulePlace[], place: ModulePlace): ModulePlace[] {
  return path.some((one) => samePlace(one, place)) ? path : [...path, place];
}
