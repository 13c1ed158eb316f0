import { describe, expect, it } from "vitest";
import { changed } from "./changes";

const ask = (key: string, verdict: string) => ({ key, verdict, history: [{ id: `${key}1` }] });
const before = { name: "Mill", asks: [ask("a", "clear"), ask("b", "waiting"), ask("c", "stop")], open: null };

describe("what is told as changed", () => {
  it("comes over what was shown, and the rest stays the very same", () => {
    const told = { fields: { asks: { items: { 1: { fields: { verdict: { whole: "clear" } } } } } } };
    const after = changed(before, told) as typeof before;
    expect(after.asks[1]).toEqual(ask("b", "clear"));
    expect(after.asks[0]).toBe(before.asks[0]);
    expect(after.asks[1]?.history).toBe(before.asks[1]?.history);
    expect(before.asks[1]?.verdict).toBe("waiting");
  });
  it("finds what came, went and stayed in a list", () => {
    const items = { 1: { whole: ask("d", "watch") } };
    const after = changed(before, { fields: { asks: { where: [2, -1], items }, open: { whole: 3 } } }) as typeof before;
    expect(after).toEqual({ name: "Mill", asks: [ask("c", "stop"), ask("d", "watch")], open: 3 });
    expect(after.asks[0]).toBe(before.asks[2]);
  });
  it("is the very same where nothing changed", () => {
    expect(changed(before, {})).toBe(before);
  });
});
