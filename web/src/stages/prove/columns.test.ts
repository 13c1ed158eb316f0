import { describe, expect, it } from "vitest";
import type { TestGroup } from "../../shared/api/types";
import { inColumns, together } from "./columns";

const group = (title: string, ...keys: string[]) =>
  ({ title, tests: keys.map((key) => ({ key, title: `${title} · ${key.split("/")[0] ?? ""}` })) }) as TestGroup;

describe("groups of tests as one picture", () => {
  it("puts those with the same tests together, each once and in order", () => {
    const a = group("String A", "polarity/A", "open_circuit/A");
    const b = group("String B", "polarity/B", "open_circuit/B");
    const switches = group("Switches", "switch_works/1", "switch_works/2");
    const others = group("Others", "switch_works/3", "switch_works/4");
    const tails = group("Tails", "loop/Tails");
    expect(together([a, b, switches, others, tails])).toEqual([[a, b], [switches], [others], [tails]]);
    expect(inColumns([a, b])).toEqual(["polarity", "open_circuit"]);
  });
});
