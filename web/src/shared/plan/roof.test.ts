import { describe, expect, it } from "vitest";
import type { Plane } from "../api/types";
import { hasModule, resized } from "./roof";

describe("a plane drawn to another size", () => {
  it("keeps what was drawn where it still fits, gaps too", () => {
    expect(resized(["#.#", "###"], 3, 4)).toEqual(["#.##", "####", "####"]);
    expect(resized(["#.#", "###"], 1, 2)).toEqual(["#."]);
  });

  it("knows a module from a gap and from the open sky", () => {
    const plane = { rows: ["#.", "##"] } as Plane;
    expect([hasModule(plane, 1, 1), hasModule(plane, 1, 2), hasModule(plane, 2, 2), hasModule(plane, 3, 1)]).toEqual([
      true,
      false,
      true,
      false,
    ]);
  });
});
