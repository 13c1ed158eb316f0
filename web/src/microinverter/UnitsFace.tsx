import { Button } from "antd";
import { useRef, useState, type PointerEvent } from "react";
import type { JobView, RoofStage, UnitState } from "../shared/api/types";
import { useDrawnEdit, useEdit } from "../shared/api/useJobWrite";
import { figure } from "../shared/lib/figures";
import { GateLine } from "../shared/judging/GateLine";
import { JudgementList } from "../shared/judging/JudgementList";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { RoofScale } from "./RoofScale";
import { Field } from "../shared/fields/Field";
import { say } from "../words/say";
import "./microinverter.css";

const STEP_MM = 10;
const LARGE_STEP_MM = 50;
const FINE_STEP_MM = 1;

interface RoofFaceProps {
  jobId: string;
  view: JobView;
  roof: RoofStage;
  whyAll: boolean;
}

interface Held {
  unit: string;
  mm: number;
}

/** The roof to scale: each unit on its rail under its modules, dragged along the row or moved by keys. */
export function UnitsFace({ jobId, view, roof, whyAll }: RoofFaceProps) {
  const edit = useDrawnEdit(jobId, view.revision);
  const typed = useEdit(jobId);
  const [picked, setPicked] = useState<string | null>(null);
  const [held, setHeld] = useState<Held | null>(null);
  const start = useRef<{ x: number; pxPerMm: number } | null>(null);
  const chosen = roof.units.find((one) => one.name === picked) ?? roof.units[0];
  const planned = view.plan.micro?.units.find((one) => one.name === chosen?.name);
  const move = (unit: string, shift: number) =>
    edit.mutate({ do: "move_unit", name: unit, shift_mm: String(Math.round(shift)) });
  // A second touch builds on the first, answered or not.
  const awaited = edit.awaited?.do === "move_unit" ? edit.awaited : null;
  const shiftOf = (unit: UnitState) =>
    awaited?.name === unit.name
      ? Number(awaited.shift_mm)
      : (view.plan.micro?.units.find((one) => one.name === unit.name)?.shift_mm ?? 0);
  const onUnitDown = (event: PointerEvent, unit: UnitState, pxPerMm: number) => {
    event.stopPropagation();
    setPicked(unit.name);
    start.current = { x: event.clientX, pxPerMm };
    setHeld({ unit: unit.name, mm: 0 });
  };
  const drop = () => {
    const unit = roof.units.find((one) => one.name === held?.unit);
    if (held !== null && unit !== undefined && held.mm !== 0) move(unit.name, shiftOf(unit) + held.mm);
    setHeld(null);
    start.current = null;
  };
  if (chosen === undefined) return <p className="nothing">{say("microinverter.no_units_yet_draw_the_roof")}</p>;
  return (
    <div
      onPointerMove={(event) => {
        if (held !== null && start.current !== null)
          setHeld({ ...held, mm: (event.clientX - start.current.x) / start.current.pxPerMm });
      }}
      onPointerUp={drop}
      onPointerCancel={() => setHeld(null)}
    >
      <ProblemNote error={edit.error} />
      <RoofScale
        stage={roof}
        chosen={chosen.name}
        trunks={roof.branches.map((one) => ({ name: one.name, units: one.units, strong: false }))}
        touch={(unit) => setPicked(unit.name)}
        shifted={held}
        onUnitDown={onUnitDown}
        onKey={(event, unit) => {
          const way = event.key === "[" ? -1 : event.key === "]" ? 1 : 0;
          if (way === 0) return;
          event.preventDefault();
          move(unit.name, shiftOf(unit) + way * (event.altKey ? FINE_STEP_MM : STEP_MM));
        }}
        shown={(unit) =>
          unit === null
            ? { head: "", foot: say("microinverter.no_unit"), verdict: null, tone: "free" }
            : {
                head: unit.name,
                foot: unit.branch === "" ? "" : `${unit.branch}.${unit.number}`,
                verdict: unit.verdict === "clear" ? null : unit.verdict,
                tone: unit.name === chosen.name ? "own" : "other",
              }
        }
      />
      <section className="branch-bench" aria-label={chosen.name}>
        <header>
          <h2>{chosen.name}</h2>
          <p>{chosen.line}</p>
        </header>
        <dl className="branch-figures">
          {chosen.leads.map((lead) => (
            <div key={lead.input}>
              <dt>{say("microinverter.input", { input: lead.input, module: lead.module })}</dt>
              <dd>
                {figure(lead.distance_m, "m", 2)}
                {lead.extension && <small> {say("microinverter.with_an_extension_lead_2")}</small>}
              </dd>
            </div>
          ))}
          {chosen.capped && (
            <div>
              <dt>{say("microinverter.input_3", { leadsCount: chosen.leads.length + 1 })}</dt>
              <dd>{say("microinverter.capped")}</dd>
            </div>
          )}
          <div>
            <dt>{say("microinverter.along_the_row")}</dt>
            <dd>{chosen.x_mm === null ? say("common.not_drawn") : figure(chosen.x_mm / 1000, "m", 2)}</dd>
          </div>
        </dl>
        <GateLine gate={chosen.cover} />
        <div className="device-fields">
          <Field
            key={chosen.name}
            label={say("microinverter.moved_along_the_row")}
            shown={figure(planned?.shift_mm ?? 0, "mm", 0)}
            commit={(shift_mm) => typed.mutateAsync({ do: "move_unit", name: chosen.name, shift_mm })}
          />
          <Button onClick={() => move(chosen.name, shiftOf(chosen) - LARGE_STEP_MM)}>
            {say("microinverter.50_mm_left")}
          </Button>
          <Button onClick={() => move(chosen.name, shiftOf(chosen) + LARGE_STEP_MM)}>
            {say("microinverter.50_mm_right")}
          </Button>
          <Button disabled={(planned?.shift_mm ?? 0) === 0} onClick={() => move(chosen.name, 0)}>
            {say("microinverter.back_to_its_place")}
          </Button>
          <Button onClick={() => edit.mutate({ do: "remove_unit", name: chosen.name })}>
            {say("common.take_it_out")}
          </Button>
          {planned !== undefined && planned.modules.length === 2 && (
            <Button
              onClick={() =>
                edit.mutate({ do: "unit_modules", name: chosen.name, modules: [...planned.modules].reverse() })
              }
            >
              {say("microinverter.swap_its_inputs")}
            </Button>
          )}
        </div>
      </section>
      <FreeModules jobId={jobId} view={view} roof={roof} />
      <JudgementList judgements={chosen.judgements} allOpen={whyAll} />
      <p className="roof-hint">
        {say("microinverter.drag_a_unit_along_its_rail", {
          order:
            view.plan.micro?.order === "units_first"
              ? say("microinverter.units_first_then_the_trunk")
              : say("microinverter.trunk_first_then_units_2"),
        })}
      </p>
    </div>
  );
}

