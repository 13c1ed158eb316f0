import type { WakeStage } from "../../shared/api/types";
import { useKeep } from "../../shared/api/useJobWrite";
import { clock } from "../../shared/lib/figures";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Lamp } from "./Lamp";
import { say } from "../../words/say";
import "./Lights.css";

/** What the lights show, decoded by the device's own table: a touch keeps what was seen. */
export function Lights({ jobId, wake, timezone }: { jobId: string; wake: WakeStage; timezone: string }) {
  const keep = useKeep(jobId);
  return (
    <section className="lights" aria-label={say("wake.lights")}>
      <header className="rail-head">
        <h2>{say("wake.the_lights_show")}</h2>
        <span>{wake.light_at === null ? say("wake.not_said") : clock(wake.light_at, timezone)}</span>
      </header>
      {wake.lights.length === 0 && <p className="source">{say("wake.the_sheet_has_no_table_of")}</p>}
      <ul>
        {wake.lights.map((one) => {
          const seen = one.shows === wake.light?.shows;
          return (
            <li key={one.shows}>
              <button
                type="button"
                className="light"
                aria-pressed={seen}
                onClick={() =>
                  keep.mutate({
                    kind: "light",
                    subject: "inverter",
                    entered: one.shows,
                    taken_at: null,
                    supersedes: null,
                    instrument: "",
                    note: "",
                  })
                }
              >
                <Lamp shows={one.shows} />
                <span>
                  <b>{one.shows}</b>
                  {one.means}
                </span>
              </button>
              {seen && one.do !== "" && <p className="reason reason-watch">{one.do}</p>}
            </li>
          );
        })}
      </ul>
      <ProblemNote error={keep.error} />
    </section>
  );
}
