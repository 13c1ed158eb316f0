import type { ReactNode } from "react";
import type { StringAssessment } from "../../shared/api/types";
import { useChange } from "../../shared/api/useJobWrite";
import { figure } from "../../shared/lib/figures";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Mark } from "../../shared/marks/Mark";
import { Entry } from "../../shared/fields/Entry";
import { useNarrow } from "../../shared/lib/useNarrow";
import { say } from "../../words/say";
import "./CountSteps.css";

const NARROW_STEPS = 5;

interface CountStepsProps {
  jobId: string;
  string: StringAssessment;
  index: number;
  chosen: boolean;
  select: () => void;
  children: ReactNode;
}

/** Modules in series: each count with its verdict, one touch to take it. */
export function CountSteps({ jobId, string, index, chosen, select, children }: CountStepsProps) {
  const change = useChange(jobId);
  const narrow = useNarrow();
  const path = `$.strings[${index}].modules_in_series`;
  const current = string.steps.findIndex((step) => step.count === string.modules_in_series);
  const first = Math.max(0, Math.min(current - 2, string.steps.length - NARROW_STEPS));
  const steps = narrow ? string.steps.slice(first, first + NARROW_STEPS) : string.steps;
  const take = (count: number) => {
    select();
    change.mutate([{ path, entered: String(count) }]);
  };
  return (
    <section className={chosen ? "counts chosen" : "counts"}>
      <header>
        <h2>{say("common.string_2", { string: string.name })}</h2>
        <Mark verdict={string.verdict} />
        <p className="count-line">{string.line}</p>
      </header>
      <div className="count-row">
        <div
          className="count-steps"
          role="radiogroup"
          aria-label={say("string.modules_in_series_string", { string: string.name })}
        >
          {steps.map((step) => (
            <button
              key={step.count}
              type="button"
              role="radio"
              aria-checked={step.count === string.modules_in_series}
              className="count-step"
              title={step.line}
              onClick={() => take(step.count)}
            >
              {step.count}
              <Mark verdict={step.verdict} word={false} />
            </button>
          ))}
        </div>
        <Entry jobId={jobId} label={say("string.in_series")} path={path} shown={String(string.modules_in_series)} />
        <p className="count-note">
          {figure(string.power_w, "W", 0)} · {string.plane}
        </p>
      </div>
      <p className={`gate gate-${string.gate.verdict}`}>
        <Mark verdict={string.gate.verdict} word={false} /> {string.gate.line}
        {string.off_pct !== null && (
          <span className="off">
            {" "}
            {say("string.reads_the_mean_of_what_all", {
              off_pct: figure(Math.abs(string.off_pct), "%"),
              side: string.off_pct < 0 ? say("string.below") : say("string.above"),
            })}
          </span>
        )}
      </p>
      {string.count?.blocks != null && (
        <p className="reason reason-stop">
          {string.count.blocks} {string.count.frees}
        </p>
      )}
      {children}
      <ProblemNote error={change.error} />
    </section>
  );
}
