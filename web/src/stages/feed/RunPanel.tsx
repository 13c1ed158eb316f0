import { Button, Checkbox } from "antd";
import { useState } from "react";
import type { AcRun, Edit, FeedPlan, FeedStage } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { figure } from "../../shared/lib/figures";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Pick } from "../../shared/fields/Pick";
import { DraftField } from "../../shared/fields/DraftField";
import { KeepRow } from "../../shared/fields/KeepRow";
import { SizeSteps } from "./SizeSteps";
import { shownAs, useDraft } from "../../shared/fields/useDraft";
import { DEVICE_KINDS, INSULATIONS, MATERIALS, METHODS, STRANDS, TERMINALS } from "./words";

type Put = Extract<Edit, { do: "put_run" }>;
type Split = Extract<Edit, { do: "split_run" }>;

interface RunPanelProps {
  jobId: string;
  run: AcRun;
  state: FeedStage["runs"][number];
  feed: FeedPlan;
  open: (what: string) => void;
  whyAll: boolean;
}

function asEntered(run: AcRun, sizes: FeedStage["runs"][number]["sizes"]): Put {
  return {
    do: "put_run",
    was: run.name,
    name: run.name,
    start: run.start,
    end: run.end,
    length_m: shownAs(run.length_m, "m"),
    section_mm2: sizes.find((one) => one.chosen)?.name ?? shownAs(run.section_mm2, "mm²"),
    cores: String(run.cores),
    material: run.material,
    strands: run.strands,
    insulation: run.insulation,
    terminals: run.terminals,
    method: run.method,
    air_c: shownAs(run.air_c, "°C"),
    grouped: String(run.grouped),
    outside_mm: shownAs(run.outside_mm, "mm"),
    of_network: run.of_network,
    shared: run.shared,
  };
}

/** One AC run: how it is laid, what it carries and lifts, what the next size buys. */
export function RunPanel({ jobId, run, state, feed, open, whyAll }: RunPanelProps) {
  const { entered, changed, put, drop } = useDraft(asEntered(run, state.sizes));
  const edit = useEdit(jobId);
  const names = feed.devices.map((one) => [one.name, one.name] as const);
  const { ampacity } = state;
  return (
    <section className="device-panel" aria-label={run.name}>
      <header>
        <h2>{run.name}</h2>
        <span>
          {state.title} · {figure(state.current_a, "A")} at full output
          {ampacity !== null &&
            ` · carries ${figure(ampacity.table_a, "A")} × ${ampacity.air_factor} air × ${ampacity.group_factor} group = ${figure(ampacity.iz_a, "A")}`}
          {state.loss_kwh !== null && ` · loses ${figure(state.loss_kwh, "kWh", 0)} a year`}
        </span>
      </header>
      <SizeSteps
        label={`Conductor size of ${run.name}`}
        choose={(section) => edit.mutate({ do: "size_run", name: run.name, section_mm2: String(section) })}
        steps={state.sizes.map((size) => ({
          section: size.section_mm2,
          name: size.name,
          chosen: size.chosen,
          verdict: size.verdict,
          buys: size.buys,
          lines: [
            size.iz_a === null ? "current: not in the table" : `carries ${figure(size.iz_a, "A")}`,
            `lifts ${figure(size.rise_v, "V", 2)}`,
            size.room_v === null ? null : `room to the trip ${figure(size.room_v, "V")}`,
            size.export_text === "" ? null : `may export ${size.export_text}`,
            `loses ${figure(size.loss_kwh, "kWh", 0)} a year`,
          ],
        }))}
      />
      <form
        onSubmit={(event) => {
          event.preventDefault();
          edit.mutate(entered, {
            onSuccess: () => {
              open(`run ${entered.name}`);
              drop();
            },
          });
        }}
      >
        <div className="device-fields">
          <DraftField label="Name" value={entered.name} put={(name) => put({ name })} />
          <Pick label="From, supply side" value={entered.start} options={names} put={(start) => put({ start })} />
          <Pick label="To, inverter side" value={entered.end} options={names} put={(end) => put({ end })} />
          <DraftField label="One-way length" value={entered.length_m} put={(length_m) => put({ length_m })} />
          <DraftField
            label="Size, mm² or AWG"
            value={entered.section_mm2}
            put={(section_mm2) => put({ section_mm2 })}
          />
          <DraftField label="Cores" value={entered.cores} put={(cores) => put({ cores })} />
          <DraftField
            label="Outside diameter"
            value={entered.outside_mm}
            placeholder="13.5 mm"
            put={(outside_mm) => put({ outside_mm })}
          />
          <Pick label="Method of laying" value={entered.method} options={METHODS} put={(method) => put({ method })} />
          <DraftField label="Hottest air around it" value={entered.air_c} put={(air_c) => put({ air_c })} />
          <DraftField label="Circuits side by side" value={entered.grouped} put={(grouped) => put({ grouped })} />
          <Pick
            label="Insulation"
            value={entered.insulation}
            options={INSULATIONS}
            put={(insulation) => put({ insulation })}
          />
          {entered.insulation === "xlpe" && (
            <Pick
              label="Terminals at both ends bear"
              value={entered.terminals}
              options={TERMINALS}
              put={(terminals) => put({ terminals })}
            />
          )}
          <Pick label="Strands" value={entered.strands} options={STRANDS} put={(strands) => put({ strands })} />
          <Pick label="Material" value={entered.material} options={MATERIALS} put={(material) => put({ material })} />
          <Checkbox checked={entered.of_network} onChange={(event) => put({ of_network: event.target.checked })}>
            the operator's own cable
          </Checkbox>
          <Checkbox checked={entered.shared} onChange={(event) => put({ shared: event.target.checked })}>
            loads hang on this cable too
          </Checkbox>
          <KeepRow
            changed={changed}
            saving={edit.isPending}
            drop={drop}
            remove={() => edit.mutate({ do: "remove_run", name: run.name }, { onSuccess: () => open("ladder") })}
          />
        </div>
      </form>
      <ProblemNote error={edit.error} />
      <JudgementList judgements={state.judgements} allOpen={whyAll} />
      <SplitRun jobId={jobId} run={run.name} open={open} />
    </section>
  );
}

/** Put a device into a run: it becomes two. */
function SplitRun({ jobId, run, open }: { jobId: string; run: string; open: (what: string) => void }) {
  const [kind, setKind] = useState<Split["kind"]>("isolator");
  const [name, setName] = useState("");
  const [at, setAt] = useState("");
  const edit = useEdit(jobId);
  return (
    <details>
      <summary>Put a device into this run</summary>
      <form
        className="device-fields"
        aria-label="A device in the run"
        onSubmit={(event) => {
          event.preventDefault();
          edit.mutate({ do: "split_run", run, at_m: at, name, kind }, { onSuccess: () => open(`device ${name}`) });
        }}
      >
        <Pick label="What it is" value={kind} options={DEVICE_KINDS} put={setKind} />
        <DraftField label="Name" value={name} placeholder="AC isolator" put={setName} />
        <DraftField label="How far from its supply side" value={at} placeholder="3 m" put={setAt} />
        <Button htmlType="submit" loading={edit.isPending}>
          Put it in
        </Button>
      </form>
      <ProblemNote error={edit.error} />
    </details>
  );
}
