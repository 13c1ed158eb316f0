import type { Plan } from "../../shared/api/types";
import { loadInUrl } from "../../shared/api/urls";
import { Faces } from "../../shared/layout/Faces";
import { useFace } from "../../shared/layout/useFace";
import { GateLine } from "../../shared/judging/GateLine";
import { JudgementList } from "../../shared/judging/JudgementList";
import { Rail } from "../../shared/readings/Rail";
import { StageFrame, type StageProps } from "../../shared/layout/StageFrame";
import { Crew } from "./Crew";
import { LoadIn } from "./LoadIn";
import { OpenItems } from "./OpenItems";
import { PermitForm } from "./PermitForm";

const STAGE = 1;
const FACES = ["goods", "permit and people", "left open"] as const;
type Face = (typeof FACES)[number];

const equipment = ({ inverter, micro }: Plan) =>
  inverter !== null
    ? `${inverter.maker} ${inverter.model}`
    : micro === null
      ? ""
      : `${micro.units.length} × ${micro.unit.maker} ${micro.unit.model}`;

/** Stage 1: the load-in sheet, the permit, who is here, the nameplate and the supply. */
export default function ArriveStage({ jobId, view, whyAll }: StageProps) {
  const { assessment, plan } = view;
  const stage = assessment.arrive;
  const [face, setFace] = useFace<Face>(FACES, "goods");
  return (
    <StageFrame
      title="Arrive"
      about={stage.line}
      aside={`${equipment(plan)} · ${plan.module.maker} ${plan.module.model} · rules: ${assessment.rule_pack.name}`}
      caution={[
        "Lift with two people what the sheet says, and never up a ladder by hand.",
        "Measure the supply as licensed work with a tested voltmeter.",
        "Without the operator's permit everything may be built and nothing connected.",
      ].join(" ")}
      rail={<Rail jobId={jobId} every={assessment.asks} stage={STAGE} timezone={plan.site.timezone} whyAll={whyAll} />}
    >
      <GateLine gate={stage.start} />
      <div className="faces">
        <Faces faces={FACES} face={face} show={setFace} />
        <a className="quiet" href={loadInUrl(jobId)} download>
          Load-in sheet, CSV
        </a>
      </div>
      {face === "goods" && <LoadIn jobId={jobId} view={view} />}
      {face === "permit and people" && (
        <>
          <PermitForm jobId={jobId} permit={plan.arrival.permit} />
          <Crew jobId={jobId} crew={plan.arrival.crew} />
          <h2 className="why-head">What this says</h2>
          <JudgementList judgements={stage.judgements} allOpen={whyAll} />
        </>
      )}
      {face === "left open" && <OpenItems jobId={jobId} items={plan.arrival.open_items} stages={assessment.stages} />}
    </StageFrame>
  );
}
