import type { Schemas } from "../../shared/api/types";

type Way = Schemas["SetWayOut"]["way"];
type School = NonNullable<Schemas["SetTalkSchool"]["school"]>;

/** What the choices of this stage are called. */
export const WAYS: readonly (readonly [Way, string])[] = [
  ["cable", "Network cable"],
  ["wifi", "House's radio network"],
  ["short_radio", "Short-range radio"],
  ["radio_gateway", "Radio to a gateway"],
  ["mobile", "Mobile network"],
  ["logger", "Bus to a logger"],
  ["none", "None"],
];
export const SCHOOLS: readonly (readonly [School | "", string])[] = [
  ["", "As the sheet says"],
  ["inside_first", "Inside first"],
  ["before_power", "Before power"],
  ["cover_open", "With the cover open"],
  ["after_power", "Once there is power"],
  ["before_branch", "All before the branch is ON"],
  ["separate", "By somebody else"],
];
export const YES_NO: readonly (readonly [string, string])[] = [
  ["", "nobody has asked"],
  ["yes", "yes"],
  ["no", "no"],
];
export const FUNCTIONS: readonly (readonly [Schemas["PutTalkWire"]["function"], string])[] = [
  ["bus", "bus"],
  ["logger", "logger"],
  ["meter", "meter"],
  ["battery", "battery data"],
  ["network", "network"],
  ["demand_response", "demand response"],
  ["ripple", "ripple receiver"],
  ["dry_contact", "dry contact"],
  ["shutdown", "shutdown line"],
  ["alarm", "alarm"],
  ["backup", "backup signal"],
  ["surge", "surge monitor"],
  ["stick", "stick"],
  ["aerial", "aerial"],
];
export const SHIELDS: readonly (readonly [Schemas["PutTalkWire"]["shield"], string])[] = [
  ["none", "nowhere"],
  ["this", "at this end"],
  ["far", "at the far end"],
  ["both", "at both ends"],
];
export const HOWS: readonly (readonly [Schemas["PutSignal"]["how"] | "", string])[] = [
  ["", "nobody has said"],
  ["wired", "wired"],
  ["blanked", "blanked"],
  ["not_required", "not required"],
];
export const PLACES: readonly (readonly [string, string])[] = [
  ["", "nobody has said"],
  ["type_plate", "on the type plate"],
  ["profile_page", "on its profile page"],
  ["envelope", "in the job's envelope"],
  ["owner", "with the owner"],
  ["crew_safe", "in the crew's safe"],
];
export const MAY_STAY: readonly (readonly [Schemas["LeaveTalkOpen"]["what"], string])[] = [
  ["meter_sign", "Meter, feeding"],
  ["count_complete", "What reports"],
  ["link_complete", "Way to the portal"],
  ["default_password_gone", "Default passwords"],
];
/** The ink of a core by its colour's name, one or two for a striped one. */
export const INKS: Record<string, readonly string[]> = {
  white: ["#ffffff"],
  brown: ["#7a4a21"],
  green: ["#2b7a3e"],
  yellow: ["#ffd83d"],
  grey: ["#8b9296"],
  pink: ["#f2a6bd"],
  blue: ["#1c57a5"],
  red: ["#c22b25"],
  orange: ["#e07a1f"],
};

export const inksOf = (colour: string): readonly string[] => colour.split("-").flatMap((one) => INKS[one] ?? []);
export const asWord = (value: boolean | null | undefined) =>
  value === null || value === undefined ? "" : value ? "yes" : "no";
export const asAnswer = (word: string) => (word === "" ? null : word === "yes");
