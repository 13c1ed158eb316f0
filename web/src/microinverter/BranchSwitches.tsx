import { Button } from "antd";
import type { RoofStage } from "../shared/api/types";
import { useKeep } from "../shared/api/useJobWrite";
import { GateLine } from "../shared/judging/GateLine";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { BranchHead } from "./BranchHead";
import { ReportIn } from "./ReportIn";
import "./BranchSwitches.css";

/** Branch by branch ON, when everything allows it; then who reports. */
export function BranchSwitches({ jobId, roof }: { jobId: string; roof: RoofStage }) {
  const keep = useKeep(jobId);
  const turn = (branch: string, entered: "1" | "-1") =>
    keep.mutate({
      kind: "branch_on",
      subject: branch,
      entered,
      taken_at: null,
      supersedes: null,
      instrument: "",
      note: "",
    });
  return (
    <section aria-label="Branches">
      <h2 className="why-head">Branches ON</h2>
      <ProblemNote error={keep.error} />
      {roof.branches.map((one) => (
        <section key={one.name} className="branch-on" aria-label={`Branch ${one.name}`}>
          <BranchHead branch={one} />
          <GateLine gate={one.on} />
          <div className="two-ways">
            <Button disabled={one.is_on || keep.isPending} onClick={() => turn(one.name, "1")}>
              {one.name} is ON
            </Button>
            <Button disabled={keep.isPending} onClick={() => turn(one.name, "-1")}>
              {one.name} is OFF
            </Button>
          </div>
          <ReportIn branch={one} />
        </section>
      ))}
    </section>
  );
}
