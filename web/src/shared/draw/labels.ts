/** A rectangle on a picture, in pixels, y downwards. */
export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** A name and what it is of. */
export interface Named {
  name: string;
  widthPx: number;
  of: Box;
}

export interface Place {
  x: number;
  y: number;
  anchor: "start" | "middle" | "end";
}

const LINE_PX = 16;
const GAP_PX = 3;
/** Where the letters stand in their line. */
const BASE_PX = 13;

/**
 * Where names stand beside what they are of, each where it covers least of what is drawn already: below it, above it,
 * on its right or its left.
 */
export function placeNames(names: Named[], drawn: Box[], within: Box): Map<string, Place> {
  const taken = [...drawn, ...names.map((one) => one.of)];
  const places = new Map<string, Place>();
  for (const one of names) {
    const found = ways(one)
      .map((way) => ({ ...way, cost: cost(way.box, taken, within) }))
      .reduce((best, way) => (way.cost < best.cost ? way : best));
    taken.push(found.box);
    places.set(one.name, found.place);
  }
  return places;
}

function ways({ widthPx, of }: Named): { box: Box; place: Place }[] {
  const [middleX, middleY] = [of.x + of.width / 2, of.y + of.height / 2];
  const [right, left] = [of.x + of.width + GAP_PX, of.x - GAP_PX];
  const at = (x: number, top: number, anchor: Place["anchor"]) => {
    const start = anchor === "start" ? x : anchor === "end" ? x - widthPx : x - widthPx / 2;
    return { box: { x: start, y: top, width: widthPx, height: LINE_PX }, place: { x, y: top + BASE_PX, anchor } };
  };
  const below = of.y + of.height + GAP_PX;
  const above = of.y - LINE_PX - GAP_PX;
  return [
    at(middleX, below, "middle"),
    at(middleX, above, "middle"),
    at(right, middleY - LINE_PX / 2, "start"),
    at(left, middleY - LINE_PX / 2, "end"),
    at(of.x, below, "start"),
    at(of.x + of.width, below, "end"),
    at(of.x, above, "start"),
    at(of.x + of.width, above, "end"),
  ];
}

/** What a name would cover there, and, worse, how much of it would be cut off. */
function cost(box: Box, taken: Box[], within: Box): number {
  const covered = taken.reduce((sum, other) => sum + shared(box, other), 0);
  return covered + 10 * (box.width * box.height - shared(box, within));
}

function shared(one: Box, other: Box): number {
  const width = Math.min(one.x + one.width, other.x + other.width) - Math.max(one.x, other.x);
  const height = Math.min(one.y + one.height, other.y + other.height) - Math.max(one.y, other.y);
  return Math.max(width, 0) * Math.max(height, 0);
}

/** Texts on more lines where a line is wider than the room for it. */
export function wrapped(texts: string[], roomPx: number, letterPx: number): string[] {
  return texts.flatMap((text) => {
    const lines = [""];
    for (const word of text.split(" ")) {
      const last = lines.at(-1) ?? "";
      const joined = last === "" ? word : `${last} ${word}`;
      if (last !== "" && joined.length * letterPx > roomPx) lines.push(word);
      else lines[lines.length - 1] = joined;
    }
    return lines;
  });
}
