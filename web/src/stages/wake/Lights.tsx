import type { WakeStage } from "../../shared/api/types";
import { useKeep } from "../../shared/api/useJobWrite";
import { clock } from "../../shared/lib/figures";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Lamp } from "./Lamp";
import "./Lights.css";

/** What the lights show, decoded by the device's own table: a touch keeps what was seen. */
export function Lights({ jobId, wake, timezone }: { jobId: string; wake: WakeStage; timezone: string }) {
  const keep = useKeep(jobId);
  return (
    <section className="lights" aria-label="Lights">
      <header className="rail-head">
        <h2>The lights show</h2>
        <span>{wake.light_at === null ? "not said" : clock(wake.light_at, timezone)}</span>
      </header>
      {wake.lights.length === 0 && (
        <p className="source">The sheet has no table of lights: look it up in the leaflet.</p>
      )}
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
