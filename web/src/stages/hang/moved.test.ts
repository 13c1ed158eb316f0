import { describe, expect, it } from "vitest";
import type { HungDevice } from "../../shared/api/types";
import { moved, shifted } from "./moved";

const device = (name: string) =>
  ({
    name,
    x_mm: 100,
    y_mm: 1200,
    display_mm: null,
    sides: [{ side: "left" }],
    holes: [{ mark: { x_mm: 150, above_datum_mm: -40, above_floor_mm: 1460 } }],
  }) as unknown as HungDevice;

describe("a device on its way to another place", () => {
  it("takes its holes along and waits for what is said of it", () => {
    const [one, other] = moved([device("Inverter"), device("Meter")], {
      do: "place_device",
      name: "Meter",
      x_mm: "160",
      y_mm: "1190",
    });
    expect(one).toEqual(device("Inverter"));
    expect([other?.x_mm, other?.y_mm]).toEqual([160, 1190]);
    expect(other?.holes[0]?.mark).toMatchObject({ x_mm: 210, above_datum_mm: -50, above_floor_mm: 1450 });
    expect(other?.sides).toEqual([]);
  });

  it("stays where it is for what is typed with a unit, and when nothing moves", () => {
    const here = [device("Meter")];
    expect(moved(here, { do: "place_device", name: "Meter", x_mm: "1.6 m", y_mm: "1190" })).toBe(here);
    expect(moved(here, undefined)).toBe(here);
    expect(shifted(device("Meter"), 0, 0)).toEqual(device("Meter"));
  });
});
