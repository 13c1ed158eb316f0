import type { Edit } from "../../shared/api/types";
import { say } from "../../words/say";

type Run = Extract<Edit, { do: "put_run" }>;
type Device = Extract<Edit, { do: "put_feed_device" }>;
type Way = Extract<Edit, { do: "put_containment" }>;

export const SERVICES: Record<string, string> = {
  single: say("feed.one_phase"),
  split: say("feed.split_phase"),
  three: say("feed.three_phase"),
};
export const SUPPLIES = [
  ["", say("feed.not_looked_at_yet")],
  ["single", say("feed.one_phase")],
  ["split", say("feed.split_phase")],
  ["three", say("feed.three_phase")],
] as const;
export const EARTH_SYSTEMS = [
  ["TN", say("feed.tn_earth_from_the_supply")],
  ["TT", say("feed.tt_the_houses_own_electrode")],
] as const;
export const METHODS: readonly (readonly [Run["method"], string])[] = [
  ["A1", say("feed.a1_in_a_lagged_wall")],
  ["B1", say("feed.b1_wires_in_pipe")],
  ["B2", say("feed.b2_cable_in_pipe")],
  ["C", say("feed.c_clipped_to_wall")],
  ["raceway", say("feed.raceway_by_gauge")],
];
export const INSULATIONS: readonly (readonly [Run["insulation"], string])[] = [
  ["pvc", say("feed.pvc")],
  ["xlpe", say("feed.xlpe_90_c")],
];
export const TERMINALS: readonly (readonly [Run["terminals"], string])[] = [
  ["70", say("feed.70_c_as_usual")],
  ["90", say("feed.90_c_so_marked")],
];
export const STRANDS: readonly (readonly [Run["strands"], string])[] = [
  ["solid", say("feed.solid")],
  ["stranded", say("feed.stranded")],
  ["fine", say("feed.fine_strands")],
];
export const MATERIALS: readonly (readonly [Run["material"], string])[] = [
  ["copper", say("feed.copper")],
  ["aluminium", say("feed.aluminium")],
];
export const LAID = [
  ["touching", say("feed.two_touching_on_a_surface")],
  ["free", say("feed.each_free_in_air")],
] as const;
export const DEVICE_KINDS: readonly (readonly [Device["kind"], string])[] = [
  ["board", say("feed.board")],
  ["isolator", say("feed.ac_isolator")],
  ["meter", say("common.meter")],
  ["backup", say("feed.backup_controller")],
  ["clamp", say("feed.current_clamps")],
  ["surge", say("feed.surge_device")],
  ["joint", say("common.joint_box")],
];
export const SURGES: readonly (readonly [Device["surge"], string])[] = [
  ["none", say("feed.no_surge_device")],
  ["1", say("feed.type_1")],
  ["2", say("feed.type_2")],
  ["1+2", say("feed.type_1_and_2")],
];
export const ENTRIES: readonly (readonly [Device["entry"], string])[] = [
  ["bottom", say("feed.from_below")],
  ["side", say("common.from_the_side")],
  ["back", say("feed.through_the_back")],
  ["top", say("feed.from_above")],
];
export const WAYS: readonly (readonly [Way["way"], string])[] = [
  ["pipe", say("common.pipe")],
  ["trunking", say("common.trunking")],
  ["open", say("feed.open_way")],
];
export const PARTED: readonly (readonly [Way["parted"], string])[] = [
  ["alone", say("feed.one_kind_alone")],
  ["divider", say("feed.behind_a_divider")],
  ["marked", say("feed.marked_and_apart")],
  ["no", say("feed.nothing_between")],
];
type Source = Extract<Edit, { do: "put_other_source" }>;

export const SOURCE_KINDS: readonly (readonly [Source["kind"], string])[] = [
  ["inverter", say("feed.solar_inverter")],
  ["battery", say("common.battery_2")],
  ["generator", say("feed.generator")],
  ["charger", say("feed.charger_that_feeds")],
];
export const OWN_PHASES = [
  ["0", say("common.not_said_yet")],
  ["1", "L1"],
  ["2", "L2"],
  ["3", "L3"],
] as const;
export const PHASES = [
  ["1", "L1"],
  ["2", "L2"],
  ["3", "L3"],
  ["0", say("feed.all_three")],
] as const;
export const TRADE_SIZES = [
  ["", say("feed.by_its_inside")],
  ["1/2", "1/2"],
  ["3/4", "3/4"],
  ["1", "1"],
  ["1-1/4", "1-1/4"],
  ["1-1/2", "1-1/2"],
  ["2", "2"],
] as const;
/** What may be known, known not to be so, or not known. */
export const KNOWN = [
  ["", say("feed.nobody_looked")],
  ["yes", say("common.yes")],
  ["no", say("common.no")],
] as const;
