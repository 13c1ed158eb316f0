import type { FileLine } from "../../shared/api/types";
import { dayAndClock } from "../../shared/lib/figures";
import "../../people/people.css";

/** What of this job came in from files: which, by whom, with the digest by which one is known again. */
export function FromFiles({ files, timezone }: { files: FileLine[]; timezone: string }) {
  if (files.length === 0) return null;
  return (
    <section aria-label="Read in from files">
      <header className="rail-head">
        <h2>Read in from files</h2>
      </header>
      <ul className="from-files">
        {files.map((one) => (
          <li key={one.sha256 + one.at}>
            {one.what === "job" ? "The job as it began" : `${one.readings.length} readings`}
            {one.name !== "" && `: ${one.name}`}, by {one.by}, {dayAndClock(one.at, timezone)}
            <br />
            <code>{one.sha256}</code>
          </li>
        ))}
      </ul>
    </section>
  );
}
