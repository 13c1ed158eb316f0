import { useState } from "react";
import { useKeep } from "../shared/api/useJobWrite";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { MakingSteps, howFar } from "../shared/making/MakingSteps";
import { ModuleSerialList } from "../shared/making/ModuleSerialList";
import { RoofScale } from "./RoofScale";
import type { RoofFaceProps } from "./props";
import { say } from "../words/say";
import "./microinverter.css";

/** The roof as it is made: each unit with its steps, so that another can go on where one left off. */
export function MadeFace({ jobId, roof, whyAll }: RoofFaceProps) {
  const keep = useKeep(jobId);
  const [picked, setPicked] = useState<string | null>(null);
  const open = roof.units.find((one) => one.made.verdict !== "clear");
  const unit = roof.units.find((one) => one.name === picked) ?? open ?? roof.units[0];
  if (unit === undefined) return <p className="nothing">{say("microinverter.no_units_yet_take_a_proposal")}</p>;
  const made = roof.units.filter((one) => one.made.verdict === "clear").length;
  const following = roof.units[roof.units.indexOf(unit) + 1];
  return (
    <>
      <RoofScale
        stage={roof}
        chosen={unit.name}
        trunks={roof.branches.map((one) => ({ name: one.name, units: one.units, strong: false }))}
        touch={(one) => setPicked(one.name)}
        shown={(one) => {
          if (one === null) return { head: "", foot: say("microinverter.no_unit"), verdict: null, tone: "free" };
          return {
            head: one.name,
            foot: howFar(one.made),
            verdict: one.made.done.length + one.made.wrong.length === 0 ? null : one.made.verdict,
            tone: one.name === unit.name ? "next" : one.made.verdict === "clear" ? "own" : "other",
          };
        }}
      />
      <section className="branch-bench" aria-label={say("microinverter.as_it_is_made", { unit: unit.name })}>
        <header>
          <h2>{unit.name}</h2>
          <p>
            {say("microinverter.of_units_made", {
              branch: unit.branch === "" ? say("microinverter.on_no_branch") : `${unit.branch}.${unit.number}`,
              stands: howFar(unit.made),
              made,
              unitsCount: roof.units.length,
            })}
          </p>
          {following !== undefined && (
            <button type="button" className="quiet" onClick={() => setPicked(following.name)}>
              {say("microinverter.on_to", { following: following.name })}
            </button>
          )}
        </header>
        <ProblemNote error={keep.error} />
        <MakingSteps jobId={jobId} piece={unit.made} steps={roof.unit_steps} keep={keep} />
      </section>
      <ModuleSerialList jobId={jobId} serials={roof.serials} whyAll={whyAll} />
    </>
  );
}
