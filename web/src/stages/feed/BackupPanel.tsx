import { Button, Checkbox } from "antd";
import type { BackupPlan, Edit, FeedStage } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { linear } from "../../shared/draw/scale";
import { figure } from "../../shared/lib/figures";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Mark } from "../../shared/marks/Mark";
import { Pick } from "../../shared/fields/Pick";
import { SheetPick } from "../../shared/fields/SheetPick";
import { DraftField } from "../../shared/fields/DraftField";
import { KeepRow } from "../../shared/fields/KeepRow";
import { pickedSheet, shownAs, useDraft } from "../../shared/fields/useDraft";
import { PHASES } from "./words";
import { say } from "../../words/say";
import "./BackupPanel.css";

type Put = Extract<Edit, { do: "put_backup" }>;
type Load = BackupPlan["loads"][number];

interface BackupPanelProps {
  jobId: string;
  backup: BackupPlan | null;
  state: FeedStage["backup"];
  /** A roof of microinverters: its units are held back by frequency. */
  onRoof: boolean;
  whyAll: boolean;
}

const NO_LEADS: NonNullable<NonNullable<Put["battery"]>["leads"]> = {
  length_m: "",
  section_mm2: "",
  fuse_a: "",
  fuse_rated_v: "",
  fuse_breaks_a: "",
};
const NO_BATTERY: NonNullable<Put["battery"]> = {
  units: "",
  most_units: "",
  discharge_a: "",
  breaker_a: "",
  approved: false,
  sheet: "",
  leads: null,
  phase: "0",
};
const LINKS = [
  ["", say("common.not_said_yet")],
  ["unit", say("feed.the_controller_while_the_supply_is")],
  ["fixed", say("feed.a_fixed_link")],
  ["none", say("common.nothing")],
] as const;
const RESIDUALS = [
  ["", say("common.not_said_yet")],
  ["30", "30 mA"],
  ["more", say("feed.more_than_30_ma")],
  ["none", say("common.none")],
] as const;

