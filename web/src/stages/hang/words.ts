import type { Wall, WallDevice, WallObject } from "../../shared/api/types";

/** What walls, objects and devices are called. */
export const WALL_KINDS: Record<Wall["kind"], string> = {
  solid: "solid masonry",
  hollow: "hollow block",
  stud: "framed, studs and board",
  board: "board only",
  wood: "wood",
};
export const OBJECT_KINDS: Record<WallObject["kind"], string> = {
  window: "window",
  door: "door",
  meter_box: "meter box",
  pipe: "pipe",
  vent: "vent",
  tap: "tap",
  backing: "backing board",
  other: "something else",
};
export const DEVICE_KINDS: Record<WallDevice["kind"], string> = {
  inverter: "the inverter",
  isolator: "isolator",
  safety_switch: "safety switch",
  meter: "meter",
  battery: "battery",
  trunking: "trunking",
  other: "something else",
};
export const OPENS: Record<WallObject["opens"], string> = {
  no: "does not open over the wall",
  left: "opens to the left",
  right: "opens to the right",
  both: "opens to both sides",
};

export const choices = <T extends string>(words: Record<T, string>) => Object.entries(words) as [T, string][];
