import { useKeep } from "../shared/api/useJobWrite";
import { ProblemNote } from "../shared/judging/ProblemNote";
import type { RoofFaceProps } from "./props";
import { GatewayPanel } from "./GatewayPanel";
import { BranchHead } from "./BranchHead";
import { ReportIn } from "./ReportIn";
import { Swap } from "./Swap";
import { say } from "../words/say";
import "./OnFace.css";

/** The gateway beside the map, who reports of each branch, and how a unit is replaced. Branches are put ON in Wake. */
export function OnFace({ jobId, view, roof }: RoofFaceProps) {
  const keep = useKeep(jobId);
  return (
    <>
      <GatewayPanel jobId={jobId} view={view} roof={roof} />
      <h2 className="why-head">{say("microinverter.branches_put_on_in_wake")}</h2>
      <ProblemNote error={keep.error} />
      {roof.branches.map((one) => (
        <section key={one.name} className="branch-stands" aria-label={say("common.branch", { name: one.name })}>
          <BranchHead branch={one} />
          <ReportIn branch={one} />
        </section>
      ))}
      <Swap jobId={jobId} roof={roof} timezone={view.plan.site.timezone} keep={keep} />
    </>
  );
}
