import { Button, Checkbox } from "antd";
import { useStop } from "../../shared/api/stopping";
import { Working } from "../../shared/fields/Working";
import { api } from "../../shared/api/calls";
import type { JobView, Schemas } from "../../shared/api/types";
import { useEdit, useJobWrite } from "../../shared/api/useJobWrite";
import { Field } from "../../shared/fields/Field";
import { Pick } from "../../shared/fields/Pick";
import { SheetPick } from "../../shared/fields/SheetPick";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { say } from "../../words/say";

const PHASES = ["1", "2", "3"];
const MODBUS = 502;
const STEPS = [
  [say("talk.nothing_on"), say("talk.nothing_on_2")],
  [say("talk.load_on_l1"), say("talk.load_on_l1_2")],
  [say("talk.load_on_l2"), say("talk.load_on_l2_2")],
  [say("talk.load_on_l3"), say("talk.load_on_l3_2")],
  ["feeding", say("talk.it_feeds")],
] as const;
type Clamp = Schemas["ClampPlan"];

/** The meter that the plant reads: where it sits, its clamps with their phases and arrows, its proof. */
export function MeterPanel({ jobId, view, whyAll }: { jobId: string; view: JobView; whyAll: boolean }) {
  const plan = view.plan.talk;
  const { meter: state } = view.assessment.talk;
  const meter = plan?.meter ?? null;
  const edit = useEdit(jobId);
  const { begun, stop } = useStop();
  const look = useJobWrite<string>(jobId, (step) => api.lookAtMeter(jobId, step, begun()));
  const put = (change: Partial<Schemas["SetTalkMeter"]>) =>
    edit.mutateAsync({
      do: "set_talk_meter",
      sheet: meter?.sheet.id ?? "",
      place: meter?.place ?? "supply",
      ratio: String(meter?.ratio ?? 1),
      host: meter?.host ?? "",
      port: String(meter?.port ?? MODBUS),
      unit_id: String(meter?.unit_id ?? 1),
      clamps: typed(meter?.clamps ?? []),
      consumption_wanted: plan?.consumption_wanted ?? false,
      ...change,
    });
  const quietly = (change: Partial<Schemas["SetTalkMeter"]>) => void put(change).catch(() => undefined);
  const clamps = meter?.clamps ?? [];
  const change = (at: number, one: Partial<Clamp>) =>
    quietly({ clamps: typed(clamps.map((clamp, index) => (index === at ? { ...clamp, ...one } : clamp))) });
  return (
    <section aria-label={say("talk.meter_and_clamps")}>
      <h2>{say("talk.meter_and_clamps")}</h2>
      {state !== null && state.wanted.length > 0 && (
        <p className="source">{say("talk.needed_for", { wanted: state.wanted.join(" · ") })}</p>
      )}
      <div className="device-fields">
        <SheetPick
          kind="meters"
          label={say("talk.meter")}
          now={meter?.sheet.id ?? null}
          nowLabel={state?.label ?? ""}
          none={say("talk.no_meter")}
          put={(id) =>
            quietly({
              sheet: id ?? "",
              clamps: id === null ? [] : typed(clamps),
            })
          }
        />
        <Pick
          label={say("talk.where_it_measures")}
          value={meter?.place ?? "supply"}
          options={[
            ["supply", say("talk.at_the_supply_point")],
            ["sub_circuit", say("talk.a_sub_circuit")],
          ]}
          put={(place) => quietly({ place })}
        />
        <Field label={say("talk.ratio")} shown={String(meter?.ratio ?? 1)} commit={(ratio) => put({ ratio })} />
        <Field label={say("talk.meters_address")} shown={meter?.host ?? ""} commit={(host) => put({ host })} />
        <Field label={say("talk.its_port")} shown={String(meter?.port ?? MODBUS)} commit={(port) => put({ port })} />
        <Checkbox
          checked={plan?.consumption_wanted ?? false}
          onChange={(event) => quietly({ consumption_wanted: event.target.checked })}
        >
          {say("talk.consumption_is_wanted")}
        </Checkbox>
      </div>
      {meter !== null && meter.sheet.clamps > 0 && (
        <div className="clamps">
          {clamps.map((clamp, at) => (
            <div key={at} className="clamp">
              <b>{say("talk.clamp", { at: at + 1 })}</b>
              <Pick
                label={say("talk.round")}
                value={String(clamp.phase)}
                options={PHASES.map((one) => [one, `L${one}`] as const)}
                put={(phase) => change(at, { phase: Number(phase) })}
              />
              <button type="button" className="arrow" onClick={() => change(at, { to_house: !clamp.to_house })}>
                {say("talk.arrow_to_the", { to_house: clamp.to_house ? say("talk.house") : say("common.supply") })}
              </button>
              <button
                type="button"
                className="quiet"
                onClick={() => quietly({ clamps: typed(clamps.filter((_, index) => index !== at)) })}
              >
                {say("common.take_off")}
              </button>
            </div>
          ))}
          {clamps.length < meter.sheet.clamps && (
            <button
              type="button"
              className="quiet"
              onClick={() => quietly({ clamps: typed([...clamps, { phase: firstFree(clamps), to_house: true }]) })}
            >
              {say("talk.one_more_clamp")}
            </button>
          )}
        </div>
      )}
      {meter !== null && meter.host !== "" && (
        <div className="meter-steps" role="group" aria-label={say("talk.read_the_meter_with_this_switched")}>
          <span>{say("talk.read_it_now_with_this_switched")}</span>
          {STEPS.filter(([step]) => view.assessment.asks.some((one) => one.key === `meter_reads/${step} · L1`)).map(
            ([step, shown]) => (
              <Button key={step} loading={look.isPending} onClick={() => look.mutate(step)}>
                {shown}
              </Button>
            ),
          )}
        </div>
      )}
      <Working is={look.isPending} doing={say("talk.asking_the_meter")} stop={stop} />
      <ProblemNote error={edit.error ?? look.error} />
      {state !== null && <JudgementList judgements={state.judgements} allOpen={whyAll} />}
    </section>
  );
}

const typed = (clamps: readonly Clamp[]) => clamps.map((one) => ({ phase: String(one.phase), to_house: one.to_house }));
const firstFree = (clamps: readonly Clamp[]) =>
  [1, 2, 3].find((phase) => !clamps.some((one) => one.phase === phase)) ?? 1;
