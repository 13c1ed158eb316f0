import { Button, Checkbox } from "antd";
import type { Edit, FeedPlan, JobView } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Pick } from "../../shared/fields/Pick";
import { DraftField } from "../../shared/fields/DraftField";
import { shownAs, useDraft } from "../../shared/fields/useDraft";
import { MoreInverters } from "./MoreInverters";
import { PHASES, SOURCE_KINDS } from "./words";
import { say } from "../../words/say";
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
    <section className="device-panel" aria-label={say("feed.other_sources")}>
      <header>
        <h2>{say("feed.what_else_feeds_this_house")}</h2>
        <span>
          {feed.others == null
            ? say("feed.nobody_has_looked_yet")
            : others.length === 0
              ? say("feed.looked_at_nothing", {
                  size: sisters.size > 0 ? say("feed.but_this_jobs_own_inverters_feeds") : say("feed.else_feeds_it"),
                })
              : say("feed.each_counts_on_its_busbar_in")}
        </span>
      </header>
      <p className="source">{say("feed.solar_battery_generator_or_a_charger")}</p>
      {feed.others == null && (
        <Button size="large" loading={edit.isPending} onClick={() => edit.mutate({ do: "nothing_else_feeds" })}>
          {say("common.nothing_else_feeds_it")}
        </Button>
      )}
      {boards.length === 0 ? (
        <p className="nothing">{say("feed.put_the_board_into_the_path")}</p>
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
      aria-label={was ?? say("feed.one_more_source")}
      onSubmit={(event) => {
        event.preventDefault();
        edit.mutate(entered, { onSuccess: drop });
      }}
    >
      <DraftField
        label={was === null ? say("feed.one_more_source") : say("common.source")}
        value={entered.name}
        placeholder={say("feed.garage_roof")}
        put={(name) => put({ name })}
      />
      <Pick
        label={say("common.what_it_is")}
        value={entered.kind}
        options={SOURCE_KINDS}
        put={(kind) => put({ kind })}
      />
      <Pick
        label={say("feed.its_breaker_sits_in")}
        value={entered.board}
        options={boards.map((name) => [name, name] as const)}
        put={(board) => put({ board })}
      />
      <DraftField
        label={say("feed.breaker")}
        value={entered.breaker_a}
        placeholder="20 A"
        put={(breaker_a) => put({ breaker_a })}
      />
      <Pick
        label={say("feed.feeds")}
        value={entered.phase as "0" | "1" | "2" | "3"}
        options={PHASES}
        put={(phase) => put({ phase })}
      />
      <DraftField
        label={say("feed.output_by_its_plate")}
        value={entered.output_va}
        placeholder={say("feed.as_the_breaker")}
        put={(output_va) => put({ output_va })}
      />
      <Checkbox checked={entered.comes} onChange={(event) => put({ comes: event.target.checked })}>
        {say("feed.still_to_come")}
      </Checkbox>
      <div className="source-keys">
        <Button htmlType="submit" disabled={!changed} loading={edit.isPending}>
          {say("common.keep")}
        </Button>
        {was !== null && (
          <Button onClick={() => edit.mutate({ do: "remove_other_source", name: was })}>{say("common.remove")}</Button>
        )}
      </div>
      <ProblemNote error={edit.error} />
    </form>
  );
}
