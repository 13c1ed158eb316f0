import { useState } from "react";
import { recordPageUrl, recordPartUrl, recordUrl } from "../../shared/api/urls";
import type { StageProps } from "../../shared/layout/StageFrame";
import { say } from "../../words/say";

/** The parts of the record in the order in which an inspector reads them. */
const PARTS: readonly (readonly [string, string])[] = [
  ["cover", say("leave.cover")],
  ["system", say("leave.system_data")],
  ["string_tests", say("leave.string_test_report")],
  ["inspection", say("leave.inspection")],
  ["ac_tests", say("leave.ac_schedule_of_tests")],
  ["earth", say("common.earth")],
  ["settings", say("leave.grid_settings")],
  ["single_line", say("leave.single_line_diagram")],
  ["roof_map", say("leave.roof_map_and_serials")],
  ["communication", say("leave.communication")],
  ["sequence", say("leave.switching_on")],
  ["labels", say("leave.labels")],
  ["follow_up", say("leave.looks_after_the_day")],
  ["open", say("leave.open_points")],
  ["detail", say("leave.detail")],
  ["instruments", say("leave.instruments_sheets_rules")],
  ["evidence", say("leave.evidence")],
  ["decisions", say("leave.overrides_superseded_readings")],
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
        <summary>{say("leave.each_part_on_its_own_pdf")}</summary>
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
        <a key={page} href={recordUrl(jobId)} aria-label={say("common.page_of_the_record", { page })}>
          <img
            src={recordPageUrl(jobId, page, mark)}
            alt={say("common.page_of_the_record", { page })}
            onLoad={() => setAsked(Math.max(asked, page + 1))}
            onError={() => setLast(page - 1)}
          />
        </a>
      ))}
    </div>
  );
}
