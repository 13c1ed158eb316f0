import { describe, expect, it } from "vitest";
import { placeNames, wrapped, type Box } from "./labels";

const WALL: Box = { x: 0, y: 0, width: 300, height: 200 };
const box = (x: number, y: number): Box => ({ x, y, width: 20, height: 30 });

describe("names beside what they are of", () => {
  it("stand below, where nothing is there", () => {
    const found = placeNames([{ name: "Meter", widthPx: 50, of: box(100, 80) }], [], WALL).get("Meter");
    expect(found).toEqual({ x: 110, y: 126, anchor: "middle" });
  });
  it("go elsewhere where another thing, another name or the edge is in their way", () => {
    const names = [
      { name: "Isolator, DC", widthPx: 90, of: box(60, 60) },
      { name: "Isolator, AC", widthPx: 90, of: box(60, 92) },
      { name: "Meter", widthPx: 50, of: box(280, 165) },
    ];
    const found = placeNames(names, [{ x: 0, y: 40, width: 150, height: 18 }], WALL);
    const places = [...found.values()];
    expect(new Set(places.map(({ x, y }) => `${x} ${y}`)).size).toBe(3);
    expect(found.get("Isolator, DC")?.anchor).toBe("start");
    expect(found.get("Meter")).toEqual({ x: 277, y: 185, anchor: "end" });
  });
});

describe("a text too wide for its room", () => {
  it("goes on in the next line between its words, and keeps a word whole", () => {
    expect(wrapped(["Chimney 1.6 m", "roof"], 60, 7)).toEqual(["Chimney", "1.6 m", "roof"]);
    expect(wrapped(["Chimney 1.6 m"], 20, 7)).toEqual(["Chimney", "1.6", "m"]);
    expect(wrapped(["Chimney 1.6 m"], 200, 7)).toEqual(["Chimney 1.6 m"]);
  });
});
