import { useState } from "react";
import { recordPageUrl, recordPartUrl, recordUrl } from "../../shared/api/urls";
import type { StageProps } from "../../shared/layout/StageFrame";

/** The parts of the record in the order in which an inspector reads them. */
const PARTS: readonly (readonly [string, string])[] = [
  ["cover", "Cover"],
  ["system", "System data"],
  ["string_tests", "String test report"],
  ["inspection", "Inspection"],
  ["ac_tests", "AC schedule of tests"],
  ["earth", "Earth"],
  ["settings", "Grid settings"],
  ["single_line", "Single-line diagram"],
  ["roof_map", "Roof map and serials"],
  ["communication", "Communication"],
  ["sequence", "Switching on"],
  ["labels", "Labels"],
  ["follow_up", "Looks after the day"],
  ["open", "Open points"],
  ["detail", "Detail"],
  ["instruments", "Instruments, sheets, rules"],
  ["evidence", "Evidence"],
  ["decisions", "Overrides, superseded readings"],
];

/** The record as an inspector reads it: page by page, whole or in part. */
export function RecordFace({ jobId, view }: StageProps) {
  const { assessment } = view;
  const read = [...assessment.asks, ...assessment.arrive.lines].reduce((sum, one) => sum + one.history.length, 0);
  const signed = assessment.leave.signing.roles.map((one) => one.at ?? "").join();
  const mark = `${view.revision}-${read}-${assessment.evidence.length}-${assessment.grid.attempts.length}-${signed}`;
  return (
    <>
      <details className="record-parts">
        <summary>Each part on its own, PDF</summary>
        <p className="link-row">
          {PARTS.map(([part, title]) => (
            <a key={part} href={recordPartUrl(jobId, part)}>
              {title}
            </a>
          ))}
        </p>
      </details>
      <Pages key={mark} jobId={jobId} mark={mark} />
    </>
  );
}

/** Pages under each other: the next is asked for when the one before has come. */
function Pages({ jobId, mark }: { jobId: string; mark: string }) {
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
