import { describe, expect, it } from "vitest";
import { clock, digitsApart, figure, longDay } from "./figures";
import cases from "./figures.cases.json";

describe("a number as the user reads it", () => {
  it("is written as the core writes it, to the last digit", () => {
    for (const { value, unit, digits, text } of cases) expect(figure(value, unit, digits), String(value)).toBe(text);
  });

  it("has enough digits that two that differ never look the same", () => {
    expect(digitsApart(600, 600.04)).toBe(2);
    expect(digitsApart(600, 600)).toBe(1);
    expect(digitsApart(0.5, 0.5004, "Ω")).toBe(4);
  });

  it("is a time of the job's own place", () => {
    expect(clock("2026-06-21T11:42:00+00:00", "Europe/London")).toBe("12:42");
    expect(longDay("2026-06-21")).toBe("Sunday 21 June");
  });
});
