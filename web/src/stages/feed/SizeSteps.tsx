import type { FeedStage } from "../../shared/api/client";
import { useChange } from "../../shared/api/useJobWrite";
import { figure } from "../../shared/figures";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Mark } from "../../shared/marks/Mark";

/** Conductor sizes side by side: what each gives, and what the next buys. */
export function SizeSteps({ jobId, stage }: { jobId: string; stage: FeedStage }) {
  const change = useChange(jobId);
  return (
    <section className="sizes">
      <h2>What the next size buys</h2>
      <div className="size-steps" role="radiogroup" aria-label="Conductor size">
        {stage.sizes.map((size) => (
          <button
            key={size.section_mm2}
            type="button"
            role="radio"
            aria-checked={size.chosen}
            className="size-step"
            onClick={() => change.mutate([{ path: "$.feed.section_mm2", entered: String(size.section_mm2) }])}
          >
            <span className="size-name">{figure(size.section_mm2, "mm²")} <Mark verdict={size.verdict} /></span>
            <span>rise <b>{figure(size.rise_v, "V", 2)}</b>, {figure(size.rise_pct, "%")}</span>
            <span>terminals {figure(size.terminal_v, "V")}</span>
            {size.room_v !== null && <span>room <b>{figure(size.room_v, "V")}</b></span>}
            {size.export_text !== "" && <span>may export {size.export_text}</span>}
            {size.buys !== "" && <span className="buys">{size.buys}</span>}
          </button>
        ))}
      </div>
      <ProblemNote error={change.error} />
    </section>
  );
}
