import { Button, Drawer, Select } from "antd";
import { useState } from "react";
import type { Choice, JobView } from "../../shared/api/client";
import { useChange } from "../../shared/api/useJobWrite";
import { useShelf } from "../../shared/api/useShelf";
import { Entry } from "../../shared/Entry";
import { figure } from "../../shared/figures";
import { ProblemNote } from "../../shared/judging/ProblemNote";

/** The plan behind the picture: site climate, module, inverter, rule pack, roof planes. */
export function PlanDrawer({ jobId, view }: { jobId: string; view: JobView }) {
  const [open, setOpen] = useState(false);
  const { plan, assessment } = view;
  const { site } = plan;
  return (
    <>
      <Button onClick={() => setOpen(true)}>Change the plan</Button>
      <Drawer title="The plan" open={open} onClose={() => setOpen(false)} size={460}>
        <h3>Air at {site.place}</h3>
        <ClimatePair jobId={jobId} view={view} />
        <Entry jobId={jobId} label="Where these come from" path="$.site.climate_source" shown={site.climate_source} />
        <h3>Equipment</h3>
        <Pick jobId={jobId} label="Module" path="$.module" now={plan.module.id} from="modules" />
        <p className="sheet">
          {figure(plan.module.voc_v, "V")} open circuit, {figure(plan.module.beta_voc_pct_per_k, "%/K", 3)}, {figure(plan.module.isc_a, "A", 2)} short circuit; sheet {plan.module.sheet_revision}
        </p>
        <Pick jobId={jobId} label="Inverter" path="$.inverter" now={plan.inverter.id} from="inverters" />
        <p className="sheet">
          {figure(plan.inverter.dc.max_dc_v, "V")} at most, {plan.inverter.trackers.length} trackers; sheet {plan.inverter.sheet_revision}
        </p>
        <Pick jobId={jobId} label="Rule pack" path="$.rule_pack" now={assessment.rule_pack.id} from="packs" />
        <p className="sheet">{assessment.rule_pack.edition}. {assessment.rule_pack.note}</p>
        <h3>Roof planes</h3>
        {plan.planes.map((plane, index) => (
          <div className="pair" key={plane.name}>
            <Entry jobId={jobId} label={`${plane.name}, tilt`} path={`$.planes[${index}].tilt_deg`} shown={figure(plane.tilt_deg, "°")} />
            <Entry jobId={jobId} label="facing, 180 is south" path={`$.planes[${index}].azimuth_deg`} shown={figure(plane.azimuth_deg, "°")} />
          </div>
        ))}
      </Drawer>
    </>
  );
}

function ClimatePair({ jobId, view }: { jobId: string; view: JobView }) {
  const { site } = view.plan;
  return (
    <div className="pair">
      <Entry jobId={jobId} label="Coldest" path="$.site.t_air_min_c" shown={figure(site.t_air_min_c, "°C")} />
      <Entry jobId={jobId} label="Hottest" path="$.site.t_air_max_c" shown={figure(site.t_air_max_c, "°C")} />
    </div>
  );
}

interface PickProps {
  jobId: string;
  label: string;
  path: string;
  now: string;
  from: "modules" | "inverters" | "packs";
}

function Pick({ jobId, label, path, now, from }: PickProps) {
  const shelf = useShelf();
  const change = useChange(jobId);
  const choices: Choice[] = shelf.data?.[from] ?? [];
  return (
    <label className="entry">
      <span className="entry-label">{label}</span>
      <Select
        value={now}
        options={choices.map((one) => ({ value: one.id, label: `${one.label} · ${one.detail}` }))}
        onChange={(entered: string) => change.mutate([{ path, entered }])}
      />
      <ProblemNote error={change.error} />
    </label>
  );
}
