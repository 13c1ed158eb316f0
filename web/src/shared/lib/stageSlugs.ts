import type { Lead } from "../api/types";

/** The stages by number, as the address names them. */
export const STAGE_SLUGS = {
  1: "arrive",
  2: "hang",
  3: "earth",
  4: "string",
  5: "feed",
  6: "talk",
  7: "prove",
  8: "wake",
  9: "set",
  10: "leave",
} as const;

export type StageSlug = (typeof STAGE_SLUGS)[keyof typeof STAGE_SLUGS];

/** Where something is entered: its stage, the face, what is read there, the field. */
export const leadAddress = (jobId: string, lead: Lead): string => {
  const asked = new URLSearchParams();
  if (lead.face !== "") asked.set("face", lead.face);
  if (lead.key !== "") asked.set("read", lead.key);
  if (lead.field !== "") asked.set("field", lead.field);
  const search = asked.toString();
  return `${stageAddress(jobId, lead.stage)}${search === "" ? "" : `?${search}`}`;
};

/** The address of a stage of a job. */
export const stageAddress = (jobId: string, stage: number): string => {
  const slugs: Partial<Record<number, StageSlug>> = STAGE_SLUGS;
  return `/jobs/${jobId}/${slugs[stage] ?? "arrive"}`;
};
