import { describe, expect, it } from "vitest";
import type { Earthing } from "../../shared/api/types";
import { layout } from "./layout";

const path = (nodes: [string, string][], links: [string, string][]) =>
  ({
    nodes: nodes.map(([name, kind]) => ({ name, kind })),
    links: links.map(([start, end]) => ({ name: `${start} ${end}`, start, end })),
  }) as unknown as Earthing;

describe("the earth path as a tree", () => {
  it("hangs each thing above what it leads to, leaves side by side", () => {
    const { spots, rows, columns } = layout(
      path(
        [
          ["Rod", "electrode"],
          ["Bar", "terminal"],
          ["Rail A", "rail"],
          ["Rail B", "rail"],
        ],
        [
          ["Rail A", "Bar"],
          ["Rail B", "Bar"],
          ["Bar", "Rod"],
        ],
      ),
    );
    expect([rows, columns]).toEqual([3, 2]);
    expect(spots.get("Rod")?.row).toBe(2);
    expect(spots.get("Rail A")?.row).toBe(0);
    expect(spots.get("Rail A")?.column).not.toBe(spots.get("Rail B")?.column);
  });

  it("shows what leads nowhere, and a loop, without end", () => {
    const { spots } = layout(
      path(
        [
          ["Rod", "electrode"],
          ["A", "rail"],
          ["B", "rail"],
          ["Alone", "rail"],
        ],
        [
          ["A", "B"],
          ["B", "A"],
          ["A", "Rod"],
        ],
      ),
    );
    expect([...spots.keys()].sort()).toEqual(["A", "Alone", "B", "Rod"]);
  });
});
