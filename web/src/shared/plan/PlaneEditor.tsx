import { Button, Input, Select } from "antd";
import { memo, useState } from "react";
import type { HangStage, MicroPlan, Plane } from "../api/types";
import { useChange, useEdit } from "../api/useJobWrite";
import { Entry } from "../fields/Entry";
import { figure, maybe } from "../lib/figures";
import { SheetPick } from "../fields/SheetPick";
import { ProblemNote } from "../judging/ProblemNote";
import { Field } from "../fields/Field";
import { OutlineFields } from "./OutlineFields";
import { TapeMarks } from "./TapeMarks";
import { resized } from "./roof";
import { say } from "../../words/say";

export const MOUNTINGS = [
  { value: "close", label: say("common.close_to_the_roof") },
  { value: "raised", label: say("common.raised_on_a_rack") },
  { value: "open", label: say("common.open_rack") },
  { value: "in_roof", label: say("shared.in_the_roof_in_place_of") },
];
const MOST_ROWS = 30;
const MOST_COLUMNS = 40;

const ORIENTATIONS = [
  { value: "portrait", label: "portrait" },
  { value: "landscape", label: "landscape" },
];

interface PlaneEditorProps {
  jobId: string;
  plane: Plane;
  index: number;
  /** What planes have of their own on a roof of microinverters; null where there is a wall inverter. */
  types: MicroPlan["types"] | null;
  /** The rails under its modules, as marks for the tape. */
  tape: HangStage["tape"];
  /** It inside its own edges, where those are measured. */
  edges: HangStage["edges"];
  whyAll: boolean;
}

/** One roof plane: how it lies, what is drawn on it to scale, what shades it, where its rails are marked. */
export const PlaneEditor = memo(function PlaneEditor(props: PlaneEditorProps) {
  const { jobId, plane, index, types, tape, edges, whyAll } = props;
  const change = useChange(jobId);
  const edit = useEdit(jobId);
  const typed = useEdit(jobId);
  const draw = (rows: string[]) => edit.mutateAsync({ do: "shape_plane", name: plane.name, rows, let_go: false });
  const refused = edit.variables;
  const own = types?.find((one) => one.plane === plane.name);
  const path = `$.planes[${index}]`;
  return (
    <section className="plane" aria-label={say("shared.plane", { plane: plane.name })}>
      <h3>{plane.name}</h3>
      <div className="plane-fields">
        <Entry jobId={jobId} label={say("shared.tilt")} path={`${path}.tilt_deg`} shown={maybe(plane.tilt_deg, "°")} />
        <Entry
          jobId={jobId}
          label={say("common.facing_180_south")}
          path={`${path}.azimuth_deg`}
          shown={maybe(plane.azimuth_deg, "°")}
        />
        <label className="entry">
          <span className="entry-label">{say("common.mounting")}</span>
          <Select
            aria-label={say("shared.mounting_of", { plane: plane.name })}
            value={plane.mounting}
            options={MOUNTINGS}
            onChange={(entered: string) => change.mutate([{ path: `${path}.mounting`, entered }])}
          />
        </label>
        <Size rows={plane.rows} put={draw} />
        <Button className="plane-off" onClick={() => edit.mutate({ do: "remove_plane", name: plane.name })}>
          {say("common.remove")}
        </Button>
      </div>
      <SheetPick
        kind="modules"
        label={say("shared.modules_on", { plane: plane.name })}
        now={plane.module?.id ?? null}
        nowLabel={plane.module == null ? "" : `${plane.module.maker} ${plane.module.model}`}
        none={say("shared.the_same_as_the_rest_of")}
        put={(id) => edit.mutate({ do: "take_sheet", kind: "modules", id, plane: plane.name })}
      />
      {types !== null && (
        <div className="plane-fields">
          <SheetPick
            kind="micros"
            label={say("shared.microinverters_on", { plane: plane.name })}
            now={own?.unit?.id ?? null}
            nowLabel={own?.unit == null ? "" : `${own.unit.maker} ${own.unit.model}`}
            none={say("shared.the_same_as_the_rest_of_the")}
            put={(id) => edit.mutate({ do: "take_sheet", kind: "micros", id, plane: plane.name })}
          />
          <SheetPick
            kind="trunks"
            label={say("shared.trunk_cable_on", { plane: plane.name })}
            now={own?.trunk?.id ?? null}
            nowLabel={own?.trunk == null ? "" : `${own.trunk.maker} ${own.trunk.model}`}
            none={say("shared.the_same_as_the_rest_of_the")}
            put={(id) => edit.mutate({ do: "take_sheet", kind: "trunks", id, plane: plane.name })}
          />
        </div>
      )}
      {plane.rows.length > 0 && (
        <div className="plane-fields">
          <label className="entry">
            <span className="entry-label">{say("shared.modules_lie")}</span>
            <Select
              aria-label={say("shared.how_modules_lie_on", { plane: plane.name })}
              value={plane.orientation}
              options={ORIENTATIONS}
              onChange={(entered: string) => change.mutate([{ path: `${path}.orientation`, entered }])}
            />
          </label>
          <Entry
            jobId={jobId}
            label={say("shared.between_rows")}
            path={`${path}.row_gap_mm`}
            shown={maybe(plane.row_gap_mm, "mm", 0)}
          />
          <Entry
            jobId={jobId}
            label={say("shared.a_rafter_from_the_left_edge")}
            path={`${path}.rafter_first_mm`}
            shown={maybe(plane.rafter_first_mm, "mm", 0)}
          />
          <Entry
            jobId={jobId}
            label={say("shared.rafter_to_rafter")}
            path={`${path}.rafter_pitch_mm`}
            shown={maybe(plane.rafter_pitch_mm, "mm", 0)}
          />
          <RowTexts plane={plane} put={draw} />
          {plane.rows.flatMap((row, at) =>
            Array.from(row).map(
              (cell, column) =>
                cell === "." && (
                  <GapFields
                    key={`${at} ${column}`}
                    plane={plane}
                    row={at + 1}
                    column={column + 1}
                    put={(width_mm, what) =>
                      typed.mutateAsync({
                        do: "set_gap",
                        plane: plane.name,
                        row: at + 1,
                        column: column + 1,
                        width_mm,
                        what,
                      })
                    }
                  />
                ),
            ),
          )}
        </div>
      )}
      <Entry jobId={jobId} label={say("shared.shade_what_and_when")} path={`${path}.shade`} shown={plane.shade} />
      <OutlineFields jobId={jobId} plane={plane} edges={edges} whyAll={whyAll} />
      <TapeMarks rows={tape.filter((row) => row.plane === plane.name)} whyAll={whyAll} />
      <ProblemNote
        error={change.error ?? edit.error}
        meant={{
          path: "$.let_go",
          label: say("shared.draw_it_so"),
          go: () => {
            if (refused?.do === "shape_plane") edit.mutate({ ...refused, let_go: true });
          },
        }}
      />
    </section>
  );
});

