import { memo } from "react";
import type { BranchState, Edit, JobView } from "../shared/api/types";
import { useEdit } from "../shared/api/useJobWrite";
import { figure, maybe } from "../shared/lib/figures";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { Mark } from "../shared/marks/Mark";
import { Pick } from "../shared/fields/Pick";
import { SheetPick } from "../shared/fields/SheetPick";
import { Field } from "../shared/fields/Field";
import { rich, say } from "../words/say";
import "./microinverter.css";
import "./BranchBench.css";

const NO_BOX = "";
type PlannedBranch = NonNullable<JobView["plan"]["micro"]>["branches"][number];
type Fed = Omit<Extract<Edit, { do: "set_branch" }>, "do" | "name">;

interface BranchBenchProps {
  jobId: string;
  view: JobView;
  state: BranchState;
}

/**
 * The branch in hand: current, rise and room as they stand, both ways to feed it, its phase, box and
 * breaker.
 */
export const BranchBench = memo(function BranchBench({ jobId, view, state }: BranchBenchProps) {
  const edit = useEdit(jobId);
  const planned = view.plan.micro?.branches.find((one) => one.name === state.name);
  if (planned === undefined) return null;
  const fed: Fed = {
    phase: String(planned.phase),
    feed: planned.feed,
    joint: planned.joint ?? "",
    lead_m: planned.lead_m == null ? "" : String(planned.lead_m),
    breaker: null,
  };
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
              onClick={() => edit.mutate({ do: "set_branch", name: state.name, ...fed, feed: one.feed })}
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
      <BranchFields
        jobId={jobId}
        name={state.name}
        phase={fed.phase}
        feed={fed.feed}
        joint={fed.joint}
        lead_m={fed.lead_m}
        breaker={planned.breaker ?? null}
        devices={view.plan.feed.devices}
        isThree={view.plan.micro?.three_phase === true}
      />
      <ProblemNote error={edit.error} />
    </section>
  );
});

interface BranchFieldsProps extends Omit<Fed, "breaker"> {
  jobId: string;
  name: string;
  breaker: PlannedBranch["breaker"] | null;
  devices: JobView["plan"]["feed"]["devices"];
  isThree: boolean;
}

/** What feeds it: they stay as they are while units are painted. */
const BranchFields = memo(function BranchFields(props: BranchFieldsProps) {
  const { jobId, name, phase, feed, joint, lead_m, breaker, devices, isThree } = props;
  const edit = useEdit(jobId);
  const typed = useEdit(jobId);
  const boxes = devices.filter((one) => one.kind === "joint").map((one) => [one.name, one.name] as const);
  const fed = (change: Partial<Fed>) =>
    ({ do: "set_branch", name, phase, feed, joint, lead_m, breaker: null, ...change }) as const;
  const set = (change: Partial<Fed>) => edit.mutate(fed(change));
  return (
    <>
      <div className="device-fields">
        {isThree && (
          <Pick
            label={say("common.phase")}
            value={phase}
            options={[
              ["1", "L1"],
              ["2", "L2"],
              ["3", "L3"],
            ]}
            put={(one) => set({ phase: one })}
          />
        )}
        <SheetPick
          kind="breakers"
          label={say("microinverter.breaker_of_the_branch")}
          now={breaker?.id ?? null}
          nowLabel={breaker?.model ?? ""}
          none={say("common.none_yet")}
          put={(id) => set({ breaker: id ?? "" })}
        />
        <Pick
          label={say("microinverter.joint_box")}
          value={joint}
          options={[[NO_BOX, say("common.none_yet")], ...boxes]}
          put={(one) => set({ joint: one })}
        />
        <Field
          label={say("microinverter.box_to_the_first_unit")}
          shown={maybe(lead_m === "" ? null : Number(lead_m), "m", 2)}
          commit={(entered) => typed.mutateAsync(fed({ lead_m: entered }))}
        />
      </div>
      <ProblemNote error={edit.error} />
    </>
  );
});
