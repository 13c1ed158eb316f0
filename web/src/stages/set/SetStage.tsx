import { Button } from "antd";
import { api } from "../../shared/api/client";
import { useJobWrite } from "../../shared/api/useJobWrite";
import { Entry } from "../../shared/Entry";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { ProfilePick } from "../../shared/ProfilePick";
import { Rail } from "../../shared/readings/Rail";
import { StageFrame, type StageProps } from "../../shared/StageFrame";
import { Attempts } from "./Attempts";
import { EnvelopePicture } from "./EnvelopePicture";
import { PointList } from "./PointList";

const STAGE = 9;

/** Stage 9: the grid profile, written to the inverter, read back and held against it point by point. */
export default function SetStage({ jobId, view, whyAll }: StageProps) {
  const { assessment, plan } = view;
  const stage = assessment.grid;
  const write = useJobWrite<null>(jobId, () => api.writeProfile(jobId));
  const asks = assessment.asks.filter((ask) => ask.stage === STAGE);
  return (
    <StageFrame
      title="Set"
      about={stage.profile === null ? "No profile is chosen yet" : stage.profile_edition}
      aside={stage.profile_note}
      caution="Writing changes the inverter's grid protection. Only with the network operator's permission on file, and only the profile it asks for. Licensed work."
      rail={
        <>
          <div className="entries device">
            <ProfilePick jobId={jobId} now={plan.grid.profile} />
            <Entry jobId={jobId} label="Inverter's address" path="$.grid.host" shown={plan.grid.host} />
            <div className="pair">
              <Entry jobId={jobId} label="Port" path="$.grid.port" shown={String(plan.grid.port)} />
              <Entry jobId={jobId} label="Unit number" path="$.grid.unit_id" shown={String(plan.grid.unit_id)} />
            </div>
            <Button type="primary" block loading={write.isPending} onClick={() => write.mutate(null)}>
              {write.isPending ? "Writing and reading back" : "Write and read back"}
            </Button>
            <ProblemNote error={write.error} />
          </div>
          <Attempts attempts={stage.attempts} timezone={plan.site.timezone} />
          {asks.length > 0 && <Rail jobId={jobId} every={asks} stage={STAGE} timezone={plan.site.timezone} whyAll={whyAll} />}
        </>
      }
    >
      {stage.profile === null && (
        <p className="nothing">Pick the grid profile that the network operator asks for. It is never chosen for you.</p>
      )}
      <JudgementList judgements={stage.judgements} allOpen={whyAll} />
      <div className="envelopes">
        <EnvelopePicture stage={stage} quantity="voltage" />
        <EnvelopePicture stage={stage} quantity="frequency" />
      </div>
      {stage.trips.length > 0 && <p className="legend">Hatched: where the profile makes the inverter stop. Dashed: what the inverter holds. Dotted: nominal.</p>}
      <PointList points={stage.points} />
    </StageFrame>
  );
}
