import { useState } from "react";
import type { RoofStage } from "../shared/api/types";
import { Faces } from "../shared/layout/Faces";
import { useFace } from "../shared/layout/useFace";
import { Rail } from "../shared/readings/Rail";
import { StageFrame, type StageProps } from "../shared/layout/StageFrame";
import { PlanDrawer } from "../shared/plan/PlanDrawer";
import { MadeFace } from "./MadeFace";
import { MapFace } from "./MapFace";
import { OnFace } from "./OnFace";
import { PaintFace } from "./PaintFace";
import { TrunkFace } from "./TrunkFace";
import { say } from "../words/say";

const STAGE = 4;
const FACES = ["branches", "trunk", "made", "map", "switch_on"] as const;
type Face = (typeof FACES)[number];

/**
 * Stage 4 of a roof of microinverters: units per branch, the trunk and its parts, the serial map, switching
 * on.
 */
export function BranchesStage({ jobId, view, whyAll, roof }: StageProps & { roof: RoofStage }) {
  const { assessment, plan } = view;
  const [face, setFace] = useFace<Face>(FACES, "branches");
  const [picked, setPicked] = useState("");
  const branch = roof.branches.some((one) => one.name === picked) ? picked : (roof.branches[0]?.name ?? "");
  const props = { jobId, view, whyAll, roof, branch, select: setPicked };
  return (
    <StageFrame
      title={say("common.string")}
      about={roof.line}
      aside={say("microinverter.on_rules", {
        unitsCount: roof.units.length,
        unit: roof.unit,
        trunk: roof.trunk,
        name: assessment.rule_pack.name,
      })}
      caution={[
        say("microinverter.working_at_height_guard_the_edge"),
        say("microinverter.a_module_is_live_in_daylight"),
        say("common.licensed_work_your_local_code_wins"),
      ].join(" ")}
      rail={<Rail jobId={jobId} every={assessment.asks} stage={STAGE} timezone={plan.site.timezone} whyAll={whyAll} />}
    >
      <div className="faces">
        <Faces faces={FACES} face={face} show={setFace} />
        <PlanDrawer jobId={jobId} view={view} />
      </div>
      {face === "branches" && <PaintFace {...props} />}
      {face === "trunk" && <TrunkFace {...props} />}
      {face === "made" && <MadeFace {...props} />}
      {face === "map" && <MapFace {...props} />}
      {face === "switch_on" && <OnFace {...props} />}
    </StageFrame>
  );
}
