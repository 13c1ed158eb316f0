import { useState } from "react";
import { figure } from "../../shared/figures";
import { JudgementList } from "../../shared/judging/JudgementList";
import { Rail } from "../../shared/readings/Rail";
import { StageFrame, type StageProps } from "../../shared/StageFrame";
import { CountSteps } from "./CountSteps";
import { PlanDrawer } from "./PlanDrawer";
import { WindowPicture } from "./WindowPicture";

/** Stage 4: modules per string, trackers, volts against limits, and the readings that answer them. */
export default function StringStage({ jobId, view, whyAll }: StageProps) {
  const { assessment, plan } = view;
  const stage = assessment.string;
  const [selected, setSelected] = useState(stage.strings[0]?.name ?? "");
  const chosen = stage.strings.find((one) => one.name === selected) ?? stage.strings[0];
  const tracker = stage.trackers.find((one) => one.number === chosen?.tracker);
  const hot = chosen === undefined ? "" : ` · hottest roof cell ${figure(chosen.volts.t_cell_hot_c, "°C")}`;
  return (
    <StageFrame
      title="String"
      about={`${plan.module.maker} ${plan.module.model} on ${plan.inverter.maker} ${plan.inverter.model}`}
      aside={`coldest air ${figure(stage.t_air_min_c, "°C")} · hottest ${figure(stage.t_air_max_c, "°C")}${hot} · rules: ${assessment.rule_pack.name}`}
      caution="A string is live in daylight and cannot be switched off. Plugs go in or out only with the DC switch OFF. Licensed work; your local code wins over every figure here."
      rail={<Rail jobId={jobId} asks={assessment.asks.filter((ask) => ask.stage === 4)} timezone={plan.site.timezone} whyAll={whyAll} />}
    >
      <WindowPicture stage={stage} selected={selected} select={setSelected} />
      {stage.strings.map((one, index) => (
        <CountSteps key={one.name} jobId={jobId} string={one} index={index} chosen={one.name === chosen?.name} select={() => setSelected(one.name)} />
      ))}
      <div className="under">
        <h2>Why, string {chosen?.name} on tracker {chosen?.tracker}</h2>
        <PlanDrawer jobId={jobId} view={view} />
      </div>
      <JudgementList judgements={[...(chosen?.judgements ?? []), ...(tracker?.judgements ?? [])]} allOpen={whyAll} />
    </StageFrame>
  );
}
