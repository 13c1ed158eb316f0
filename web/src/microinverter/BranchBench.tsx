import type { BranchState, JobView } from "../shared/api/types";
import type { Edit } from "../shared/api/types";
import { useEdit } from "../shared/api/useJobWrite";
import { figure } from "../shared/lib/figures";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { Mark } from "../shared/marks/Mark";
import { Pick } from "../shared/fields/Pick";
import { SheetPick } from "../shared/fields/SheetPick";
import { Field } from "../shared/fields/Field";
import { rich, say } from "../words/say";
import "./microinverter.css";
import "./BranchBench.css";

const NO_BOX = "";
type Fed = Omit<Extract<Edit, { do: "set_branch" }>, "do" | "name">;

/**
 * The branch in hand: current, rise and room as they stand, both ways to feed it, its phase, box and
 * breaker.
 */
export function BranchBench({ jobId, view, state }: { jobId: string; view: JobView; state: BranchState }) {
  const edit = useEdit(jobId);
  const typed = useEdit(jobId);
  const planned = view.plan.micro?.branches.find((one) => one.name === state.name);
  const boxes = view.plan.feed.devices
    .filter((one) => one.kind === "joint")
    .map((one) => [one.name, one.name] as const);
  if (planned === undefined) return null;
  const fed = (change: Partial<Fed>) =>
    ({
      do: "set_branch",
      name: state.name,
      phase: String(planned.phase),
      feed: planned.feed,
      joint: planned.joint ?? "",
      lead_m: planned.lead_m == null ? "" : String(planned.lead_m),
      breaker: null,
      ...change,
    }) as const;
  const set = (change: Partial<Fed>) => edit.mutate(fed(change));
  return (
    <section key={state.name} className="branch-bench" aria-label={say("microinverter.branch", { state: state.name })}>
      <header>
        <h2>{say("microinverter.branch", { state: state.name })}</h2>
        <Mark verdict={state.verdict} />
        <p>{state.line}</p>
      </header>
      <dl className="branch-figures">
        <div>
          <dt>
            {say("microinverter.current", {
              breaker_a:
                state.breaker_a === null
                  ? ""
                  : say("microinverter.behind", { breaker_a: figure(state.breaker_a, "A", 0) }),
            })}
          </dt>
          <dd>{figure(state.current_a, "A")}</dd>
        </div>
        <div>
          <dt>{say("microinverter.last_unit")}</dt>
          <dd>{state.last_v === null ? say("microinverter.not_known") : figure(state.last_v, "V")}</dd>
        </div>
        <div>
          <dt>{say("microinverter.room_to_the_trip")}</dt>
          <dd>{state.room_v === null ? say("microinverter.not_known") : figure(state.room_v, "V")}</dd>
        </div>
        <div>
          <dt>{say("microinverter.units_of", { most: state.most.most })}</dt>
          <dd>{state.units.length}</dd>
        </div>
      </dl>
      <p className="source">{state.most_line}.</p>
      {state.feeds.length > 0 && (
        <div
          className="size-steps feeds"
          role="radiogroup"
          aria-label={say("microinverter.how_is_fed", { state: state.name })}
        >
          {state.feeds.map((one) => (
            <button
              key={one.feed}
              type="button"
              role="radio"
              aria-checked={one.chosen}
              className="size-step"
              onClick={() => set({ feed: one.feed })}
            >
              <span className="size-name">
                {one.feed === "end" ? say("microinverter.fed_at_its_end") : say("microinverter.fed_in_its_middle")}{" "}
                <Mark verdict={one.verdict} word={false} />
              </span>
              <span>
                {rich("microinverter.over_home_run_and_trunk", {
                  rise_v: <b>{figure(one.rise_v, "V", 2)}</b>,
                  rise_pct: figure(one.rise_pct, "%", 2),
                })}
              </span>
              <span className="buys">
                {say("microinverter.of_it_in_the_trunk", {
                  trunk_rise_v: figure(one.trunk_rise_v, "V", 2),
                  end_caps: one.end_caps,
                  tees: one.tees > 0 && say("microinverter.1_tee"),
                })}
              </span>
            </button>
          ))}
        </div>
      )}
      <div className="device-fields">
        {view.plan.micro?.three_phase === true && (
          <Pick
            label={say("common.phase")}
            value={String(planned.phase)}
            options={[
              ["1", "L1"],
              ["2", "L2"],
              ["3", "L3"],
            ]}
            put={(phase) => set({ phase })}
          />
        )}
        <SheetPick
          kind="breakers"
          label={say("microinverter.breaker_of_the_branch")}
          now={planned.breaker?.id ?? null}
          nowLabel={planned.breaker?.model ?? ""}
          none={say("common.none_yet")}
          put={(id) => set({ breaker: id ?? "" })}
        />
        <Pick
          label={say("microinverter.joint_box")}
          value={planned.joint ?? NO_BOX}
          options={[[NO_BOX, say("common.none_yet")], ...boxes]}
          put={(joint) => set({ joint })}
        />
        <Field
          label={say("microinverter.box_to_the_first_unit")}
          shown={planned.lead_m == null ? "" : figure(planned.lead_m, "m", 2)}
          commit={(lead_m) => typed.mutateAsync(fed({ lead_m }))}
        />
      </div>
      <ProblemNote error={edit.error} />
    </section>
  );
}
