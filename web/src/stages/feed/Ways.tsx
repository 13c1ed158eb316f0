import { Checkbox } from "antd";
import type { Containment, Edit, FeedStage } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { figure } from "../../shared/lib/figures";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Mark } from "../../shared/marks/Mark";
import { Pick } from "../../shared/fields/Pick";
import { DraftField } from "../../shared/fields/DraftField";
import { KeepRow } from "../../shared/fields/KeepRow";
import { shownAs, useDraft } from "../../shared/fields/useDraft";
import { PARTED, TRADE_SIZES, WAYS } from "./words";
import { say } from "../../words/say";
import "./Ways.css";

type Put = Extract<Edit, { do: "put_containment" }>;

interface WaysProps {
  jobId: string;
  ways: Containment[];
  circuits: string[];
  states: FeedStage["containments"];
  whyAll: boolean;
}

/** What shares which pipe or trunking, how it is kept apart, how full it is. */
export function Ways({ jobId, ways, circuits, states, whyAll }: WaysProps) {
  return (
    <section className="device-panel" aria-label={say("feed.ways")}>
      <header>
        <h2>{say("feed.pipes_trunking_and_open_ways")}</h2>
        <span>{say("feed.dc_and_ac_apart_or_behind")}</span>
      </header>
      {ways.map((way) => {
        const state = states.find((one) => one.name === way.name);
        return (
          <details key={way.name} open={state?.verdict !== "clear"}>
            <summary>
              <b>{way.name}</b>, {state?.title}
              {state?.fill_pct != null && say("feed.full", { fill_pct: figure(state.fill_pct, "%", 0) })}{" "}
              {state !== undefined && <Mark verdict={state.verdict} />}
            </summary>
            <WayForm jobId={jobId} way={way} circuits={circuits} />
            {state !== undefined && <JudgementList judgements={state.judgements} allOpen={whyAll} />}
          </details>
        );
      })}
      <details open={ways.length === 0}>
        <summary>{say("feed.one_more_way")}</summary>
        <WayForm jobId={jobId} way={null} circuits={circuits} />
      </details>
    </section>
  );
}

function asEntered(way: Containment | null): Put {
  return {
    do: "put_containment",
    was: way?.name ?? null,
    name: way?.name ?? "",
    way: way?.way ?? "pipe",
    holds: way?.holds ?? [],
    width_mm: shownAs(way?.width_mm, "mm"),
    height_mm: shownAs(way?.height_mm, "mm"),
    parted: way?.parted ?? "alone",
    slack_m: shownAs(way?.slack_m ?? 0, "m"),
    signal_mm: shownAs(way?.signal_mm, "mm"),
    trade_size: way?.trade_size ?? "",
    above_roof_mm: shownAs(way?.above_roof_mm, "mm"),
  };
}

function WayForm({ jobId, way, circuits }: { jobId: string; way: Containment | null; circuits: string[] }) {
  const { entered, changed, put, drop } = useDraft(asEntered(way));
  const edit = useEdit(jobId);
  const name = way?.name;
  return (
    <form
      aria-label={name ?? say("feed.one_more_way")}
      onSubmit={(event) => {
        event.preventDefault();
        edit.mutate(entered, { onSuccess: drop });
      }}
    >
      <div className="device-fields">
        <DraftField
          label={say("common.name")}
          value={entered.name}
          placeholder={say("feed.cellar_pipe")}
          put={(value) => put({ name: value })}
        />
        <Pick
          label={say("common.what_it_is")}
          value={entered.way}
          options={WAYS}
          put={(value) => put({ way: value })}
        />
        {entered.way !== "open" && (
          <DraftField
            label={entered.way === "pipe" ? say("feed.inside_diameter") : say("feed.inside_width")}
            value={entered.width_mm}
            placeholder="25 mm"
            put={(width_mm) => put({ width_mm })}
          />
        )}
        {entered.way === "pipe" && (
          <Pick
            label={say("feed.trade_size")}
            value={entered.trade_size}
            options={TRADE_SIZES}
            put={(trade_size) => put({ trade_size })}
          />
        )}
        {entered.way === "pipe" && (
          <DraftField
            label={say("feed.above_a_roof_in_the_sun")}
            value={entered.above_roof_mm}
            placeholder={say("feed.elsewhere")}
            put={(above_roof_mm) => put({ above_roof_mm })}
          />
        )}
        {entered.way === "trunking" && (
          <DraftField
            label={say("feed.inside_height")}
            value={entered.height_mm}
            placeholder="60 mm"
            put={(height_mm) => put({ height_mm })}
          />
        )}
        <Pick
          label={say("feed.kept_apart")}
          value={entered.parted}
          options={PARTED}
          put={(parted) => put({ parted })}
        />
        <DraftField
          label={say("feed.slack_left_on_purpose")}
          value={entered.slack_m}
          put={(slack_m) => put({ slack_m })}
        />
        {entered.holds.includes("signal") && (
          <DraftField
            label={say("feed.outside_of_the_signal_cable")}
            value={entered.signal_mm}
            placeholder="6 mm"
            put={(signal_mm) => put({ signal_mm })}
          />
        )}
      </div>
      <fieldset className="holds">
        <legend>{say("feed.what_runs_in_it")}</legend>
        {circuits.map((circuit) => (
          <Checkbox
            key={circuit}
            checked={entered.holds.includes(circuit)}
            onChange={(event) =>
              put({
                holds: event.target.checked
                  ? [...entered.holds, circuit]
                  : entered.holds.filter((one) => one !== circuit),
              })
            }
          >
            {circuit}
          </Checkbox>
        ))}
      </fieldset>
      <KeepRow
        changed={changed}
        saving={edit.isPending}
        drop={drop}
        remove={name === undefined ? undefined : () => edit.mutate({ do: "remove_containment", name })}
      />
      <ProblemNote error={edit.error} />
    </form>
  );
}
