import type { BranchState } from "../shared/api/types";

/** A branch by its name, its phase, its units and where its breaker stands. */
export function BranchHead({ branch }: { branch: BranchState }) {
  return (
    <header>
      <h3>
        {branch.name}
        {branch.phase_name !== "" && ` on ${branch.phase_name}`}
      </h3>
      <span>{branch.units.length} units</span>
      <b>{branch.is_on ? "ON" : "OFF"}</b>
    </header>
  );
}
