import { useState } from "react";
import type { FeedStage } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { figure } from "../../shared/lib/figures";
import { Example } from "../../shared/layout/Example";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { LadderPicture } from "./LadderPicture";
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
      <Example
        begins={`${stage.line}. The ladder is drawn as soon as runs lead from the supply point to the inverter: it shows how far the voltage rises at full export.`}
      >
        {({ assessment: { feed } }) =>
          feed.high !== null && (
            <LadderPicture stage={feed} ladder={feed.high} chosen="" open={() => undefined} size={() => undefined} />
          )
        }
      </Example>
    );
  return (
    <section className="ladder-bench" aria-label="Ladder of volts">
      <header>
        <h2 className="unseen">Ladder of volts</h2>
        <div className="two-days" role="radiogroup" aria-label="Which supply">
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
        <b>{figure(ladder.rise_v, "V", 2)}</b> of rise at full export, {figure(ladder.rise_pct, "%", 2)} over our runs
        {ladder.room_v !== null && (
          <>
            {" "}
            · <b>{figure(ladder.room_v, "V")}</b> of room to the trip
          </>
        )}
        {ladder.export_text !== "" && (
          <>
            {" "}
            · may export <b>{ladder.export_text}</b> before it
          </>
        )}
        . {ladder.settled_text}
      </p>
      <p className="ladder-line soft">
        {supply.measured
          ? `Supply ${supply.pair} read ${supply.readings === 1 ? "once" : `${supply.readings} times`}, ${supply.lowest_v === supply.highest_v ? figure(supply.volts, "V") : `${figure(supply.lowest_v ?? 0, "")} to ${figure(supply.highest_v ?? 0, "V")}`}.`
          : "The supply is not measured yet: nominal voltage is drawn."}{" "}
        Pull a dot on the ladder to another conductor size.
      </p>
      <ProblemNote error={edit.error} />
    </section>
  );
}
