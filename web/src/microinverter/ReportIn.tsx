import type { BranchState } from "../shared/api/types";
import { figure } from "../shared/lib/figures";
import { Mark } from "../shared/marks/Mark";
import "./ReportIn.css";

/** How many units of a branch report, and how long after it was put ON. */
export function ReportIn({ branch }: { branch: BranchState }) {
  const { report } = branch;
  return (
    <div className="report-in">
      <progress max={report.of} value={report.reporting} aria-label={`Units of ${branch.name} that report`} />
      <b>
        {report.reporting} of {report.of}
      </b>
      <span>
        <Mark verdict={report.verdict} word={false} /> {report.line}
        {report.minutes !== null &&
          ` ${figure(report.minutes, "min")} after switching on; the sheet gives ${figure(report.expected_min, "min", 0)}.`}
      </span>
    </div>
  );
}
