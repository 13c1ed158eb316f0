import { useState } from "react";
import { Link } from "react-router";
import { useSession } from "../../people/useSession";
import { bundleUrl, fileUrl, recordPageUrl, recordUrl } from "../../shared/api/urls";
import { Mark } from "../../shared/marks/Mark";
import { StageFrame, type StageProps } from "../../shared/layout/StageFrame";
import { Erase } from "./Erase";
import { FromFiles } from "./FromFiles";
import { GuestLinks } from "./GuestLinks";
import "./LeaveStage.css";

/** The record's pages under each other: the next is asked for when the one before has come. */
function Dossier({ jobId, mark }: { jobId: string; mark: string }) {
  const [asked, setAsked] = useState(1);
  const [last, setLast] = useState(Infinity);
  const pages = Array.from({ length: Math.min(asked, last) }, (_, index) => index + 1);
  return (
    <div className="dossier">
      {pages.map((page) => (
        <a key={page} href={recordUrl(jobId)} aria-label={`Page ${page} of the record`}>
          <img
            src={recordPageUrl(jobId, page, mark)}
            alt={`Page ${page} of the record`}
            onLoad={() => setAsked(Math.max(asked, page + 1))}
            onError={() => setLast(page - 1)}
          />
        </a>
      ))}
    </div>
  );
}

/** Stage 10: the record, page by page, what is still open, and the job as a file. */
export default function LeaveStage({ jobId, view }: StageProps) {
  const { assessment } = view;
  const { may } = useSession();
  const { open_points: open } = assessment;
  const read = [...assessment.asks, ...assessment.arrive.lines].reduce((sum, one) => sum + one.history.length, 0);
  const mark = `${view.revision}-${read}-${assessment.evidence.length}-${assessment.grid.attempts.length}`;
  return (
    <StageFrame
      title="Leave"
      about="The record as it stands"
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
          <a className="big-link" href={recordUrl(jobId)}>
            Record, A4 PDF
          </a>
          <a className="big-link second" href={fileUrl(jobId)}>
            Job file, JSON
          </a>
          {assessment.evidence.length > 0 && (
            <a className="big-link second" href={bundleUrl(jobId)}>
              Job with its pictures, ZIP
            </a>
          )}
          <p className="source">
            The job file holds everything, each superseded reading too. It can be read in on another machine from the
            home page.
          </p>
          <header className="rail-head">
            <h2>Open points</h2>
            <span>{open.length}</span>
          </header>
          {open.length === 0 && <p>Nothing is open.</p>}
          <ul className="open-points">
            {open.map(({ stage, where, judgement }, index) => (
              <li key={`${judgement.rule_id}-${index}`}>
                <Mark verdict={judgement.verdict} /> <b>{where === "" ? assessment.stages[stage - 1]?.title : where}</b>
                <p>
                  {judgement.title}. {judgement.reason}
                </p>
              </li>
            ))}
          </ul>
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
      <Dossier key={mark} jobId={jobId} mark={mark} />
    </StageFrame>
  );
}
