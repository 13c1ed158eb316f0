import { say } from "../words/say";

/** What each role is called, and what it does. */
export const ROLES: Partial<Record<string, string>> = {
  owner: say("people.owner"),
  electrician: say("people.licensed_electrician"),
  installer: say("people.installer"),
  apprentice: say("people.apprentice"),
  office: say("people.office"),
};

export const ROLE_DOES: Partial<Record<string, string>> = {
  owner: say("people.everything_and_who_belongs_to_the"),
  electrician: say("people.plans_reads_switches_signs_off_lifts"),
  installer: say("people.plans_reads_switches_countersigns"),
  apprentice: say("people.reads_and_ticks_what_is_measured"),
  office: say("people.plans_and_files_takes_no_reading"),
};

export const ROLE_CHOICES = Object.entries(ROLES).map(([value, label]) => [value, label ?? value] as const);
