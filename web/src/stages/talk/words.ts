import type { Schemas } from "../../shared/api/types";
import { say } from "../../words/say";

type Way = Schemas["SetWayOut"]["way"];
type School = NonNullable<Schemas["SetTalkSchool"]["school"]>;

/** What the choices of this stage are called. */
export const WAYS: readonly (readonly [Way, string])[] = [
  ["cable", say("talk.network_cable")],
  ["wifi", say("talk.houses_radio_network")],
  ["short_radio", say("talk.short_range_radio")],
  ["radio_gateway", say("talk.radio_to_a_gateway")],
  ["mobile", say("talk.mobile_network")],
  ["logger", say("talk.bus_to_a_logger")],
  ["none", say("talk.none")],
];
export const SCHOOLS: readonly (readonly [School | "", string])[] = [
  ["", say("talk.as_the_sheet_says")],
  ["inside_first", say("talk.inside_first")],
  ["before_power", say("talk.before_power")],
  ["cover_open", say("talk.with_the_cover_open")],
  ["after_power", say("talk.once_there_is_power")],
  ["before_branch", say("talk.all_before_the_branch_is_on")],
  ["separate", say("talk.by_somebody_else")],
];
export const YES_NO: readonly (readonly [string, string])[] = [
  ["", say("talk.nobody_has_asked")],
  ["yes", say("common.yes")],
  ["no", say("common.no")],
];
export const FUNCTIONS: readonly (readonly [Schemas["PutTalkWire"]["function"], string])[] = [
  ["bus", say("talk.bus_2")],
  ["logger", say("talk.logger_2")],
  ["meter", say("common.meter")],
  ["battery", say("talk.battery_data")],
  ["network", say("talk.network")],
  ["demand_response", say("talk.demand_response")],
  ["ripple", say("talk.ripple_receiver")],
  ["dry_contact", say("talk.dry_contact")],
  ["shutdown", say("talk.shutdown_line")],
  ["alarm", say("talk.alarm")],
  ["backup", say("talk.backup_signal")],
  ["surge", say("talk.surge_monitor")],
  ["stick", say("talk.stick")],
  ["aerial", say("talk.aerial")],
];
export const SHIELDS: readonly (readonly [Schemas["PutTalkWire"]["shield"], string])[] = [
  ["none", say("talk.nowhere")],
  ["this", say("talk.at_this_end")],
  ["far", say("talk.at_the_far_end")],
  ["both", say("talk.at_both_ends")],
];
export const HOWS: readonly (readonly [Schemas["PutSignal"]["how"] | "", string])[] = [
  ["", say("talk.nobody_has_said")],
  ["wired", say("talk.wired")],
  ["blanked", say("talk.blanked")],
  ["not_required", say("talk.not_required")],
];
export const PLACES: readonly (readonly [string, string])[] = [
  ["", say("talk.nobody_has_said")],
  ["type_plate", say("talk.on_the_type_plate")],
  ["profile_page", say("talk.on_its_profile_page")],
  ["envelope", say("talk.in_the_jobs_envelope")],
  ["owner", say("talk.with_the_owner")],
  ["crew_safe", say("talk.in_the_crews_safe")],
];
export const MAY_STAY: readonly (readonly [Schemas["LeaveTalkOpen"]["what"], string])[] = [
  ["meter_sign", say("talk.meter_feeding")],
  ["count_complete", say("talk.what_reports_2")],
  ["link_complete", say("talk.way_to_the_portal")],
  ["default_password_gone", say("talk.default_passwords")],
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
