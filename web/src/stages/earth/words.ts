/** What bonds are called. */
export const HOWS = [
  ["washer", "washer that bites"],
  ["clamp", "clamp or lug across"],
  ["wire", "separate wire"],
  ["core", "core of the cable"],
] as const;
export const NODE_KINDS = [
  ["frames", "module frames"],
  ["rails", "rails"],
  ["inverter", "inverter"],
  ["terminal", "earth terminal"],
  ["electrode", "electrode"],
  ["other", "something else"],
] as const;
