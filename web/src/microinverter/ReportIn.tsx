import type { BranchState } from "../shared/api/types";
import { figure } from "../shared/lib/figures";
import { Mark } from "../shared/marks/Mark";
import { say } from "../words/say";
import "./ReportIn.css";

/** How many units of a branch report, and how long after it was put ON. */
export function ReportIn({ branch }: { branch: BranchState }) {
  const { report } = branch;
  return (
    <div className="report-in">
      <progress
        max={report.of}
        value={report.reporting}
        aria-label={say("microinverter.units_of_that_report", { branch: branch.name })}
      />
      <b>{say("microinverter.of", { reporting: report.reporting, of: report.of })}</b>
      <span>
        <Mark verdict={report.verdict} word={false} /> {report.line}
        {report.minutes !== null &&
          say("microinverter.after_switching_on_the_sheet_gives", {
            minutes: figure(report.minutes, "min"),
            expected_min: figure(report.expected_min, "min", 0),
          })}
      </span>
    </div>
  );
}
