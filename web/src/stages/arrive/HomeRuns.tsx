import type { StringPlan } from "../../shared/api/client";
import { useEdit } from "../../shared/api/useJobWrite";
import { figure } from "../../shared/figures";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Typed } from "../../shared/Typed";

const USUAL_MM2 = "4";
const USUAL_M = "15";

/** Each string's way to the inverter, by which its cable is counted. */
export function HomeRuns({ jobId, strings }: { jobId: string; strings: StringPlan[] }) {
  const edit = useEdit(jobId);
  return (
    <section className="home-runs" aria-label="Home runs">
      <h3>Home runs, by which DC cable is counted</h3>
      {strings.map(({ name, home_run: run }) => (
        <div key={name}>
          <b>{name}</b>
          <Typed label={`String ${name}, one way`} shown={run == null ? "" : figure(run.length_m, "m")} commit={(length) => edit.mutate({ do: "set_home_run", name, length_m: length, section_mm2: run == null ? USUAL_MM2 : String(run.section_mm2) })} />
          <Typed label="Size" shown={run == null ? "" : figure(run.section_mm2, "mm²")} commit={(size) => edit.mutate({ do: "set_home_run", name, length_m: run == null ? USUAL_M : String(run.length_m), section_mm2: size })} />
        </div>
      ))}
      <ProblemNote error={edit.error} />
    </section>
  );
}