/** Modules under no unit yet: each gets one with a touch. */
function FreeModules({ jobId, view, roof }: { jobId: string; view: JobView; roof: RoofStage }) {
  const edit = useEdit(jobId);
  const free = roof.planes.flatMap((plane) =>
    plane.modules
      .filter((module) => module.unit === "")
      .map((module) => ({ plane: plane.name, row: module.row, column: module.column })),
  );
  const inputs = view.plan.micro?.unit.inputs ?? 1;
  if (free.length === 0) return null;
  return (
    <>
      <h2 className="why-head">{say("microinverter.modules_without_a_unit")}</h2>
      <ProblemNote error={edit.error} />
      <div className="device-fields">
        {free.map((place, index) => {
          const beside = free[index + 1];
          const pair =
            inputs === 2 &&
            beside !== undefined &&
            beside.plane === place.plane &&
            beside.row === place.row &&
            beside.column === place.column + 1;
          return (
            <Button
              key={`${place.plane} ${place.row} ${place.column}`}
              onClick={() => edit.mutate({ do: "add_unit", modules: pair ? [place, beside] : [place] })}
            >
              {say("microinverter.row_number_2", {
                plane: place.plane,
                row: place.row,
                column: place.column,
                pair: pair && say("microinverter.and", { column: beside.column }),
              })}
            </Button>
          );
        })}
      </div>
    </>
  );
}
