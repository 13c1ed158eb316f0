import type { RoofStage } from "../shared/api/types";
import { figure } from "../shared/lib/figures";
import { Mark } from "../shared/marks/Mark";
import { say } from "../words/say";

/** The branches side by side: which one is in hand, what flows in it. */
export function BranchPick({
  roof,
  branch,
  select,
}: {
  roof: RoofStage;
  branch: string;
  select: (name: string) => void;
}) {
  return (
    <div role="radiogroup" aria-label={say("microinverter.branch_2")} className="branch-pick">
      {roof.branches.map((one) => (
        <button
          key={one.name}
          type="button"
          role="radio"
          aria-checked={one.name === branch}
          className="face"
          onClick={() => select(one.name)}
        >
          {one.name}
          {one.phase_name !== "" && ` ${one.phase_name}`}{" "}
          <small>
            {say("microinverter.units_2", { unitsCount: one.units.length, current_a: figure(one.current_a, "A") })}
          </small>
          <Mark verdict={one.verdict} word={false} />
        </button>
      ))}
    </div>
  );
}
