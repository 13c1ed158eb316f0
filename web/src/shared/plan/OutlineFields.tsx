import { Button } from "antd";
import type { Edit, HangStage, Plane } from "../api/types";
import { useEdit } from "../api/useJobWrite";
import { DraftField } from "../fields/DraftField";
import { KeepRow } from "../fields/KeepRow";
import { shownAs, useDraft } from "../fields/useDraft";
import { JudgementList } from "../judging/JudgementList";
import { ProblemNote } from "../judging/ProblemNote";
import { OutlinePicture } from "./OutlinePicture";
import { rich, say } from "../../words/say";

type Put = Extract<Edit, { do: "outline_plane" }>;
const NOTHING = { name: "", x_mm: "", y_mm: "", width_mm: "", height_mm: "" };
const OBSTACLE_FIELDS = [
  ["name", say("shared.what_stands_there"), say("shared.chimney")],
  ["x_mm", say("common.from_the_left_edge"), "1600 mm"],
  ["y_mm", say("shared.from_the_eave"), "600 mm"],
  ["width_mm", say("shared.wide"), "800 mm"],
  ["height_mm", say("shared.high"), "900 mm"],
] as const;

interface OutlineFieldsProps {
  jobId: string;
  plane: Plane;
  edges: HangStage["edges"];
  whyAll: boolean;
}

/** A plane's own edges, where the modules lie inside them, and what stands on it. */
export function OutlineFields({ jobId, plane, edges, whyAll }: OutlineFieldsProps) {
  const edit = useEdit(jobId);
  const outline = plane.outline;
  const { entered, changed, put, drop } = useDraft<Put>({
    do: "outline_plane",
    name: plane.name,
    width_mm: shownAs(outline?.width_mm, "mm"),
    height_mm: shownAs(outline?.height_mm, "mm"),
    left_mm: shownAs(outline?.left_mm, "mm"),
    eave_mm: shownAs(outline?.eave_mm, "mm"),
    obstacles: (outline?.obstacles ?? []).map((one) => ({
      name: one.name,
      x_mm: shownAs(one.x_mm, "mm"),
      y_mm: shownAs(one.y_mm, "mm"),
      width_mm: shownAs(one.width_mm, "mm"),
      height_mm: shownAs(one.height_mm, "mm"),
    })),
  });
  const told = edges.find((one) => one.plane === plane.name);
  const putObstacle = (at: number, change: Partial<typeof NOTHING>) =>
    put({ obstacles: entered.obstacles.map((one, number) => (number === at ? { ...one, ...change } : one)) });
  return (
    <details className="outline" open={outline != null}>
      <summary>
        {rich("shared.edges_of_and_what_stands_on", {
          plane: plane.name,
          outline: (
            <small>
              {outline == null
                ? say("common.not_measured")
                : (told?.judgements.length ?? 0) === 0
                  ? say("shared.modules_not_drawn")
                  : ""}
            </small>
          ),
        })}
      </summary>
      {outline != null && <OutlinePicture outline={outline} modules={told?.modules ?? []} />}
      <form
        aria-label={say("shared.edges_of", { plane: plane.name })}
        onSubmit={(event) => {
          event.preventDefault();
          edit.mutate(entered, { onSuccess: drop });
        }}
      >
        <div className="device-fields">
          <DraftField
            label={say("shared.along_the_eave")}
            value={entered.width_mm}
            placeholder="8.2 m"
            put={(width_mm) => put({ width_mm })}
          />
          <DraftField
            label={say("shared.up_the_slope")}
            value={entered.height_mm}
            placeholder="4.6 m"
            put={(height_mm) => put({ height_mm })}
          />
          <DraftField
            label={say("shared.left_edge_to_the_modules")}
            value={entered.left_mm}
            placeholder="400 mm"
            put={(left_mm) => put({ left_mm })}
          />
          <DraftField
            label={say("shared.eave_to_the_modules")}
            value={entered.eave_mm}
            placeholder="300 mm"
            put={(eave_mm) => put({ eave_mm })}
          />
        </div>
        {entered.obstacles.map((one, at) => (
          <div key={at} className="device-fields">
            {OBSTACLE_FIELDS.map(([field, label, placeholder]) => (
              <DraftField
                key={field}
                label={label}
                value={one[field]}
                placeholder={placeholder}
                put={(text) => putObstacle(at, { [field]: text })}
              />
            ))}
            <Button onClick={() => put({ obstacles: entered.obstacles.filter((_, number) => number !== at) })}>
              {say("shared.off_the_roof")}
            </Button>
          </div>
        ))}
        <div className="device-fields">
          <Button onClick={() => put({ obstacles: [...entered.obstacles, NOTHING] })}>
            {say("shared.something_stands_here")}
          </Button>
          <KeepRow
            changed={changed}
            saving={edit.isPending}
            drop={drop}
            remove={outline == null ? undefined : () => edit.mutate({ ...entered, width_mm: "" }, { onSuccess: drop })}
          />
        </div>
        <ProblemNote error={edit.error} />
      </form>
      {told !== undefined && <JudgementList judgements={told.judgements} allOpen={whyAll} />}
    </details>
  );
}
