import { describe, expect, it, vi } from "vitest";
import { fetchAgain } from "./lazyAgain";

const lost = () => Promise.reject(new Error("lost on the way"));

describe("a part of the app that is fetched", () => {
  it("is fetched again when it was lost, each time later", async () => {
    const waits: number[] = [];
    const fetch = vi.fn<() => Promise<string>>(lost).mockImplementationOnce(lost).mockImplementationOnce(lost);
    fetch.mockResolvedValueOnce("here");
    expect(await fetchAgain(fetch, (ms) => Promise.resolve(void waits.push(ms)))).toBe("here");
    expect(waits).toHaveLength(2);
    expect(waits[1]).toBeGreaterThan(waits[0] ?? Infinity);
  });

  it("is given up after some times, with the reason", async () => {
    await expect(fetchAgain(lost, () => Promise.resolve())).rejects.toThrow("lost on the way");
  });
});