/** Backup and battery: what each phase carries against the controller's limit. */
export function BackupPanel({ jobId, backup, state, onRoof, whyAll }: BackupPanelProps) {
  const edit = useEdit(jobId);
  const battery = backup?.battery;
  const { entered, changed, put, drop } = useDraft<Put>({
    do: "put_backup",
    limit_a: shownAs(backup?.limit_a ?? 40, "A"),
    three_phase: backup?.three_phase ?? false,
    shutdown_line: backup?.shutdown_line ?? false,
    units_va: shownAs(backup?.units_va, "VA"),
    controller: null,
    neutral_link: backup?.neutral_link ?? null,
    residual: backup?.residual ?? null,
    wanted_h: shownAs(backup?.wanted_h, "h"),
    battery:
      battery == null
        ? null
        : {
            units: String(battery.units),
            most_units: String(battery.most_units),
            discharge_a: shownAs(battery.discharge_a, "A"),
            breaker_a: shownAs(battery.breaker_a, "A"),
            approved: battery.approved,
            sheet: null,
            phase: String(battery.phase) as "0" | "1" | "2" | "3",
            leads:
              battery.leads == null
                ? null
                : {
                    length_m: shownAs(battery.leads.length_m, "m"),
                    section_mm2: shownAs(battery.leads.section_mm2, "mm²"),
                    fuse_a: shownAs(battery.leads.fuse_a, "A"),
                    fuse_rated_v: shownAs(battery.leads.fuse_rated_v, "V"),
                    fuse_breaks_a: shownAs(battery.leads.fuse_breaks_a, "A"),
                  },
          },
  });
  const cell = entered.battery ?? NO_BATTERY;
  const leads = cell.leads ?? NO_LEADS;
  const putLeads = (change: Partial<typeof leads>) => putCell({ leads: { ...leads, ...change } });
  const onInput = battery?.sheet?.coupling === "dc";
  const controller = backup?.controller;
  const putCell = (change: Partial<typeof cell>) => put({ battery: { ...cell, ...change } });
  return (
    <section className="device-panel" aria-label={say("feed.backup")}>
      <header>
        <h2>{say("feed.backup_and_battery")}</h2>
        <span>{state?.line ?? say("feed.no_backup_is_planned")}</span>
      </header>
      {state != null && <Phases phases={state.phases} />}
      {state != null && state.alone !== "" && <p className="alone">{state.alone}</p>}
      <form
        className="device-fields"
        onSubmit={(event) => {
          event.preventDefault();
          edit.mutate(entered, { onSuccess: drop });
        }}
      >
        <h3 className="backup-group">{say("feed.the_house_on_its_own")}</h3>
        <SheetPick
          kind="backup_units"
          label={say("feed.controllers_or_switchs_sheet")}
          now={pickedSheet(entered.controller ?? null, controller?.id)}
          nowLabel={controller == null ? "" : `${controller.maker} ${controller.model}`}
          none={say("feed.none_figures_by_hand")}
          put={(id) => put({ controller: id ?? "" })}
        />
        {controller == null && (
          <DraftField
            label={say("feed.controllers_limit_each_phase")}
            value={entered.limit_a}
            put={(limit_a) => put({ limit_a })}
          />
        )}
        <Pick
          label={say("feed.neutral_is_tied_to_earth_by")}
          value={entered.neutral_link ?? ""}
          options={LINKS}
          put={(link) => put({ neutral_link: link === "" ? null : link })}
        />
        <Pick
          label={say("feed.residual_current_device_before_it")}
          value={entered.residual ?? ""}
          options={RESIDUALS}
          put={(residual) => put({ residual: residual === "" ? null : residual })}
        />
        <DraftField
          label={say("feed.hours_that_were_agreed")}
          value={entered.wanted_h}
          placeholder="8 h"
          put={(wanted_h) => put({ wanted_h })}
        />
        <Checkbox checked={entered.three_phase} onChange={(event) => put({ three_phase: event.target.checked })}>
          {say("feed.backs_up_three_phases")}
        </Checkbox>
        <Checkbox checked={entered.shutdown_line} onChange={(event) => put({ shutdown_line: event.target.checked })}>
          {say("feed.shutdown_line_wired")}
        </Checkbox>
        {onRoof && controller == null && (
          <DraftField
            label={say("feed.roof_units_it_holds_back")}
            value={entered.units_va}
            placeholder="7200 VA"
            put={(units_va) => put({ units_va })}
          />
        )}
        <h3 className="backup-group">{say("feed.battery")}</h3>
        <DraftField
          label={say("feed.battery_units")}
          value={cell.units}
          placeholder="2"
          put={(units) => putCell({ units })}
        />
        <DraftField
          label={say("feed.most_that_the_inverter_takes")}
          value={cell.most_units}
          placeholder="3"
          put={(most_units) => putCell({ most_units })}
        />
        {battery?.sheet == null && (
          <DraftField
            label={say("feed.battery_current")}
            value={cell.discharge_a}
            placeholder="50 A"
            put={(discharge_a) => putCell({ discharge_a })}
          />
        )}
        <DraftField
          label={say("feed.battery_breaker")}
          value={cell.breaker_a}
          placeholder="63 A"
          put={(breaker_a) => putCell({ breaker_a })}
        />
        <SheetPick
          kind="batteries"
          label={say("feed.batterys_sheet")}
          now={pickedSheet(cell.sheet ?? null, battery?.sheet?.id)}
          nowLabel={battery?.sheet == null ? "" : `${battery.sheet.maker} ${battery.sheet.model}`}
          none={say("feed.none_figures_by_hand")}
          put={(id) => putCell({ sheet: id ?? "" })}
        />
        {entered.three_phase && (
          <Pick
            label={say("feed.battery_feeds")}
            value={cell.phase}
            options={PHASES}
            put={(phase) => putCell({ phase })}
          />
        )}
        {battery?.sheet == null && (
          <Checkbox checked={cell.approved} onChange={(event) => putCell({ approved: event.target.checked })}>
            {say("feed.on_the_inverter_makers_list")}
          </Checkbox>
        )}
        {onInput && (
          <>
            <DraftField
              label={say("feed.to_the_input_one_way")}
              value={leads.length_m}
              placeholder="2.5 m"
              put={(length_m) => putLeads({ length_m })}
            />
            <DraftField
              label={say("feed.its_conductors")}
              value={leads.section_mm2}
              placeholder="16 mm²"
              put={(section_mm2) => putLeads({ section_mm2 })}
            />
            <DraftField
              label={say("feed.battery_fuse")}
              value={leads.fuse_a}
              placeholder="63 A"
              put={(fuse_a) => putLeads({ fuse_a })}
            />
            <DraftField
              label={say("feed.fuses_voltage_dc")}
              value={leads.fuse_rated_v}
              placeholder="1000 V"
              put={(fuse_rated_v) => putLeads({ fuse_rated_v })}
            />
            <DraftField
              label={say("feed.fuse_breaks")}
              value={leads.fuse_breaks_a}
              placeholder="20 kA"
              put={(fuse_breaks_a) => putLeads({ fuse_breaks_a })}
            />
          </>
        )}
        <KeepRow
          changed={changed || backup === null}
          saving={edit.isPending}
          drop={drop}
          remove={backup === null ? undefined : () => edit.mutate({ do: "remove_backup" })}
        />
      </form>
      {backup !== null && (
        <>
          <h3>{say("feed.groups_of_loads")}</h3>
          {backup.loads.map((load) => (
            <LoadForm key={load.name} jobId={jobId} load={load} />
          ))}
          <LoadForm jobId={jobId} load={null} />
        </>
      )}
      <ProblemNote error={edit.error} />
      {state != null && <JudgementList judgements={state.judgements} allOpen={whyAll} />}
    </section>
  );
}

