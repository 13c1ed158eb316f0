/** What each role is called, and what it does. */
export const ROLES: Partial<Record<string, string>> = {
  owner: "owner",
  electrician: "licensed electrician",
  installer: "installer",
  apprentice: "apprentice",
  office: "office",
};

export const ROLE_DOES: Partial<Record<string, string>> = {
  owner: "everything, and who belongs to the crew",
  electrician: "plans, reads, switches, signs off; lifts a lock with a licence that holds",
  installer: "plans, reads, switches; countersigns",
  apprentice: "reads and ticks; what is measured waits for a countersignature",
  office: "plans and files; takes no reading",
};

export const ROLE_CHOICES = Object.entries(ROLES).map(([value, label]) => [value, label ?? value] as const);
