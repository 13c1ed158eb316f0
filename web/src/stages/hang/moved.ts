import type { Edit, HungDevice } from "../../shared/api/types";

/** Devices where they will be once the edit under way is answered: the next move builds on it. */
export function moved(devices: HungDevice[], edit: Edit | undefined): HungDevice[] {
  if (edit?.do !== "place_device") return devices;
  const [x, y] = [Number(edit.x_mm), Number(edit.y_mm)];
  if (Number.isNaN(x) || Number.isNaN(y)) return devices;
  return devices.map((one) => (one.name === edit.name ? shifted(one, x - one.x_mm, y - one.y_mm) : one));
}

/** A device with its holes somewhere else on the drawing; what is said of it waits for the answer. */
export function shifted(device: HungDevice, right: number, up: number): HungDevice {
  if (right === 0 && up === 0) return device;
  return {
    ...device,
    x_mm: device.x_mm + right,
    y_mm: device.y_mm + up,
    display_mm: device.display_mm === null ? null : device.display_mm + up,
    sides: [],
    holes: device.holes.map((hole) => ({
      ...hole,
      mark: {
        x_mm: hole.mark.x_mm + right,
        above_datum_mm: hole.mark.above_datum_mm + up,
        above_floor_mm: hole.mark.above_floor_mm + up,
      },
    })),
  };
}
