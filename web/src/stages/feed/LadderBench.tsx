import { useState } from "react";
import type { FeedStage } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { figure } from "../../shared/lib/figures";
import { Example } from "../../shared/layout/Example";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { LadderPicture } from "./LadderPicture";
import { rich, say } from "../../words/say";
import "./LadderBench.css";

interface LadderBenchProps {
  jobId: string;
  stage: FeedStage;
  chosen: string;
  open: (what: string) => void;
}

/** The ladder of volts for today's supply or a day of high supply, and what it lets out. */
export function LadderBench({ jobId, stage, chosen, open }: LadderBenchProps) {
  const [high, setHigh] = useState(false);
  const edit = useEdit(jobId);
  const ladder = high ? stage.high : stage.today;
  const { supply } = stage;
  if (ladder === null)
    return (
      <Example begins={say("feed.the_ladder_is_drawn_as_soon", { line: stage.line })}>
        {({ assessment: { feed } }) =>
          feed.high !== null && (
            <LadderPicture stage={feed} ladder={feed.high} chosen="" open={() => undefined} size={() => undefined} />
          )
        }
      </Example>
    );
  return (
    <section className="ladder-bench" aria-label={say("feed.ladder_of_volts")}>
      <header>
        <h2 className="unseen">{say("feed.ladder_of_volts")}</h2>
        <div className="two-days" role="radiogroup" aria-label={say("feed.which_supply")}>
          {[false, true].map((one) => (
            <button
              key={String(one)}
              type="button"
              role="radio"
              aria-checked={high === one}
              className="quiet"
              onClick={() => setHigh(one)}
            >
              {(one ? stage.high : stage.today)?.title}
            </button>
          ))}
        </div>
      </header>
      <LadderPicture
        stage={stage}
        ladder={ladder}
        chosen={chosen}
        open={open}
        size={(run, section) => edit.mutate({ do: "size_run", name: run, section_mm2: String(section) })}
      />
      <p className="ladder-line">
        {rich("feed.of_rise_at_full_export_over", {
          rise_v: <b>{figure(ladder.rise_v, "V", 2)}</b>,
          rise_pct: figure(ladder.rise_pct, "%", 2),
        })}
        {ladder.room_v !== null && (
          <> {rich("feed.of_room_to_the_trip", { room_v: <b>{figure(ladder.room_v, "V")}</b> })}</>
        )}
        {ladder.export_text !== "" && (
          <> {rich("feed.may_export_before_it", { export_text: <b>{ladder.export_text}</b> })}</>
        )}
        . {ladder.settled_text}
      </p>
      <p className="ladder-line soft">
        {say("feed.pull_a_dot_on_the_ladder", {
          measured: supply.measured
            ? say("feed.supply_read", {
                pair: supply.pair,
                readings: say("feed.times", { readings: supply.readings }),
                lowest_v:
                  supply.lowest_v === supply.highest_v
                    ? figure(supply.volts, "V")
                    : say("feed.to_2", {
                        lowest_v: figure(supply.lowest_v ?? 0, ""),
                        highest_v: figure(supply.highest_v ?? 0, "V"),
                      }),
              })
            : say("feed.the_supply_is_not_measured_yet"),
        })}
      </p>
      <ProblemNote error={edit.error} />
    </section>
  );
}