const BAR_PX = { width: 300, height: 34 };

/** What each phase carries when backed up, to scale against the controller's limit. */
function Phases({ phases }: { phases: NonNullable<FeedStage["backup"]>["phases"] }) {
  const most = Math.max(...phases.flatMap((one) => [one.current_a, one.limit_a])) * 1.15;
  const x = linear([0, most], [0, BAR_PX.width]);
  return (
    <ul className="phases" aria-label={say("feed.current_of_each_phase")}>
      {phases.map((one) => (
        <li key={`${one.phase} ${one.backed_up}`}>
          <strong>{one.phase}</strong>
          <svg viewBox={`0 0 ${BAR_PX.width} ${BAR_PX.height}`} preserveAspectRatio="none" aria-hidden>
            <rect
              className={one.backed_up ? "phase-bar" : "phase-bar phase-other"}
              x={x(0) + 1}
              y={8}
              width={x(one.current_a) - x(0)}
              height={18}
            />
            <line className="never" x1={x(one.limit_a)} x2={x(one.limit_a)} y1={2} y2={BAR_PX.height - 2} />
          </svg>
          <span>
            <Mark verdict={one.verdict} />{" "}
            {say("feed.of", {
              current_a: figure(one.current_a, "A"),
              limit_a: figure(one.limit_a, "A"),
              backed_up: one.backed_up ? say("feed.backed_up") : say("feed.not_backed_up"),
            })}
          </span>
        </li>
      ))}
    </ul>
  );
}

function LoadForm({ jobId, load }: { jobId: string; load: Load | null }) {
  const { entered, changed, put, drop } = useDraft({
    name: load?.name ?? "",
    phase: String(load?.phase ?? 1),
    current_a: shownAs(load?.current_a, "A"),
    backed_up: load?.backed_up ?? true,
    inrush: String(load?.inrush ?? 1),
  });
  const edit = useEdit(jobId);
  const was = load?.name ?? null;
  return (
    <form
      className="load-fields"
      aria-label={was ?? say("feed.one_more_group")}
      onSubmit={(event) => {
        event.preventDefault();
        edit.mutate({ do: "put_load", was, ...entered }, { onSuccess: drop });
      }}
    >
      <DraftField
        label={was === null ? say("feed.one_more_group") : say("feed.group")}
        value={entered.name}
        placeholder={say("feed.kitchen")}
        put={(name) => put({ name })}
      />
      <Pick
        label={say("common.phase")}
        value={entered.phase as "0" | "1" | "2" | "3"}
        options={PHASES}
        put={(phase) => put({ phase })}
      />
      <DraftField
        label={say("feed.current")}
        value={entered.current_a}
        placeholder="16 A"
        put={(current_a) => put({ current_a })}
      />
      <DraftField
        label={say("feed.start_times_as_much")}
        value={entered.inrush}
        placeholder="3"
        put={(inrush) => put({ inrush })}
      />
      <Checkbox checked={entered.backed_up} onChange={(event) => put({ backed_up: event.target.checked })}>
        {say("feed.backed_up")}
      </Checkbox>
      <Button htmlType="submit" disabled={!changed} loading={edit.isPending}>
        {say("common.keep")}
      </Button>
      {was !== null && (
        <Button onClick={() => edit.mutate({ do: "remove_load", name: was })}>{say("common.remove")}</Button>
      )}
      <ProblemNote error={edit.error} />
    </form>
  );
}
