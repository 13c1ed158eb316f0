import { useCallback, useState } from "react";
import { Link } from "react-router";
import { useSession } from "../../people/useSession";
import { bundleUrl, dossierUrl, fileUrl, recordUrl, supportUrl } from "../../shared/api/urls";
import { GateLine } from "../../shared/judging/GateLine";
import { FileLink } from "../../shared/fields/FileLink";
import { Faces } from "../../shared/layout/Faces";
import { useFace } from "../../shared/layout/useFace";
import { StageFrame, type StageProps } from "../../shared/layout/StageFrame";
import { Rail, type Group } from "../../shared/readings/Rail";
import { Erase } from "./Erase";
import { FromFiles } from "./FromFiles";
import { GuestLinks } from "./GuestLinks";
import { LabelsFace } from "./LabelsFace";
import { LaterFace } from "./LaterFace";
import { OpenFace } from "./OpenFace";
import { OwnerFace } from "./OwnerFace";
import { RecordFace } from "./RecordFace";
import { SignFace } from "./SignFace";
import { say } from "../../words/say";
import "./LeaveStage.css";

const STAGE = 10;
const FACES = ["open", "labels", "sign", "record", "owner", "later"] as const;
type Face = (typeof FACES)[number];
const GROUPS: readonly Group[] = [{ title: say("leave.labels_stuck"), kinds: ["label_stuck"] }];

/** Stage 10: signed, labelled, handed over, and looked at again. */
export default function LeaveStage({ jobId, view, whyAll }: StageProps) {
  const { assessment } = view;
  const { leave } = assessment;
  const { may } = useSession();
  const [face, setFace] = useFace<Face>(FACES, "open");
  const [wanted, setWanted] = useState<string | null>(null);
  const seen = useCallback(() => setWanted(null), []);
  const own = { jobId, view, whyAll };
  const begun = assessment.asks.some((one) => one.stage === STAGE);
  return (
    <StageFrame
      title={say("leave.leave")}
      about={leave.line}
      aside={say("leave.rules", { name: assessment.rule_pack.name, edition: assessment.rule_pack.edition })}
      caution={[say("leave.the_record_states_what_was_entered"), say("leave.it_does_not_replace_the_tests")].join(" ")}
      rail={
        <>
          <header className="rail-head">
            <h2>{say("leave.hand_over")}</h2>
          </header>
          <GateLine gate={{ verdict: leave.signing.verdict, line: leave.signing.line }} />
          <FileLink className="big-link" href={dossierUrl(jobId, "pdf")} doing={say("leave.putting_it_together")}>
            {say("leave.dossier_a4_pdf")}
          </FileLink>
          <p className="link-row">
            <FileLink href={dossierUrl(jobId, "zip")} doing={say("leave.putting_it_together")}>
              {say("leave.dossier_zip")}
            </FileLink>
            <FileLink href={recordUrl(jobId)} doing={say("leave.setting_the_pages")}>
              {say("leave.record_a4_pdf")}
            </FileLink>
            <a href={fileUrl(jobId)}>{say("leave.job_file_json")}</a>
            {assessment.evidence.length > 0 && (
              <FileLink href={bundleUrl(jobId)} doing={say("leave.packing_it")}>
                {say("leave.job_with_its_pictures_zip")}
              </FileLink>
            )}
            <a href={supportUrl(jobId, false)}>{say("leave.support_bundle_zip")}</a>
            <a href={supportUrl(jobId, true)}>{say("leave.the_same_with_names")}</a>
          </p>
          <p className="source">{say("leave.the_job_file_holds_everything_each")}</p>
          {begun && (
            <Rail
              jobId={jobId}
              every={assessment.asks}
              stage={STAGE}
              timezone={view.plan.site.timezone}
              whyAll={whyAll}
              groups={GROUPS}
              wanted={wanted}
              seen={seen}
            />
          )}
          {may("share") && <GuestLinks jobId={jobId} />}
          <FromFiles files={view.files} timezone={view.plan.site.timezone} />
          {may("audit") && (
            <Link className="quiet" to={`/audit?job=${jobId}`}>
              {say("leave.audit_of_this_job")}
            </Link>
          )}
          {may("erase") && <Erase jobId={jobId} name={assessment.name} />}
        </>
      }
    >
      <div className="faces">
        <Faces faces={FACES} face={face} show={setFace} />
      </div>
      {face === "open" && <OpenFace {...own} show={setFace} />}
      {face === "labels" && <LabelsFace {...own} take={setWanted} />}
      {face === "sign" && <SignFace {...own} />}
      {face === "record" && <RecordFace {...own} />}
      {face === "owner" && <OwnerFace {...own} />}
      {face === "later" && <LaterFace {...own} />}
    </StageFrame>
  );
}
