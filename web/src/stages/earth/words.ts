import { say } from "../../words/say";

/** What bonds are called. */
export const HOWS = [
  ["washer", say("earth.washer_that_bites")],
  ["clamp", say("earth.clamp_or_lug_across")],
  ["wire", say("earth.separate_wire")],
  ["core", say("earth.core_of_the_cable")],
] as const;
export const NODE_KINDS = [
  ["frames", say("earth.module_frames")],
  ["rails", say("earth.rails")],
  ["inverter", say("earth.inverter")],
  ["terminal", say("earth.earth_terminal")],
  ["electrode", say("earth.electrode")],
  ["other", say("common.something_else")],
] as const;
