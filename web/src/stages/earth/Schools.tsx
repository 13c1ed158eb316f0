import type { EarthStage } from "../../shared/api/types";
import { figure } from "../../shared/lib/figures";
import { say } from "../../words/say";

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
    <div className="size-steps schools" role="radiogroup" aria-label={say("earth.how_the_frames_are_bonded")}>
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
                say("earth.draw_the_roof_to_count", { what: part.what })
              ) : (
                <>
                  <b>{figure(part.count, "", 0)}</b> {part.what}
                </>
              )}
            </span>
          ))}
          <span className="buys">
            {one.caution}
            {one.default && say("earth.the_rule_packs_way")}
          </span>
        </button>
      ))}
    </div>
  );
}
