import { Checkbox } from "antd";
import { useEdit } from "../../shared/api/useJobWrite";
import { Entry } from "../../shared/fields/Entry";
import { Faces } from "../../shared/layout/Faces";
import { useFace } from "../../shared/layout/useFace";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { ProfilePick } from "../../shared/fields/ProfilePick";
import { Rail } from "../../shared/readings/Rail";
import { StageFrame, type StageProps } from "../../shared/layout/StageFrame";
import { Attempts } from "./Attempts";
import { EnvelopePicture } from "./EnvelopePicture";
import { LetterFace } from "./LetterFace";
import { LivePanel } from "./LivePanel";
import { LossTest } from "./LossTest";
import { PointList } from "./PointList";
import { ResponsePicture } from "./ResponsePicture";
import { WriteButtons } from "./WriteButtons";
import { rich, say } from "../../words/say";
import "./SetStage.css";

const STAGE = 9;
const FACES = ["profile", "letter", "live", "trials"] as const;
type Face = (typeof FACES)[number];

/**
 * Stage 9: the grid profile, written to the inverter, read back and held against it point by point; then how
 * it behaves.
 */
export default function SetStage({ jobId, view, whyAll }: StageProps) {
  const { assessment, plan } = view;
  const stage = assessment.grid;
  const [face, setFace] = useFace<Face>(FACES, "profile");
  const edit = useEdit(jobId);
  const timezone = plan.site.timezone;
  const stopped = stage.judgements.find((one) => one.verdict === "stop");
  return (
    <StageFrame
      title={say("set.set")}
      about={stage.profile === null ? say("set.no_profile_is_chosen_yet") : stage.profile_edition}
      aside={stage.profile_note}
      caution={[
        say("set.writing_changes_the_inverters_grid"),
        say("set.only_with_the_network_operators_permission"),
        say("common.licensed_work"),
      ].join(" ")}
      rail={
        <>
          <div className="entries device">
            <ProfilePick
              jobId={jobId}
              now={plan.grid.profile}
              {...(plan.grid.letter == null ? {} : { letter: plan.grid.letter.reference })}
            />
            {!stage.by_hand && (
              <>
                <Entry jobId={jobId} label={say("set.inverters_address")} path="$.grid.host" shown={plan.grid.host} />
                <div className="pair">
                  <Entry jobId={jobId} label={say("common.port")} path="$.grid.port" shown={String(plan.grid.port)} />
                  <Entry
                    jobId={jobId}
                    label={say("set.unit_number")}
                    path="$.grid.unit_id"
                    shown={String(plan.grid.unit_id)}
                  />
                </div>
                <WriteButtons jobId={jobId} written={stage.attempts.length > 0} />
              </>
            )}
            <Checkbox
              checked={stage.by_hand}
              onChange={(event) => edit.mutate({ do: "set_by_hand", by_hand: event.target.checked })}
            >
              {say("set.no_open_port_set_on_its")}
            </Checkbox>
            <ProblemNote error={edit.error} />
          </div>
          <Attempts attempts={stage.attempts} timezone={timezone} />
          <Rail jobId={jobId} every={assessment.asks} stage={STAGE} timezone={timezone} whyAll={whyAll} />
        </>
      }
    >
      <div className="faces">
        <Faces faces={FACES} face={face} show={setFace} />
        {stage.fingerprint !== null && (
          <span className="fingerprint">{rich("set.settings_2", { fingerprint: <b>{stage.fingerprint}</b> })}</span>
        )}
      </div>
      {stopped !== undefined && <p className="reason reason-stop set-stopped">{stopped.reason}</p>}
      {face === "profile" && (
        <>
          {stage.profile === null && <p className="nothing">{say("set.pick_the_grid_profile_that_the")}</p>}
          <div className="envelopes">
            <EnvelopePicture stage={stage} quantity="voltage" />
            <EnvelopePicture stage={stage} quantity="frequency" />
          </div>
          {stage.trips.length > 0 && <p className="legend">{say("set.hatched_where_the_profile_makes_the")}</p>}
          <div className="responses">
            {stage.responses.map((one) => (
              <ResponsePicture key={one.name} response={one} />
            ))}
          </div>
          <JudgementList judgements={stage.judgements} allOpen={whyAll} />
          <PointList points={stage.points} />
        </>
      )}
      {face === "letter" && <LetterFace jobId={jobId} letter={plan.grid.letter ?? null} />}
      {face === "live" && <LivePanel jobId={jobId} byHand={stage.by_hand} />}
      {face === "trials" && (
        <>
          <LossTest jobId={jobId} moments={stage.loss} timezone={timezone} />
          <JudgementList
            judgements={stage.judgements.filter((one) => one.rule_id.startsWith("loss"))}
            allOpen={whyAll}
          />
        </>
      )}
    </StageFrame>
  );
}
