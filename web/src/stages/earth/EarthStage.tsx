import { Button, Checkbox } from "antd";
import { useState } from "react";
import type { Edit } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Pick } from "../../shared/fields/Pick";
import { Rail } from "../../shared/readings/Rail";
import { StageFrame, type StageProps } from "../../shared/layout/StageFrame";
import { Example } from "../../shared/layout/Example";
import { AddToPath } from "./AddToPath";
import { EarthPath } from "./EarthPath";
import { LinkPanel } from "./LinkPanel";
import { Schools } from "./Schools";
import { UnitSchools } from "./UnitSchools";
import { say } from "../../words/say";

type Chosen = Omit<Extract<Edit, { do: "choose_earthing" }>, "do">;

const STAGE = 3;
const POLES = [
  ["none", say("earth.no_pole_earthed")],
  ["minus", say("earth.minus_earthed")],
  ["plus", say("earth.plus_earthed")],
] as const;

/** Stage 3: the earth path from frame to electrode, its sizes, and its continuity. */
export default function EarthStage({ jobId, view, whyAll }: StageProps) {
  const { assessment, plan } = view;
  const stage = assessment.earth;
  const { earthing } = plan;
  const [picked, setPicked] = useState<string | null>(null);
  const edit = useEdit(jobId);
  const chosen = stage.links.find((one) => one.name === picked) ?? stage.links[0];
  const link = earthing.links.find((one) => one.name === chosen?.name);
  const choose = (change: Partial<Chosen>) =>
    edit.mutate({
      do: "choose_earthing",
      roof: earthing.roof,
      array_pole: earthing.array_pole,
      lightning: earthing.lightning,
      ...change,
    });
  return (
    <StageFrame
      title={say("common.earth")}
      about={stage.line}
      aside={say("common.rules", { name: assessment.rule_pack.name })}
      caution={[
        say("earth.supply_dead_locked_and_proved_dead"),
        say("earth.never_part_a_conductor_that_others"),
        say("common.licensed_work_your_local_code_wins_over"),
      ].join(" ")}
      rail={<Rail jobId={jobId} every={assessment.asks} stage={STAGE} timezone={plan.site.timezone} whyAll={whyAll} />}
    >
      {earthing.nodes.length === 0 ? (
        <>
          <Button type="primary" loading={edit.isPending} onClick={() => edit.mutate({ do: "propose_path" })}>
            {say("earth.make_one_from_the_plan")}
          </Button>
          <Example begins={say("earth.the_path_leads_from_the_frames")}>
            {({ assessment: { earth }, plan: shown }) => (
              <EarthPath stage={earth} earthing={shown.earthing} chosen={null} select={() => undefined} />
            )}
          </Example>
        </>
      ) : (
        <>
          <EarthPath stage={stage} earthing={earthing} chosen={chosen?.name ?? null} select={setPicked} />
          {chosen !== undefined && link !== undefined && (
            <LinkPanel
              key={link.name}
              jobId={jobId}
              link={link}
              state={chosen}
              nodes={earthing.nodes}
              renamed={setPicked}
              whyAll={whyAll}
            />
          )}
        </>
      )}
      <ProblemNote error={edit.error} />
      <h2 className="why-head">{say("earth.how_the_frames_are_bonded")}</h2>
      <Schools schools={stage.schools} choose={(roof) => choose({ roof })} />
      {assessment.roof !== null && <UnitSchools jobId={jobId} view={view} roof={assessment.roof} />}
      <div className="device-fields">
        <Pick
          label={say("earth.array_pole")}
          value={earthing.array_pole}
          options={POLES}
          put={(array_pole) => choose({ array_pole })}
        />
        <Checkbox checked={earthing.lightning} onChange={(event) => choose({ lightning: event.target.checked })}>
          {say("earth.the_house_has_lightning_rods")}
        </Checkbox>
      </div>
      {earthing.nodes.length > 0 && <AddToPath jobId={jobId} nodes={earthing.nodes} />}
      {stage.judgements.length > 0 && <JudgementList judgements={stage.judgements} allOpen={whyAll} />}
    </StageFrame>
  );
}
