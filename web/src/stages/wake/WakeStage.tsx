import { useEdit } from "../../shared/api/useJobWrite";
import { Faces } from "../../shared/layout/Faces";
import { useFace } from "../../shared/layout/useFace";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Pick } from "../../shared/fields/Pick";
import { StageFrame, type StageProps } from "../../shared/layout/StageFrame";
import { BranchSwitches } from "../../microinverter/BranchSwitches";
import { Lights } from "./Lights";
import { MayBeDone } from "./MayBeDone";
import { Overrides } from "./Overrides";
import { PhaseFace } from "./PhaseFace";
import { RehearseFace } from "./RehearseFace";
import { SwitchStrip } from "./SwitchStrip";
import { say } from "../../words/say";

const FACES = ["on", "off", "replace", "emergency", "rehearse"] as const;
type Face = (typeof FACES)[number];

/**
 * Stage 8: the sequence with its locks, the waits with their clocks, what the lights mean, and its
 * rehearsal.
 */
export default function WakeStage({ jobId, view, whyAll }: StageProps) {
  const { assessment, plan } = view;
  const { wake } = assessment;
  const [face, setFace] = useFace<Face>(FACES, "on");
  const edit = useEdit(jobId);
  const chosen = wake.offers.find((one) => one.chosen);
  const phase = face === "emergency" ? wake.emergency : wake.phases.find((one) => one.phase === face);
  const timezone = plan.site.timezone;
  return (
    <StageFrame
      title={say("wake.wake")}
      about={phase === undefined ? say("wake.rehearsal_nothing_of_it_is_real") : phase.line}
      aside={chosen?.name ?? ""}
      caution={[
        say("wake.licensed_work_covers_on_everyone_clear"),
        say("wake.no_cover_is_opened_while_anything"),
        say("wake.the_devices_own_sheet_and_your"),
      ].join(" ")}
      rail={
        <>
          <div className="entries device">
            <Pick
              label={say("wake.order_of_switching")}
              value={chosen?.id ?? ""}
              options={wake.offers.map((one) => [one.id, one.name] as const)}
              put={(sequence) => edit.mutate({ do: "choose_sequence", sequence })}
            />
            <p className="source">
              {chosen?.about} {wake.why}
            </p>
            <ProblemNote error={edit.error} />
          </div>
          <MayBeDone jobId={jobId} assessment={assessment} />
          <Lights jobId={jobId} wake={wake} timezone={timezone} />
          <Overrides overrides={wake.overrides} timezone={timezone} />
          <JudgementList judgements={wake.judgements} allOpen={whyAll} />
        </>
      }
    >
      <div className="faces">
        <Faces faces={FACES} face={face} show={setFace} />
      </div>
      {phase === undefined ? (
        <RehearseFace jobId={jobId} />
      ) : (
        <>
          <SwitchStrip jobId={jobId} switches={wake.switches} />
          {assessment.roof !== null && face === "on" && <BranchSwitches jobId={jobId} roof={assessment.roof} />}
          <PhaseFace key={phase.phase + phase.sequence} jobId={jobId} phase={phase} timezone={timezone} />
        </>
      )}
    </StageFrame>
  );
}
