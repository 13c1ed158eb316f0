import { Button } from "antd";
import { useState } from "react";
import type { Edit, JobView, ModulePlace } from "../../shared/api/types";
import { useDrawnEdit } from "../../shared/api/useJobWrite";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { strung } from "../../shared/lib/strung";
import { AddPlane } from "../../shared/plan/AddPlane";
import { PlaneEditor } from "../../shared/plan/PlaneEditor";
import { turned } from "../../shared/plan/roof";
import { RoofPicture } from "./RoofPicture";
import type { FaceProps } from "./VoltsFace";
import { say } from "../../words/say";
import "./RoofFace.css";

const LIKE_THE_LAST = { plane: "", modules_in_series: "", tracker: "" };

/** The roof: strings painted on its modules, home-run ends marked, and the planes themselves. */
export function RoofFace({ jobId, view, selected, select, whyAll }: FaceProps & { whyAll: boolean }) {
  const [cutting, setCutting] = useState(false);
  const edit = useDrawnEdit(jobId, view.revision);
  const { plan } = view;
  const { planes, strings } = awaited(plan, edit.awaited);
  const string = strings.find((one) => one.name === selected);
  const told = strung(view).stage.strings.find((one) => one.name === selected);
  const paint = (places: ModulePlace[]) => {
    if (string !== undefined) edit.mutate({ do: "paint_string", name: string.name, places });
  };
  return (
    <>
      {plan.strings.length > 0 && (
        <div className="roof-tools">
          <div role="radiogroup" aria-label={say("string.string_to_paint")} className="roof-strings">
            {plan.strings.map((one) => (
              <button
                key={one.name}
                type="button"
                role="radio"
                aria-checked={one.name === selected && !cutting}
                className="face"
                onClick={() => {
                  setCutting(false);
                  select(one.name);
                }}
              >
                {one.name}{" "}
                <small>
                  {say("string.of", { placesCount: one.places.length, modules_in_series: one.modules_in_series })}
                </small>
              </button>
            ))}
            <button type="button" role="radio" aria-checked={cutting} className="face" onClick={() => setCutting(true)}>
              {say("string.gap")}
            </button>
          </div>
          <div className="roof-do">
            <Button disabled={string?.places.length === 0} onClick={() => paint([...(string?.places ?? [])].reverse())}>
              {say("string.turn_round", { selected })}
            </Button>
            <Button disabled={string?.places.length === 0} onClick={() => paint([])}>
              {say("string.empty_2", { selected })}
            </Button>
            <Button onClick={() => edit.mutate({ do: "add_string", ...LIKE_THE_LAST })}>
              {say("string.add_a_string")}
            </Button>
            <Button onClick={() => edit.mutate({ do: "remove_string", name: selected })}>
              {say("string.remove", { selected })}
            </Button>
          </div>
        </div>
      )}
      <p className="roof-hint">
        {plan.strings.length === 0
          ? say("string.draw_the_planes_below_then_add")
          : cutting
            ? say("string.touch_a_module_to_make_it")
            : say("string.paint_string_from_its_minus_end", { selected })}
      </p>
      <ProblemNote error={edit.error} />
      <RoofPicture
        planes={planes}
        strings={[...strings, ...plan.elsewhere]}
        selected={selected}
        cutting={cutting}
        paint={paint}
        cut={(plane, row, column) =>
          edit.mutate({ do: "shape_plane", name: plane.name, rows: turned(plane.rows, row, column), let_go: false })
        }
      />
      {told !== undefined && <p className="roof-told">{told.line}</p>}
      <h2 className="why-head">{say("common.planes")}</h2>
      {plan.planes.map((plane, index) => (
        <PlaneEditor
          key={plane.name}
          jobId={jobId}
          plane={plane}
          index={index}
          types={view.plan.micro?.types ?? null}
          tape={view.assessment.hang.tape}
          edges={view.assessment.hang.edges}
          whyAll={whyAll}
        />
      ))}
      <AddPlane jobId={jobId} />
    </>
  );
}

/**
 * The roof as it will be once the edit under way is answered: the next touch must build on it, not on what
 * it replaces.
 */
function awaited(
  { planes, strings }: Pick<JobView["plan"], "planes" | "strings">,
  edit: Edit | undefined,
): Pick<JobView["plan"], "planes" | "strings"> {
  if (edit?.do === "paint_string") {
    return { planes, strings: strings.map((one) => (one.name === edit.name ? { ...one, places: edit.places } : one)) };
  }
  if (edit?.do === "shape_plane") {
    return { planes: planes.map((one) => (one.name === edit.name ? { ...one, rows: edit.rows } : one)), strings };
  }
  return { planes, strings };
}
