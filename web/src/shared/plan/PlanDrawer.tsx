import { Button, Drawer } from "antd";
import { useState } from "react";
import type { JobView, Kind } from "../api/types";
import { useEdit } from "../api/useJobWrite";
import { Entry } from "../fields/Entry";
import { figure } from "../lib/figures";
import { ProblemNote } from "../judging/ProblemNote";
import { Pick } from "../fields/Pick";
import { SheetPick } from "../fields/SheetPick";
import { Offers } from "./Offers";
import { PackPick } from "./PackPick";
import { StringFields } from "./StringFields";
import { WeatherFile } from "./WeatherFile";
import { say } from "../../words/say";

type Variant = NonNullable<JobView["plan"]["inverter"]>["variants"][number];

/** What a variant brings, in a sentence. */
function variantText(variant: Variant | undefined): string {
  if (variant === undefined) return say("shared.its_dc_switches_surge_module_and");
  const switches = say("shared.dc_switches", { switches: variant.switches });
  const surge =
    variant.surge === "none"
      ? say("shared.no_surge_module")
      : say("shared.surge_module_type", { surge: variant.surge });
  const plugs = variant.plugs === "" ? "" : say("shared.plugs", { plugs: variant.plugs });
  return `${switches}, ${surge}, ${variant.fused ? say("shared.string_fuses_built_in") : say("shared.no_string_fuses")}${plugs}`;
}

/** The plan behind the picture: site climate, sheets, rule pack and the figures replaced for this job. */
export function PlanDrawer({ jobId, view }: { jobId: string; view: JobView }) {
  const [open, setOpen] = useState(false);
  const edit = useEdit(jobId);
  const { plan } = view;
  const { site, module, inverter, micro, optimiser } = plan;
  const take =
    (kind: Extract<Kind, "modules" | "inverters" | "optimisers" | "micros" | "trunks">) => (id: string | null) =>
      edit.mutate({ do: "take_sheet", kind, id, plane: "" });
  return (
    <>
      <Button onClick={() => setOpen(true)}>{say("shared.change_the_plan")}</Button>
      <Drawer title={say("shared.the_plan")} open={open} onClose={() => setOpen(false)} size={520}>
        <h3>{say("shared.air_at", { place: site.place })}</h3>
        <div className="pair">
          <Entry
            jobId={jobId}
            label={say("shared.coldest")}
            path="$.site.t_air_min_c"
            shown={figure(site.t_air_min_c, "°C")}
          />
          <Entry
            jobId={jobId}
            label={say("shared.hottest")}
            path="$.site.t_air_max_c"
            shown={figure(site.t_air_max_c, "°C")}
          />
        </div>
        <Entry
          jobId={jobId}
          label={say("common.where_these_come_from")}
          path="$.site.climate_source"
          shown={site.climate_source}
        />
        <Entry
          jobId={jobId}
          label={say("shared.altitude_while_empty_the_clear_sky")}
          path="$.site.altitude_m"
          shown={typeof site.altitude_m === "number" ? figure(site.altitude_m, "m", 0) : ""}
        />
        <WeatherFile jobId={jobId} />
        <h3>{say("shared.equipment")}</h3>
        <Offers jobId={jobId} revision={view.revision} />
        <SheetPick
          kind="modules"
          label={say("common.module")}
          now={module.id}
          nowLabel={`${module.maker} ${module.model}`}
          put={take("modules")}
        />
        <p className="sheet">
          {say("shared.open_circuit_short_circuit_sheet", {
            voc_v: figure(module.voc_v, "V"),
            beta_voc_pct_per_k: figure(module.beta_voc_pct_per_k, "%/K", 3),
            isc_a: figure(module.isc_a, "A", 2),
            sheet_revision: module.sheet_revision,
            checked_by:
              module.checked_by === ""
                ? say("shared.not_checked")
                : say("shared.checked_by", { checked_by: module.checked_by }),
          })}
        </p>
        {micro !== null && (
          <>
            <SheetPick
              kind="micros"
              label={say("shared.microinverter")}
              now={micro.unit.id}
              nowLabel={`${micro.unit.maker} ${micro.unit.model}`}
              put={take("micros")}
            />
            <SheetPick
              kind="trunks"
              label={say("shared.trunk_cable")}
              now={micro.trunk.id}
              nowLabel={`${micro.trunk.maker} ${micro.trunk.model}`}
              put={take("trunks")}
            />
            <p className="sheet">
              {say("shared.modules_to_a_unit_a_drop", {
                inputs: micro.unit.inputs,
                max_va: figure(micro.unit.max_va, "VA", 0),
                pitch_m: figure(micro.trunk.pitch_m, "m", 2),
                rated_a: figure(micro.trunk.rated_a, "A", 0),
              })}
            </p>
          </>
        )}
        {inverter !== null && (
          <>
            <SheetPick
              kind="inverters"
              label={say("common.inverter")}
              now={inverter.id}
              nowLabel={`${inverter.maker} ${inverter.model}`}
              put={take("inverters")}
            />
            <p className="sheet">
              {say("shared.at_most_inputs_by_tracker_sheet", {
                max_dc_v: figure(inverter.dc.max_dc_v, "V"),
                trackers: inverter.trackers.map((one) => one.inputs).join(", "),
                sheet_revision: inverter.sheet_revision,
                checked_by:
                  inverter.checked_by === ""
                    ? say("shared.not_checked")
                    : say("shared.checked_by", { checked_by: inverter.checked_by }),
              })}
            </p>
            {inverter.variants.length > 0 && (
              <>
                <Pick
                  label={say("shared.variant_by_its_plate")}
                  value={plan.variant}
                  options={[
                    ["", say("common.not_said_yet")] as const,
                    ...inverter.variants.map((one) => [one.name, one.name] as const),
                  ]}
                  put={(name) => edit.mutate({ do: "tell_variant", name })}
                />
                <p className="sheet">{variantText(inverter.variants.find((one) => one.name === plan.variant))}</p>
              </>
            )}
            <SheetPick
              kind="optimisers"
              label={say("shared.optimisers")}
              now={optimiser?.id ?? null}
              nowLabel={optimiser === null ? "" : `${optimiser.maker} ${optimiser.model}`}
              put={take("optimisers")}
              none={say("shared.none_the_strings_track_together")}
            />
          </>
        )}
        <ProblemNote error={edit.error} />
        {plan.strings.length > 0 && <h3>{say("common.strings")}</h3>}
        {plan.strings.map((string, index) => (
          <StringFields key={string.name} jobId={jobId} view={view} index={index} />
        ))}
        <PackPick jobId={jobId} view={view} />
      </Drawer>
    </>
  );
}
