import type { Wall, WallDevice, WallObject } from "../../shared/api/types";
import { say } from "../../words/say";

/** What walls, objects and devices are called. */
export const WALL_KINDS: Record<Wall["kind"], string> = {
  solid: say("hang.solid_masonry"),
  hollow: say("hang.hollow_block"),
  stud: say("hang.framed_studs_and_board"),
  board: say("hang.board_only"),
  wood: say("hang.wood"),
};
export const OBJECT_KINDS: Record<WallObject["kind"], string> = {
  window: say("hang.window"),
  door: say("hang.door"),
  meter_box: say("hang.meter_box"),
  pipe: say("common.pipe"),
  vent: say("hang.vent"),
  tap: say("hang.tap"),
  backing: say("hang.backing_board"),
  other: say("common.something_else"),
};
export const DEVICE_KINDS: Record<WallDevice["kind"], string> = {
  inverter: say("hang.the_inverter"),
  isolator: say("hang.isolator"),
  safety_switch: say("hang.safety_switch"),
  meter: say("common.meter"),
  battery: say("common.battery_2"),
  trunking: say("common.trunking"),
  other: say("common.something_else"),
};
export const OPENS: Record<WallObject["opens"], string> = {
  no: say("hang.does_not_open_over_the_wall"),
  left: say("hang.opens_to_the_left"),
  right: say("hang.opens_to_the_right"),
  both: say("hang.opens_to_both_sides"),
};

export const choices = <T extends string>(words: Record<T, string>) => Object.entries(words) as [T, string][];
