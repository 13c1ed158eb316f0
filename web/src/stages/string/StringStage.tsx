import { useState } from "react";
import { Faces } from "../../shared/layout/Faces";
import { useFace } from "../../shared/layout/useFace";
import { figure } from "../../shared/lib/figures";
import { Rail } from "../../shared/readings/Rail";
import { StageFrame, type StageProps } from "../../shared/layout/StageFrame";
import { strung } from "../../shared/lib/strung";
import { ArrangeFace } from "./ArrangeFace";
import { BranchesStage } from "../../microinverter/BranchesStage";
import { PlanDrawer } from "../../shared/plan/PlanDrawer";
import { EndsFace } from "./EndsFace";
import { NoStrings } from "./NoStrings";
import { RoofFace } from "./RoofFace";
import { VoltsFace } from "./VoltsFace";

const STAGE = 4;
const FACES = ["volts", "roof", "ends", "arrange"] as const;
type Face = (typeof FACES)[number];

/** Stage 4: strings on a wall inverter, or units and branches on the roof. */
export default function StringStage(props: StageProps) {
  const { roof } = props.view.assessment;
  return roof === null ? <StringsStage {...props} /> : <BranchesStage {...props} roof={roof} />;
}

/** Modules per string, trackers, volts against limits, the roof, and the readings that answer them. */
function StringsStage({ jobId, view, whyAll }: StageProps) {
  const { assessment, plan } = view;
  const { stage, inverter } = strung(view);
  const [face, setFace] = useFace<Face>(FACES, "volts");
  const [selected, setSelected] = useState(stage.strings[0]?.name ?? "");
  const chosen = stage.strings.some((one) => one.name === selected) ? selected : (stage.strings[0]?.name ?? "");
  const optimiser = plan.optimiser === null ? "" : ` with ${plan.optimiser.maker} ${plan.optimiser.model}`;
  const faceProps = { jobId, view, selected: chosen, select: setSelected };
  return (
    <StageFrame
      title="String"
      about={`${plan.module.maker} ${plan.module.model}${optimiser} on ${inverter.maker} ${inverter.model}`}
      aside={`air ${figure(stage.t_air_min_c, "°C")} to ${figure(stage.t_air_max_c, "°C")} · ${hottest(stage.t_cell_hot_c)}rules: ${assessment.rule_pack.name}`}
      caution={[
        "A string is live in daylight and cannot be switched off.",
        "Plugs go in or out only with the DC switch OFF.",
        "Licensed work; your local code wins over every figure here.",
      ].join(" ")}
      rail={<Rail jobId={jobId} every={assessment.asks} stage={STAGE} timezone={plan.site.timezone} whyAll={whyAll} />}
    >
      <div className="faces">
        <Faces faces={FACES} face={face} show={setFace} />
        <PlanDrawer jobId={jobId} view={view} />
      </div>
      {face === "volts" && plan.strings.length === 0 && <NoStrings jobId={jobId} view={view} />}
      {face === "volts" && plan.strings.length > 0 && <VoltsFace {...faceProps} whyAll={whyAll} />}
      {face === "roof" && <RoofFace {...faceProps} whyAll={whyAll} />}
      {face === "ends" && <EndsFace {...faceProps} whyAll={whyAll} />}
      {face === "arrange" && <ArrangeFace jobId={jobId} view={view} taken={() => setFace("roof")} />}
    </StageFrame>
  );
}

const hottest = (cellC: number | null) => (cellC === null ? "" : `hottest roof cell ${figure(cellC, "°C")} · `);
