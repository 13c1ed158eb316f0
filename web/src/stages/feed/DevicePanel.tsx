import { Checkbox } from "antd";
import type { Edit, FeedDevice, FeedPlan, FeedStage } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { Photos } from "../../shared/evidence/Photos";
import { figure } from "../../shared/lib/figures";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Pick } from "../../shared/fields/Pick";
import { SheetPick } from "../../shared/fields/SheetPick";
import { DraftField } from "../../shared/fields/DraftField";
import { KeepRow } from "../../shared/fields/KeepRow";
import { pickedSheet, shownAs, useDraft } from "../../shared/fields/useDraft";
import { DEVICE_KINDS, EARTH_SYSTEMS, ENTRIES, OWN_PHASES, SUPPLIES, SURGES } from "./words";
import "./DevicePanel.css";
import { JoinTo } from "./JoinTo";
import { say } from "../../words/say";

type Put = Extract<Edit, { do: "put_feed_device" }>;

interface DevicePanelProps {
  jobId: string;
  device: FeedDevice;
  state: FeedStage["devices"][number];
  feed: FeedPlan;
  open: (what: string) => void;
  whyAll: boolean;
}

function asEntered(device: FeedDevice): Put {
  return {
    do: "put_feed_device",
    was: device.name,
    name: device.name,
    kind: device.kind,
    breaker: null,
    isolator: null,
    busbar_a: shownAs(device.busbar_a, "A"),
    supply_a: shownAs(device.supply_a, "A"),
    far_end: device.far_end,
    surge: device.surge,
    outdoors: device.outdoors,
    entry: device.entry,
    meter: null,
  };
}

