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
import { say } from "../../words/say";

const STAGE = 1;
const FACES = ["goods", "permit", "left_open"] as const;
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
      title={say("arrive.arrive")}
      about={stage.line}
      aside={say("arrive.rules", {
        plan: equipment(plan),
        maker: plan.module.maker,
        model: plan.module.model,
        name: assessment.rule_pack.name,
      })}
      caution={[
        say("arrive.lift_with_two_people_what_the"),
        say("arrive.measure_the_supply_as_licensed_work"),
        say("arrive.without_the_operators_permit_everything_may"),
      ].join(" ")}
      rail={<Rail jobId={jobId} every={assessment.asks} stage={STAGE} timezone={plan.site.timezone} whyAll={whyAll} />}
    >
      <GateLine gate={stage.start} />
      <div className="faces">
        <Faces faces={FACES} face={face} show={setFace} />
        <a className="quiet" href={loadInUrl(jobId)} download>
          {say("arrive.load_in_sheet_csv")}
        </a>
      </div>
      {face === "goods" && <LoadIn jobId={jobId} view={view} />}
      {face === "permit" && (
        <>
          <PermitForm jobId={jobId} permit={plan.arrival.permit} />
          <Crew jobId={jobId} crew={plan.arrival.crew} />
          <h2 className="why-head">{say("arrive.what_this_says")}</h2>
          <JudgementList judgements={stage.judgements} allOpen={whyAll} />
        </>
      )}
      {face === "left_open" && <OpenItems jobId={jobId} items={plan.arrival.open_items} stages={assessment.stages} />}
    </StageFrame>
  );
}
