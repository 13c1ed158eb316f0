import type { JobView } from "../../shared/api/types";
import { JudgementList } from "../../shared/judging/JudgementList";
import { strung } from "../../shared/lib/strung";
import { AddPlane } from "../../shared/plan/AddPlane";
import { AddString } from "./AddString";
import { say } from "../../words/say";
import "./NoStrings.css";

/** A job of which nobody has said yet what lies on the roof: planes first, then the strings on them. */
export function NoStrings({ jobId, view }: { jobId: string; view: JobView }) {
  const { planes } = view.plan;
  return (
    <div className="no-strings">
      <p className="no-strings-ask">
        {planes.length === 0
          ? say("string.which_roof_planes_carry_modules")
          : say("string.how_many_modules_are_in_each")}
      </p>
      {planes.length > 0 && (
        <>
          <ul className="no-strings-planes">
            {planes.map((plane) => (
              <li key={plane.name}>{plane.name}</li>
            ))}
          </ul>
          <AddString jobId={jobId} view={view} />
          <p className="source">{say("string.or_draw_the_planes_under_roof")}</p>
        </>
      )}
      <AddPlane jobId={jobId} first={planes.length === 0} />
      <JudgementList judgements={strung(view).stage.whole} allOpen={false} />
    </div>
  );
}
