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

type Variant = NonNullable<JobView["plan"]["inverter"]>["variants"][number];

/** What a variant brings, in a sentence. */
function variantText(variant: Variant | undefined): string {
  if (variant === undefined) return "Its DC switches, surge module and fuses count once it is said.";
  const switches = variant.switches === 1 ? "one DC switch" : `${variant.switches} DC switches`;
  const surge = variant.surge === "none" ? "no surge module" : `surge module type ${variant.surge}`;
  const plugs = variant.plugs === "" ? "" : `; plugs ${variant.plugs}`;
  return `${switches}, ${surge}, ${variant.fused ? "string fuses built in" : "no string fuses"}${plugs}`;
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
      <Button onClick={() => setOpen(true)}>Change the plan</Button>
      <Drawer title="The plan" open={open} onClose={() => setOpen(false)} size={520}>
        <h3>Air at {site.place}</h3>
        <div className="pair">
          <Entry jobId={jobId} label="Coldest" path="$.site.t_air_min_c" shown={figure(site.t_air_min_c, "°C")} />
          <Entry jobId={jobId} label="Hottest" path="$.site.t_air_max_c" shown={figure(site.t_air_max_c, "°C")} />
        </div>
        <Entry jobId={jobId} label="Where these come from" path="$.site.climate_source" shown={site.climate_source} />
        <Entry
          jobId={jobId}
          label="Altitude; while empty the clear sky is that of sea level"
          path="$.site.altitude_m"
          shown={typeof site.altitude_m === "number" ? figure(site.altitude_m, "m", 0) : ""}
        />
        <WeatherFile jobId={jobId} />
        <h3>Equipment</h3>
        <Offers jobId={jobId} revision={view.revision} />
        <SheetPick
          kind="modules"
          label="Module"
          now={module.id}
          nowLabel={`${module.maker} ${module.model}`}
          put={take("modules")}
        />
        <p className="sheet">
          {figure(module.voc_v, "V")} open circuit, {figure(module.beta_voc_pct_per_k, "%/K", 3)},{" "}
          {figure(module.isc_a, "A", 2)} short circuit; sheet {module.sheet_revision}
          {module.checked_by === "" ? ", not checked" : `, checked by ${module.checked_by}`}
        </p>
        {micro !== null && (
          <>
            <SheetPick
              kind="micros"
              label="Microinverter"
              now={micro.unit.id}
              nowLabel={`${micro.unit.maker} ${micro.unit.model}`}
              put={take("micros")}
            />
            <SheetPick
              kind="trunks"
              label="Trunk cable"
              now={micro.trunk.id}
              nowLabel={`${micro.trunk.maker} ${micro.trunk.model}`}
              put={take("trunks")}
            />
            <p className="sheet">
              {micro.unit.inputs} {micro.unit.inputs === 1 ? "module" : "modules"} to a unit,{" "}
              {figure(micro.unit.max_va, "VA", 0)}; a drop every {figure(micro.trunk.pitch_m, "m", 2)},{" "}
              {figure(micro.trunk.rated_a, "A", 0)}
            </p>
          </>
        )}
        {inverter !== null && (
          <>
            <SheetPick
              kind="inverters"
              label="Inverter"
              now={inverter.id}
              nowLabel={`${inverter.maker} ${inverter.model}`}
              put={take("inverters")}
            />
            <p className="sheet">
              {figure(inverter.dc.max_dc_v, "V")} at most; inputs by tracker:{" "}
              {inverter.trackers.map((one) => one.inputs).join(", ")}; sheet {inverter.sheet_revision}
              {inverter.checked_by === "" ? ", not checked" : `, checked by ${inverter.checked_by}`}
            </p>
            {inverter.variants.length > 0 && (
              <>
                <Pick
                  label="Variant, by its plate"
                  value={plan.variant}
                  options={[
                    ["", "not said yet"] as const,
                    ...inverter.variants.map((one) => [one.name, one.name] as const),
                  ]}
                  put={(name) => edit.mutate({ do: "tell_variant", name })}
                />
                <p className="sheet">{variantText(inverter.variants.find((one) => one.name === plan.variant))}</p>
              </>
            )}
            <SheetPick
              kind="optimisers"
              label="Optimisers"
              now={optimiser?.id ?? null}
              nowLabel={optimiser === null ? "" : `${optimiser.maker} ${optimiser.model}`}
              put={take("optimisers")}
              none="none: the strings track together"
            />
          </>
        )}
        <ProblemNote error={edit.error} />
        {plan.strings.length > 0 && <h3>Strings</h3>}
        {plan.strings.map((string, index) => (
          <StringFields key={string.name} jobId={jobId} view={view} index={index} />
        ))}
        <PackPick jobId={jobId} view={view} />
      </Drawer>
    </>
  );
}
