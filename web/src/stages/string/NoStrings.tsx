import type { JobView } from "../../shared/api/types";
import { JudgementList } from "../../shared/judging/JudgementList";
import { strung } from "../../shared/lib/strung";
import { AddPlane } from "../../shared/plan/AddPlane";
import { AddString } from "./AddString";
import "./NoStrings.css";

/** A job of which nobody has said yet what lies on the roof: planes first, then the strings on them. */
export function NoStrings({ jobId, view }: { jobId: string; view: JobView }) {
  const { planes } = view.plan;
  return (
    <div className="no-strings">
      <p className="no-strings-ask">
        {planes.length === 0
          ? "Which roof planes carry modules?"
          : "How many modules are in each string, and on which plane?"}
      </p>
      {planes.length > 0 && (
        <>
          <ul className="no-strings-planes">
            {planes.map((plane) => (
              <li key={plane.name}>{plane.name}</li>
            ))}
          </ul>
          <AddString jobId={jobId} view={view} />
          <p className="source">Or draw the planes under Roof, and let Arrange find the strings.</p>
        </>
      )}
      <AddPlane jobId={jobId} first={planes.length === 0} />
      <JudgementList judgements={strung(view).stage.whole} allOpen={false} />
    </div>
  );
}
