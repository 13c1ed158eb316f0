import { Button } from "antd";
import type { RoofStage } from "../shared/api/types";
import { useKeep } from "../shared/api/useJobWrite";
import { GateLine } from "../shared/judging/GateLine";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { BranchHead } from "./BranchHead";
import { ReportIn } from "./ReportIn";
import { say } from "../words/say";
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
    <section aria-label={say("microinverter.branches")}>
      <h2 className="why-head">{say("microinverter.branches_on")}</h2>
      <ProblemNote error={keep.error} />
      {roof.branches.map((one) => (
        <section key={one.name} className="branch-on" aria-label={say("common.branch", { name: one.name })}>
          <BranchHead branch={one} />
          <GateLine gate={one.on} />
          <div className="two-ways">
            <Button disabled={one.is_on || keep.isPending} onClick={() => turn(one.name, "1")}>
              {say("microinverter.is_on", { name: one.name })}
            </Button>
            <Button disabled={keep.isPending} onClick={() => turn(one.name, "-1")}>
              {say("microinverter.is_off", { name: one.name })}
            </Button>
          </div>
          <ReportIn branch={one} />
        </section>
      ))}
    </section>
  );
}
