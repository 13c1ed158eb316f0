import type { BranchState } from "../shared/api/types";
import { say } from "../words/say";

/** A branch by its name, its phase, its units and where its breaker stands. */
export function BranchHead({ branch }: { branch: BranchState }) {
  return (
    <header>
      <h3>
        {branch.name}
        {branch.phase_name !== "" && say("microinverter.on", { phase_name: branch.phase_name })}
      </h3>
      <span>{say("microinverter.units", { unitsCount: branch.units.length })}</span>
      <b>{branch.is_on ? say("common.on_2") : say("common.off")}</b>
    </header>
  );
}
