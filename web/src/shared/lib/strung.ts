import type { JobView, StringStage } from "../api/types";

type Inverter = NonNullable<JobView["plan"]["inverter"]>;

/** The strings and the wall inverter of a job that has them; a roof of microinverters has its own screens. */
export function strung({ assessment, plan }: JobView): { stage: StringStage; inverter: Inverter } {
  if (assessment.string === null || plan.inverter === null) throw new Error("this job has no wall inverter");
  return { stage: assessment.string, inverter: plan.inverter };
}
