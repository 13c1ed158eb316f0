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
import { say } from "../../words/say";

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
  const optimiser =
    plan.optimiser === null ? "" : say("string.with", { maker: plan.optimiser.maker, model: plan.optimiser.model });
  const faceProps = { jobId, view, selected: chosen, select: setSelected };
  return (
    <StageFrame
      title={say("common.string")}
      about={say("string.on", {
        maker: plan.module.maker,
        model: plan.module.model,
        optimiser,
        maker2: inverter.maker,
        model2: inverter.model,
      })}
      aside={say("string.air_to_rules", {
        t_air_min_c: figure(stage.t_air_min_c, "°C"),
        t_air_max_c: figure(stage.t_air_max_c, "°C"),
        t_cell_hot_c: hottest(stage.t_cell_hot_c),
        name: assessment.rule_pack.name,
      })}
      caution={[
        say("string.a_string_is_live_in_daylight"),
        say("string.plugs_go_in_or_out_only"),
        say("common.licensed_work_your_local_code_wins"),
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

const hottest = (cellC: number | null) =>
  cellC === null ? "" : say("string.hottest_roof_cell", { cellC: figure(cellC, "°C") });
