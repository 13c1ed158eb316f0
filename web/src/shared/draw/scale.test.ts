import { describe, expect, it } from "vitest";
import { linear, logarithmic, ticks } from "./scale";

describe("scales", () => {
  it("put both ends where they were said, and the middle between", () => {
    const x = linear([100, 600], [20, 520]);
    expect([x(100), x(350), x(600)]).toEqual([20, 270, 520]);
    const log = logarithmic([0.1, 1000], [0, 400]);
    expect([log(0.1), log(10), log(1000)].map(Math.round)).toEqual([0, 200, 400]);
  });

  it("ticks are round, inside, in order, and about as many as asked for", () => {
    for (const [low, high, about] of [
      [0, 634, 6],
      [0.4, 1.3, 5],
      [47, 52.5, 8],
      [-60, 60, 4],
    ] as const) {
      const found = ticks(low, high, about);
      const step = (found[1] ?? 0) - (found[0] ?? 0);
      expect(found[0]).toBeGreaterThanOrEqual(low);
      expect(found.at(-1)).toBeLessThanOrEqual(high + step * 1e-9);
      expect(found.length).toBeGreaterThan(about / 3);
      expect(found.length).toBeLessThanOrEqual(about + 1);
      expect([1, 2, 5, 10]).toContain(Math.round(step / 10 ** Math.floor(Math.log10(step) + 1e-9)));
    }
  });
});
