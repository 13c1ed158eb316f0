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
import "./LeaveStage.css";

const STAGE = 10;
const FACES = ["open", "labels", "sign", "record", "owner", "later"] as const;
type Face = (typeof FACES)[number];
const GROUPS: readonly Group[] = [{ title: "Labels stuck", kinds: ["label_stuck"] }];

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
      title="Leave"
      about={leave.line}
      aside={`rules: ${assessment.rule_pack.name}, ${assessment.rule_pack.edition}`}
      caution={[
        "The record states what was entered and what follows from it.",
        "It does not replace the tests and signatures that your local code asks for.",
      ].join(" ")}
      rail={
        <>
          <header className="rail-head">
            <h2>Hand over</h2>
          </header>
          <GateLine gate={{ verdict: leave.signing.verdict, line: leave.signing.line }} />
          <FileLink className="big-link" href={dossierUrl(jobId, "pdf")} doing="Putting it together">
            Dossier, A4 PDF
          </FileLink>
          <p className="link-row">
            <FileLink href={dossierUrl(jobId, "zip")} doing="Putting it together">
              Dossier, ZIP
            </FileLink>
            <FileLink href={recordUrl(jobId)} doing="Setting the pages">
              Record, A4 PDF
            </FileLink>
            <a href={fileUrl(jobId)}>Job file, JSON</a>
            {assessment.evidence.length > 0 && (
              <FileLink href={bundleUrl(jobId)} doing="Packing it">
                Job with its pictures, ZIP
              </FileLink>
            )}
            <a href={supportUrl(jobId, false)}>Support bundle, ZIP</a>
            <a href={supportUrl(jobId, true)}>the same with names</a>
          </p>
          <p className="source">
            The job file holds everything, each superseded reading too. It can be read in on another machine from the
            home page.
          </p>
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
              audit of this job
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
