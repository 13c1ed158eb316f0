import type { JobView, RoofStage } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { figure } from "../../shared/lib/figures";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { say } from "../../words/say";

/** The ways to earth roof units side by side: what each needs, what to mind, what the sheet allows. */
export function UnitSchools({ jobId, view, roof }: { jobId: string; view: JobView; roof: RoofStage }) {
  const edit = useEdit(jobId);
  const { micro } = view.plan;
  if (micro === null) return null;
  const { gaps, order, label, three_phase } = micro;
  return (
    <>
      <h2 className="why-head">{say("earth.how_the_units_are_earthed")}</h2>
      <ProblemNote error={edit.error} />
      <div className="size-steps schools" role="radiogroup" aria-label={say("earth.how_the_units_are_earthed")}>
        {roof.earth.map((one) => (
          <button
            key={one.school}
            type="button"
            role="radio"
            aria-checked={one.chosen}
            className="size-step"
            onClick={() =>
              edit.mutate({
                do: "set_roof",
                gaps,
                order,
                label,
                three_phase,
                earth: one.school as "core" | "washer" | "wire",
              })
            }
          >
            <span className="size-name">{one.title}</span>
            {one.parts.map((part) => (
              <span key={part.what}>
                {part.count === null ? (
                  part.what
                ) : (
                  <>
                    <b>{figure(part.count, part.unit === "m" ? "m" : "", 0)}</b> {part.what}
                  </>
                )}
              </span>
            ))}
            <span className="buys">
              {one.caution}
              {!one.allowed && say("earth.not_with_this_unit_and_trunk")}
            </span>
          </button>
        ))}
      </div>
    </>
  );
}
