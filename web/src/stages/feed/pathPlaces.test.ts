import { describe, expect, it } from "vitest";
import { corners, layOut } from "./pathPlaces";

type Path = Parameters<typeof layOut>[0];
const path = {
  columns: 3,
  rows: 2,
  places: [
    { id: "array", symbol: "array", column: 0, row: 0, lines: [] },
    { id: "inverter", symbol: "inverter", column: 1, row: 0, lines: ["Five"] },
    { id: "earth", symbol: "earth", column: 1, row: 1, lines: [] },
  ],
  wires: [
    { start: "array", end: "inverter" },
    { start: "inverter", end: "earth" },
  ],
} as unknown as Path;

describe("the energy path on its grid", () => {
  it("runs to the right on a desk and down on a phone, nothing outside", () => {
    for (const down of [false, true]) {
      const laid = layOut(path, 600, down);
      const at = (id: string) => laid.spots.get(id) ?? { x: NaN, y: NaN };
      const along = down ? "y" : "x";
      expect(at("inverter")[along]).toBeGreaterThan(at("array")[along]);
      for (const spot of laid.spots.values()) {
        expect(spot.x).toBeGreaterThan(0);
        expect(spot.x).toBeLessThan(laid.width);
        expect(spot.y).toBeLessThan(laid.height);
      }
      expect([...laid.hanging]).toEqual(["earth"]);
    }
  });

  it("wires turn only at right angles, from edge to edge", () => {
    for (const down of [false, true]) {
      const laid = layOut(path, 600, down);
      for (const wire of path.wires) {
        const [from, to] = [wire.start, wire.end].map((id) => laid.spots.get(id) ?? { x: NaN, y: NaN });
        if (from === undefined || to === undefined) throw new Error("unreachable");
        const bends = corners(laid, from, to, laid.hanging.has(wire.end));
        bends.slice(1).forEach((spot, index) => {
          const before = bends[index] ?? spot;
          expect(Math.min(Math.abs(spot.x - before.x), Math.abs(spot.y - before.y))).toBeLessThan(1e-9);
        });
      }
    }
  });
});
