import type { Edit } from "../../shared/api/types";

type Run = Extract<Edit, { do: "put_run" }>;
type Device = Extract<Edit, { do: "put_feed_device" }>;
type Way = Extract<Edit, { do: "put_containment" }>;

export const SERVICES: Record<string, string> = { single: "one phase", split: "split phase", three: "three phase" };
export const SUPPLIES = [
  ["", "not looked at yet"],
  ["single", "one phase"],
  ["split", "split phase"],
  ["three", "three phase"],
] as const;
export const EARTH_SYSTEMS = [
  ["TN", "TN: earth from the supply"],
  ["TT", "TT: the house's own electrode"],
] as const;
export const METHODS: readonly (readonly [Run["method"], string])[] = [
  ["A1", "A1 · in a lagged wall"],
  ["B1", "B1 · wires in pipe"],
  ["B2", "B2 · cable in pipe"],
  ["C", "C · clipped to wall"],
  ["raceway", "raceway, by gauge"],
];
export const INSULATIONS: readonly (readonly [Run["insulation"], string])[] = [
  ["pvc", "PVC"],
  ["xlpe", "XLPE, 90 °C"],
];
export const TERMINALS: readonly (readonly [Run["terminals"], string])[] = [
  ["70", "70 °C, as usual"],
  ["90", "90 °C, so marked"],
];
export const STRANDS: readonly (readonly [Run["strands"], string])[] = [
  ["solid", "solid"],
  ["stranded", "stranded"],
  ["fine", "fine strands"],
];
export const MATERIALS: readonly (readonly [Run["material"], string])[] = [
  ["copper", "copper"],
  ["aluminium", "aluminium"],
];
export const LAID = [
  ["touching", "two touching on a surface"],
  ["free", "each free in air"],
] as const;
export const DEVICE_KINDS: readonly (readonly [Device["kind"], string])[] = [
  ["board", "board"],
  ["isolator", "AC isolator"],
  ["meter", "meter"],
  ["backup", "backup controller"],
  ["clamp", "current clamps"],
  ["surge", "surge device"],
  ["joint", "joint box"],
];
export const SURGES: readonly (readonly [Device["surge"], string])[] = [
  ["none", "no surge device"],
  ["1", "type 1"],
  ["2", "type 2"],
  ["1+2", "type 1 and 2"],
];
export const ENTRIES: readonly (readonly [Device["entry"], string])[] = [
  ["bottom", "from below"],
  ["side", "from the side"],
  ["back", "through the back"],
  ["top", "from above"],
];
export const WAYS: readonly (readonly [Way["way"], string])[] = [
  ["pipe", "pipe"],
  ["trunking", "trunking"],
  ["open", "open way"],
];
export const PARTED: readonly (readonly [Way["parted"], string])[] = [
  ["alone", "one kind alone"],
  ["divider", "behind a divider"],
  ["marked", "marked and apart"],
  ["no", "nothing between"],
];
type Source = Extract<Edit, { do: "put_other_source" }>;

export const SOURCE_KINDS: readonly (readonly [Source["kind"], string])[] = [
  ["inverter", "solar inverter"],
  ["battery", "battery"],
  ["generator", "generator"],
  ["charger", "charger that feeds"],
];
export const OWN_PHASES = [
  ["0", "not said yet"],
  ["1", "L1"],
  ["2", "L2"],
  ["3", "L3"],
] as const;
export const PHASES = [
  ["1", "L1"],
  ["2", "L2"],
  ["3", "L3"],
  ["0", "all three"],
] as const;
export const TRADE_SIZES = [
  ["", "by its inside"],
  ["1/2", "1/2"],
  ["3/4", "3/4"],
  ["1", "1"],
  ["1-1/4", "1-1/4"],
  ["1-1/2", "1-1/2"],
  ["2", "2"],
] as const;
/** What may be known, known not to be so, or not known. */
export const KNOWN = [
  ["", "nobody looked"],
  ["yes", "yes"],
  ["no", "no"],
] as const;