interface GapFieldsProps {
  plane: Plane;
  row: number;
  column: number;
  put: (width_mm: string, what: string) => Promise<unknown>;
}

/** One gap of a row: how wide, and what stands there. */
function GapFields({ plane, row, column, put }: GapFieldsProps) {
  const found = plane.gaps.find((one) => one.row === row && one.column === column);
  const width = found === undefined ? "" : figure(found.width_mm, "mm", 0);
  return (
    <>
      <Field
        label={say("shared.gap_in_row_at", { row, column })}
        shown={width}
        hint={say("shared.edge_to_edge_empty_a_modules")}
        commit={(width_mm) => put(width_mm, found?.what ?? "")}
      />
      {found !== undefined && (
        <Field label={say("shared.what_stands_there")} shown={found.what} commit={(what) => put(width, what)} />
      )}
    </>
  );
}

/** The rows as they are drawn, # a module and . a gap, each row its own length. */
function RowTexts({ plane, put }: { plane: Plane; put: (rows: string[]) => Promise<unknown> }) {
  return (
    <Field
      label={say("shared.rows_module_gap")}
      shown={plane.rows.join(" / ")}
      commit={(entered) =>
        put(
          entered
            .split("/")
            .map((row) => row.trim())
            .filter((row) => row !== ""),
        )
      }
    />
  );
}

/** Rows and columns as drawn, typed as "2 x 6". */
function Size({ rows, put }: { rows: string[]; put: (rows: string[]) => Promise<unknown> }) {
  const shown = rows.length === 0 ? "" : `${rows.length} × ${Math.max(...rows.map((row) => row.length))}`;
  const [typed, setTyped] = useState<string | null>(null);
  const parts = /^\s*(\d+)\s*[x×*]\s*(\d+)\s*$/i.exec(typed ?? "");
  const [rowCount, columnCount] = [Number(parts?.[1]), Number(parts?.[2])];
  const fits =
    parts !== null && rowCount >= 1 && columnCount >= 1 && rowCount <= MOST_ROWS && columnCount <= MOST_COLUMNS;
  const send = () => {
    if (!fits) return;
    // Refused, it stays; the editor says why.
    void put(resized(rows, rowCount, columnCount)).then(
      () => setTyped(null),
      () => undefined,
    );
  };
  const isWrong = typed !== null && typed !== "" && !fits;
  return (
    <label className="entry">
      <span className="entry-label">{say("shared.rows_columns")}</span>
      <Input
        value={typed ?? shown}
        placeholder="2 × 6"
        status={isWrong ? "error" : ""}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={send}
        onPressEnter={send}
      />
      {isWrong && (
        <span className="entry-hint">
          {say("shared.as_2_6_up_to_kept", {
            most_rows: MOST_ROWS,
            most_columns: MOST_COLUMNS,
            shown: shown === "" ? say("common.not_drawn") : shown,
          })}
        </span>
      )}
    </label>
  );
}
