import type { FileLine } from "../../shared/api/types";
import { dayAndClock } from "../../shared/lib/figures";
import { say } from "../../words/say";
import "../../people/people.css";

/** What of this job came in from files: which, by whom, with the digest by which one is known again. */
export function FromFiles({ files, timezone }: { files: FileLine[]; timezone: string }) {
  if (files.length === 0) return null;
  return (
    <section aria-label={say("leave.read_in_from_files")}>
      <header className="rail-head">
        <h2>{say("leave.read_in_from_files")}</h2>
      </header>
      <ul className="from-files">
        {files.map((one) => (
          <li key={one.sha256 + one.at}>
            {say("leave.by", {
              what:
                one.what === "job"
                  ? say("leave.the_job_as_it_began")
                  : say("leave.readings", { readingsCount: one.readings.length }),
              name: one.name !== "" && `: ${one.name}`,
              by: one.by,
              at: dayAndClock(one.at, timezone),
            })}

            <br />
            <code>{one.sha256}</code>
          </li>
        ))}
      </ul>
    </section>
  );
}