/** One device of the AC side: its sheet, what it must bear, and what was looked at on it. */
export function DevicePanel({ jobId, device, state, feed, open, whyAll }: DevicePanelProps) {
  const { entered, changed, put, drop } = useDraft(asEntered(device));
  const edit = useEdit(jobId);
  const isEnd = device.kind === "supply" || device.kind === "inverter" || device.kind === "branches";
  const hasSwitch = device.kind === "isolator" || device.kind === "joint" || device.kind === "branches";
  const hasBusbar = device.kind === "board" || device.kind === "branches";
  const isBoard = device.kind === "board";
  const supply = {
    do: "set_supply" as const,
    service: feed.supply_service ?? null,
    earth_system: feed.earth_system,
    phase: String(feed.phase) as "0" | "1" | "2" | "3",
  };
  const kinds = isEnd ? [[device.kind, state.title] as const] : DEVICE_KINDS;
  return (
    <section className="device-panel" aria-label={device.name}>
      <header>
        <h2>{device.name}</h2>
        <span>{state.title}</span>
      </header>
      {device.kind === "supply" && (
        <div className="device-fields">
          <Pick
            label={say("feed.the_house_is_fed_with")}
            value={feed.supply_service ?? ""}
            options={SUPPLIES}
            put={(service) => edit.mutate({ ...supply, service: service === "" ? null : service })}
          />
          <Pick
            label={say("feed.earthing_system")}
            value={feed.earth_system}
            options={EARTH_SYSTEMS}
            put={(earth_system) => edit.mutate({ ...supply, earth_system })}
          />
          {feed.supply_service === "three" && (
            <Pick
              label={say("feed.a_one_phase_inverter_feeds")}
              value={supply.phase}
              options={OWN_PHASES}
              put={(phase) => edit.mutate({ ...supply, phase })}
            />
          )}
        </div>
      )}
      <form
        onSubmit={(event) => {
          event.preventDefault();
          edit.mutate(entered, {
            onSuccess: () => {
              open(`device ${entered.name}`);
              drop();
            },
          });
        }}
      >
        <div className="device-fields">
          <DraftField label={say("common.name")} value={entered.name} put={(name) => put({ name })} />
          {!isEnd && (
            <Pick label={say("common.what_it_is")} value={entered.kind} options={kinds} put={(kind) => put({ kind })} />
          )}
          {isBoard && (
            <SheetPick
              kind="breakers"
              label={say("feed.breaker_of_the_inverters_circuit")}
              now={pickedSheet(entered.breaker, device.breaker?.id)}
              nowLabel={device.breaker?.model ?? ""}
              none={say("feed.no_breaker_yet")}
              put={(id) => put({ breaker: id ?? "" })}
            />
          )}
          {hasSwitch && (
            <SheetPick
              kind="isolators"
              label={device.kind === "isolator" ? say("common.sheet") : say("feed.switch_in_it")}
              now={pickedSheet(entered.isolator, device.isolator?.id)}
              nowLabel={device.isolator?.model ?? ""}
              none={say("feed.no_sheet_yet")}
              put={(id) => put({ isolator: id ?? "" })}
            />
          )}
          {device.kind === "meter" && (
            <SheetPick
              kind="meters"
              label={say("common.sheet")}
              now={pickedSheet(entered.meter ?? null, device.meter?.id)}
              nowLabel={device.meter == null ? "" : `${device.meter.maker} ${device.meter.model}`}
              none={say("feed.no_sheet")}
              put={(id) => put({ meter: id ?? "" })}
            />
          )}
          {hasBusbar && (
            <DraftField
              label={say("feed.busbar")}
              value={entered.busbar_a}
              placeholder="100 A"
              put={(busbar_a) => put({ busbar_a })}
            />
          )}
          {hasBusbar && (
            <DraftField
              label={say("feed.breaker_that_feeds_the_board")}
              value={entered.supply_a}
              placeholder="63 A"
              put={(supply_a) => put({ supply_a })}
            />
          )}
          {hasBusbar && (
            <Pick
              label={say("feed.surge_device_here")}
              value={entered.surge}
              options={SURGES}
              put={(surge) => put({ surge })}
            />
          )}
          {isBoard && (
            <Checkbox checked={entered.far_end} onChange={(event) => put({ far_end: event.target.checked })}>
              {say("feed.breaker_at_the_busbars_far_end")}
            </Checkbox>
          )}
          {hasSwitch && (
            <Pick
              label={say("feed.cable_enters")}
              value={entered.entry}
              options={ENTRIES}
              put={(entry) => put({ entry })}
            />
          )}
          {hasSwitch && (
            <Checkbox checked={entered.outdoors} onChange={(event) => put({ outdoors: event.target.checked })}>
              {say("feed.hangs_outdoors")}
            </Checkbox>
          )}
          <KeepRow
            changed={changed}
            saving={edit.isPending}
            drop={drop}
            remove={
              isEnd
                ? undefined
                : () =>
                    edit.mutate({ do: "remove_feed_device", name: device.name }, { onSuccess: () => open("ladder") })
            }
          />
        </div>
      </form>
      <ProblemNote error={edit.error} />
      {device.breaker !== null && device.breaker !== undefined && (
        <p className="sheet-line">
          {say("feed.poles_curve", {
            maker: device.breaker.maker,
            model: device.breaker.model,
            poles: device.breaker.poles,
            curve: device.breaker.curve,
            rated_a: figure(device.breaker.rated_a, "A"),
            residual_ma:
              device.breaker.residual_ma == null
                ? say("feed.no_residual_current_part")
                : say("feed.type", {
                    residual_type: device.breaker.residual_type,
                    residual_ma: figure(device.breaker.residual_ma, "mA"),
                  }),
            two_way: device.breaker.two_way ? say("feed.current_either_way") : say("feed.fixed_line_and_load_side"),
          })}
        </p>
      )}
      <JudgementList judgements={state.judgements} allOpen={whyAll} />
      <Photos jobId={jobId} step={`feed/${device.name}`} title={device.name} />
      {feed.runs.every((run) => run.start !== device.name && run.end !== device.name) && (
        <JoinTo jobId={jobId} device={device} feed={feed} open={open} />
      )}
    </section>
  );
}
