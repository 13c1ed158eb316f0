import type { EarthStage } from "../../shared/api/types";
import { figure } from "../../shared/lib/figures";

type School = EarthStage["schools"][number];

/** The ways to bond the frames side by side: what each needs, and what to mind. */
export function Schools({
  schools,
  choose,
}: {
  schools: School[];
  choose: (school: "washer" | "wire" | "none") => void;
}) {
  return (
    <div className="size-steps schools" role="radiogroup" aria-label="How the frames are bonded">
      {schools.map((one) => (
        <button
          key={one.school}
          type="button"
          role="radio"
          aria-checked={one.chosen}
          className="size-step"
          onClick={() => choose(one.school as "washer" | "wire" | "none")}
        >
          <span className="size-name">{one.title}</span>
          {one.parts.map((part) => (
            <span key={part.what}>
              {part.count === null ? (
                `${part.what}: draw the roof to count`
              ) : (
                <>
                  <b>{figure(part.count, "", 0)}</b> {part.what}
                </>
              )}
            </span>
          ))}
          <span className="buys">
            {one.caution}
            {one.default && " The rule pack's way."}
          </span>
        </button>
      ))}
    </div>
  );
}
