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
    <section className="device-panel" aria-label="Ways">
      <header>
        <h2>Pipes, trunking and open ways</h2>
        <span>DC and AC apart or behind a divider. The lid goes on last, when every end is made.</span>
      </header>
      {ways.map((way) => {
        const state = states.find((one) => one.name === way.name);
        return (
          <details key={way.name} open={state?.verdict !== "clear"}>
            <summary>
              <b>{way.name}</b>, {state?.title}
              {state?.fill_pct != null && `, ${figure(state.fill_pct, "%", 0)} full`}{" "}
              {state !== undefined && <Mark verdict={state.verdict} />}
            </summary>
            <WayForm jobId={jobId} way={way} circuits={circuits} />
            {state !== undefined && <JudgementList judgements={state.judgements} allOpen={whyAll} />}
          </details>
        );
      })}
      <details open={ways.length === 0}>
        <summary>One more way</summary>
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
      aria-label={name ?? "One more way"}
      onSubmit={(event) => {
        event.preventDefault();
        edit.mutate(entered, { onSuccess: drop });
      }}
    >
      <div className="device-fields">
        <DraftField label="Name" value={entered.name} placeholder="Cellar pipe" put={(value) => put({ name: value })} />
        <Pick label="What it is" value={entered.way} options={WAYS} put={(value) => put({ way: value })} />
        {entered.way !== "open" && (
          <DraftField
            label={entered.way === "pipe" ? "Inside diameter" : "Inside width"}
            value={entered.width_mm}
            placeholder="25 mm"
            put={(width_mm) => put({ width_mm })}
          />
        )}
        {entered.way === "pipe" && (
          <Pick
            label="Trade size"
            value={entered.trade_size}
            options={TRADE_SIZES}
            put={(trade_size) => put({ trade_size })}
          />
        )}
        {entered.way === "pipe" && (
          <DraftField
            label="Above a roof in the sun"
            value={entered.above_roof_mm}
            placeholder="elsewhere"
            put={(above_roof_mm) => put({ above_roof_mm })}
          />
        )}
        {entered.way === "trunking" && (
          <DraftField
            label="Inside height"
            value={entered.height_mm}
            placeholder="60 mm"
            put={(height_mm) => put({ height_mm })}
          />
        )}
        <Pick label="Kept apart" value={entered.parted} options={PARTED} put={(parted) => put({ parted })} />
        <DraftField label="Slack left on purpose" value={entered.slack_m} put={(slack_m) => put({ slack_m })} />
        {entered.holds.includes("signal") && (
          <DraftField
            label="Outside of the signal cable"
            value={entered.signal_mm}
            placeholder="6 mm"
            put={(signal_mm) => put({ signal_mm })}
          />
        )}
      </div>
      <fieldset className="holds">
        <legend>What runs in it</legend>
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
