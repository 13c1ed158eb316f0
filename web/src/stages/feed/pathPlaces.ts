import type { FeedStage } from "../../shared/api/types";

type Path = FeedStage["path"];
type Place = Path["places"][number];

export interface Spot {
  x: number;
  y: number;
}

export interface PathLayout {
  spots: Map<string, Spot>;
  /** Ids of what hangs below the path. */
  hanging: Set<string>;
  width: number;
  height: number;
  halfPx: number;
  columnPx: number;
  /** Ids of what has something hanging from it: on a phone its name goes to the other side. */
  crowded: Set<string>;
  /** Whether the path runs from top to bottom, as on a phone. */
  down: boolean;
}

const ROW_PX = 116;
const TOP_PX = 56;
/** Over a symbol on a desk: its name, the lines above it, and how far they stand off. */
const HEAD_PX = 33;
const LINE_PX = 15;
const STEP_DOWN_PX = 98;
const HALF_PX = 22;
/** Where a wire turns: under a symbol, and before one in shares of a column. */
const LEAD_PX = 16;
const BEND = 0.36;
/** What hangs below is named below it. */
const HANGING = ["earth", "surge", "battery", "loads"];

export const hangs = (place: Place) => HANGING.includes(place.symbol);
/** A joint box is named below it too: the run that leaves it is named above. */
export const namedBelow = (place: Place) => hangs(place) || place.symbol === "joint";

/**
 * On a desk a line of what hangs nothing below itself stands under it, the last one: above runs the wire's own label.
 */
export const parts = (place: Place, hasBelow: boolean) =>
  !hasBelow && !namedBelow(place) && place.symbol !== "inverter" && place.lines.length > 0;

/** Where every element stands: roof left and supply right on a desk, roof on top on a phone. */
export function layOut(path: Path, width: number, down: boolean): PathLayout {
  const hanging = new Set(path.places.filter(hangs).map((place) => place.id));
  const crowded = new Set(path.wires.filter((wire) => hanging.has(wire.end)).map((wire) => wire.start));
  const topPx = down ? TOP_PX : headroom(path.places, crowded);
  // A path that does not begin at the roof yet leaves no room for it.
  const firstColumn = Math.min(path.columns - 1, ...path.places.map((place) => place.column));
  const columns = path.columns - firstColumn;
  const column = width / columns;
  const across = width / path.rows;
  const spots = new Map(
    path.places.map((place) => [
      place.id,
      down
        ? { x: (place.row + 0.5) * across, y: topPx + (place.column - firstColumn) * STEP_DOWN_PX + HALF_PX }
        : { x: (place.column - firstColumn + 0.5) * column, y: topPx + place.row * ROW_PX + HALF_PX },
    ]),
  );
  const length = down ? columns * STEP_DOWN_PX : (path.rows - 1) * ROW_PX + 2 * HALF_PX + 40;
  return { spots, hanging, crowded, width, height: topPx + length, halfPx: HALF_PX, columnPx: column, down };
}

/** What the names and lines over the symbols need above the first row. */
function headroom(places: Place[], crowded: Set<string>): number {
  const above = places
    .filter((place) => !namedBelow(place))
    .map((place) => {
      const lines = place.lines.length - Number(parts(place, crowded.has(place.id)));
      return HEAD_PX + lines * LINE_PX - place.row * ROW_PX;
    });
  return Math.max(0, ...above);
}

/** A wire's corners: level or upright between neighbours, an elbow to what stands beside. */
export function corners(layout: PathLayout, from: Spot, to: Spot, hanging: boolean): Spot[] {
  const { halfPx: half, down } = layout;
  if (Math.abs(from.x - to.x) < 1)
    return [
      { x: from.x, y: from.y + half },
      { x: to.x, y: to.y - half },
    ];
  if (!down && hanging) {
    const out = from.x + Math.sign(to.x - from.x) * (half / 2);
    const lead = from.y + half + LEAD_PX;
    return [
      { x: out, y: from.y + half },
      { x: out, y: lead },
      { x: to.x, y: lead },
      { x: to.x, y: to.y - half },
    ];
  }
  if (down && Math.abs(from.y - to.y) < 1)
    return [
      { x: from.x + half, y: from.y },
      { x: to.x - half, y: to.y },
    ];
  if (down) {
    const bend = to.y - half - LEAD_PX;
    return [
      { x: from.x, y: from.y + half },
      { x: from.x, y: bend },
      { x: to.x, y: bend },
      { x: to.x, y: to.y - half },
    ];
  }
  const way = to.x > from.x ? 1 : -1;
  const bend = to.x - way * layout.columnPx * BEND;
  return [
    { x: from.x + way * half, y: from.y },
    { x: bend, y: from.y },
    { x: bend, y: to.y },
    { x: to.x - way * half, y: to.y },
  ];
}
