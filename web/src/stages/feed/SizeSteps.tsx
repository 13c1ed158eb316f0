import type { Verdict } from "../../shared/api/types";
import { Mark } from "../../shared/marks/Mark";
import { say } from "../../words/say";
import "./SizeSteps.css";

interface Step {
  section: number;
  name: string;
  chosen: boolean;
  verdict: Verdict;
  lines: (string | null)[];
  buys: string;
}

/** Conductor sizes side by side: what each gives, and what the next buys. */
export function SizeSteps({
  label,
  steps,
  choose,
}: {
  label: string;
  steps: Step[];
  choose: (section: number) => void;
}) {
  return (
    <section className="sizes">
      <h3>{say("feed.what_the_next_size_buys")}</h3>
      <div className="size-steps" role="radiogroup" aria-label={label}>
        {steps.map((step) => (
          <button
            key={step.section}
            type="button"
            role="radio"
            aria-checked={step.chosen}
            className="size-step"
            onClick={() => choose(step.section)}
          >
            <span className="size-name">
              {step.name} <Mark verdict={step.verdict} />
            </span>
            {step.lines.map((line) => line !== null && <span key={line}>{line}</span>)}
            {step.buys !== "" && <span className="buys">{step.buys}</span>}
          </button>
        ))}
      </div>
    </section>
  );
}
