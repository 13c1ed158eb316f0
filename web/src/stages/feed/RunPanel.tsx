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
import { say } from "../../words/say";

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
          {say("feed.at_full_output", {
            title: state.title,
            current_a: figure(state.current_a, "A"),
            ampacity:
              ampacity !== null &&
              say("feed.carries_air_group", {
                table_a: figure(ampacity.table_a, "A"),
                air_factor: ampacity.air_factor,
                group_factor: ampacity.group_factor,
                iz_a: figure(ampacity.iz_a, "A"),
              }),
            loss_kwh:
              state.loss_kwh !== null && say("feed.loses_a_year", { loss_kwh: figure(state.loss_kwh, "kWh", 0) }),
          })}
        </span>
      </header>
      <SizeSteps
        label={say("feed.conductor_size_of", { run: run.name })}
        choose={(section) => edit.mutate({ do: "size_run", name: run.name, section_mm2: String(section) })}
        steps={state.sizes.map((size) => ({
          section: size.section_mm2,
          name: size.name,
          chosen: size.chosen,
          verdict: size.verdict,
          buys: size.buys,
          lines: [
            size.iz_a === null
              ? say("feed.current_not_in_the_table")
              : say("feed.carries", { iz_a: figure(size.iz_a, "A") }),
            say("feed.lifts", { rise_v: figure(size.rise_v, "V", 2) }),
            size.room_v === null ? null : say("feed.room_to_the_trip", { room_v: figure(size.room_v, "V") }),
            size.export_text === "" ? null : say("feed.may_export", { export_text: size.export_text }),
            say("feed.loses_a_year_2", { loss_kwh: figure(size.loss_kwh, "kWh", 0) }),
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
          <DraftField label={say("common.name")} value={entered.name} put={(name) => put({ name })} />
          <Pick
            label={say("feed.from_supply_side")}
            value={entered.start}
            options={names}
            put={(start) => put({ start })}
          />
          <Pick label={say("feed.to_inverter_side")} value={entered.end} options={names} put={(end) => put({ end })} />
          <DraftField
            label={say("feed.one_way_length")}
            value={entered.length_m}
            put={(length_m) => put({ length_m })}
          />
          <DraftField
            label={say("feed.size_mm_or_awg")}
            value={entered.section_mm2}
            put={(section_mm2) => put({ section_mm2 })}
          />
          <DraftField label={say("common.cores")} value={entered.cores} put={(cores) => put({ cores })} />
          <DraftField
            label={say("feed.outside_diameter")}
            value={entered.outside_mm}
            placeholder="13.5 mm"
            put={(outside_mm) => put({ outside_mm })}
          />
          <Pick
            label={say("feed.method_of_laying")}
            value={entered.method}
            options={METHODS}
            put={(method) => put({ method })}
          />
          <DraftField label={say("feed.hottest_air_around_it")} value={entered.air_c} put={(air_c) => put({ air_c })} />
          <DraftField
            label={say("feed.circuits_side_by_side")}
            value={entered.grouped}
            put={(grouped) => put({ grouped })}
          />
          <Pick
            label={say("feed.insulation")}
            value={entered.insulation}
            options={INSULATIONS}
            put={(insulation) => put({ insulation })}
          />
          {entered.insulation === "xlpe" && (
            <Pick
              label={say("feed.terminals_at_both_ends_bear")}
              value={entered.terminals}
              options={TERMINALS}
              put={(terminals) => put({ terminals })}
            />
          )}
          <Pick
            label={say("feed.strands")}
            value={entered.strands}
            options={STRANDS}
            put={(strands) => put({ strands })}
          />
          <Pick
            label={say("feed.material")}
            value={entered.material}
            options={MATERIALS}
            put={(material) => put({ material })}
          />
          <Checkbox checked={entered.of_network} onChange={(event) => put({ of_network: event.target.checked })}>
            {say("feed.the_operators_own_cable")}
          </Checkbox>
          <Checkbox checked={entered.shared} onChange={(event) => put({ shared: event.target.checked })}>
            {say("feed.loads_hang_on_this_cable_too")}
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
      <summary>{say("feed.put_a_device_into_this_run")}</summary>
      <form
        className="device-fields"
        aria-label={say("feed.a_device_in_the_run")}
        onSubmit={(event) => {
          event.preventDefault();
          edit.mutate({ do: "split_run", run, at_m: at, name, kind }, { onSuccess: () => open(`device ${name}`) });
        }}
      >
        <Pick label={say("common.what_it_is")} value={kind} options={DEVICE_KINDS} put={setKind} />
        <DraftField label={say("common.name")} value={name} placeholder={say("feed.ac_isolator")} put={setName} />
        <DraftField label={say("feed.how_far_from_its_supply_side")} value={at} placeholder="3 m" put={setAt} />
        <Button htmlType="submit" loading={edit.isPending}>
          {say("feed.put_it_in")}
        </Button>
      </form>
      <ProblemNote error={edit.error} />
    </details>
  );
}
