import { Button, Checkbox } from "antd";
import type { Edit, FeedPlan, JobView } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Pick } from "../../shared/fields/Pick";
import { DraftField } from "../../shared/fields/DraftField";
import { shownAs, useDraft } from "../../shared/fields/useDraft";
import { MoreInverters } from "./MoreInverters";
import { PHASES, SOURCE_KINDS } from "./words";
import "./OtherSources.css";

type Put = Extract<Edit, { do: "put_other_source" }>;
type Other = NonNullable<FeedPlan["others"]>[number];

const BOARDS = ["board", "branches", "backup"];

/** What feeds the house beside this job: there already, or to come. */
export function OtherSources({ jobId, view }: { jobId: string; view: JobView }) {
  const edit = useEdit(jobId);
  const { feed } = view.plan;
  const sisters = new Set(view.inverters.map((one) => one.name));
  const others = (feed.others ?? []).filter((one) => !sisters.has(one.name));
  const boards = feed.devices.filter((one) => BOARDS.includes(one.kind)).map((one) => one.name);
  return (
    <section className="device-panel" aria-label="Other sources">
      <header>
        <h2>What else feeds this house</h2>
        <span>
          {feed.others == null
            ? "Nobody has looked yet."
            : others.length === 0
              ? `Looked at: nothing ${sisters.size > 0 ? "but this job's own inverters feeds it" : "else feeds it"}.`
              : "Each counts on its busbar, in shared cables and on its phase."}
        </span>
      </header>
      <p className="source">
        Solar, battery, generator, or a charger that feeds back: its breaker adds to the busbar even while it stands
        still.
      </p>
      {feed.others == null && (
        <Button size="large" loading={edit.isPending} onClick={() => edit.mutate({ do: "nothing_else_feeds" })}>
          Nothing else feeds it
        </Button>
      )}
      {boards.length === 0 ? (
        <p className="nothing">Put the board into the path first: that is where the breaker of a source sits.</p>
      ) : (
        [...others, null].map((one) => <SourceForm key={one?.name ?? ""} jobId={jobId} other={one} boards={boards} />)
      )}
      <ProblemNote error={edit.error} />
      {boards.length > 0 && <MoreInverters jobId={jobId} view={view} boards={boards} />}
    </section>
  );
}

function asEntered(other: Other | null, boards: string[]): Put {
  return {
    do: "put_other_source",
    was: other?.name ?? null,
    name: other?.name ?? "",
    kind: other?.kind ?? "inverter",
    board: other?.board ?? boards[0] ?? "",
    breaker_a: shownAs(other?.breaker_a, "A"),
    phase: String(other?.phase ?? 0),
    output_va: shownAs(other?.output_va, "VA"),
    comes: other?.comes ?? false,
  };
}

function SourceForm({ jobId, other, boards }: { jobId: string; other: Other | null; boards: string[] }) {
  const { entered, changed, put, drop } = useDraft(asEntered(other, boards));
  const edit = useEdit(jobId);
  const was = other?.name ?? null;
  return (
    <form
      className="source-fields"
      aria-label={was ?? "One more source"}
      onSubmit={(event) => {
        event.preventDefault();
        edit.mutate(entered, { onSuccess: drop });
      }}
    >
      <DraftField
        label={was === null ? "One more source" : "Source"}
        value={entered.name}
        placeholder="Garage roof"
        put={(name) => put({ name })}
      />
      <Pick label="What it is" value={entered.kind} options={SOURCE_KINDS} put={(kind) => put({ kind })} />
      <Pick
        label="Its breaker sits in"
        value={entered.board}
        options={boards.map((name) => [name, name] as const)}
        put={(board) => put({ board })}
      />
      <DraftField
        label="Breaker"
        value={entered.breaker_a}
        placeholder="20 A"
        put={(breaker_a) => put({ breaker_a })}
      />
      <Pick
        label="Feeds"
        value={entered.phase as "0" | "1" | "2" | "3"}
        options={PHASES}
        put={(phase) => put({ phase })}
      />
      <DraftField
        label="Output by its plate"
        value={entered.output_va}
        placeholder="as the breaker"
        put={(output_va) => put({ output_va })}
      />
      <Checkbox checked={entered.comes} onChange={(event) => put({ comes: event.target.checked })}>
        still to come
      </Checkbox>
      <div className="source-keys">
        <Button htmlType="submit" disabled={!changed} loading={edit.isPending}>
          Keep
        </Button>
        {was !== null && <Button onClick={() => edit.mutate({ do: "remove_other_source", name: was })}>Remove</Button>}
      </div>
      <ProblemNote error={edit.error} />
    </form>
  );
}
