import { useEffect, useRef } from "react";
import type { WakePhase, WakeStep } from "../../shared/api/types";
import { useKeep } from "../../shared/api/useJobWrite";
import { clock } from "../../shared/lib/figures";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { useKey } from "../../shared/lib/useKey";
import { StepCard } from "./StepCard";
import { StepShape } from "./StepShape";
import { say } from "../../words/say";
import "./wake.css";
import "./PhaseFace.css";

/** One phase: the steps under each other on one line, the one that is next laid open. */
export function PhaseFace({ jobId, phase, timezone }: { jobId: string; phase: WakePhase; timezone: string }) {
  const keep = useKeep(jobId);
  const answer = (step: WakeStep, entered: "1" | "-1") =>
    keep.mutate({
      kind: "wake_step",
      subject: step.key.slice(step.key.indexOf("/") + 1),
      entered,
      taken_at: null,
      supersedes: null,
      instrument: "",
      note: "",
    });
  const first = phase.steps.find((step) => step.standing !== "done");
  const here = useRef<HTMLLIElement>(null);
  // The step at hand is seen whole, on a phone too; the page above it stays where it is while it fits.
  useEffect(() => {
    here.current?.scrollIntoView({ block: "nearest" });
  }, [first?.id]);
  useKey("r", () => here.current?.scrollIntoView({ block: "center" }));
  return (
    <section className="phase" aria-label={phase.title}>
      <header className="phase-head">
        <h2>{phase.title}</h2>
        <span>{say("wake.of_done", { done: phase.done, stepsCount: phase.steps.length })}</span>
      </header>
      <ProblemNote error={keep.error} />
      <ol className="steps">
        {phase.steps.map((step) => (
          <li key={step.id} ref={step === first ? here : undefined} className={`step step-${step.standing}`}>
            <StepShape
              standing={step.standing === "now" && step !== first ? "later" : step.standing}
              number={step.number}
            />
            {step === first || step.standing === "failed" ? (
              <StepCard jobId={jobId} step={step} busy={keep.isPending} answer={answer} />
            ) : (
              <div className="step-line">
                <span className="step-title">{step.title}</span>
                {step.to !== null && !step.title.endsWith(step.to) && <b className="step-to">{step.to}</b>}
                {step.standing === "done" && step.at !== null && (
                  <span className="step-by">
                    {step.by}, {clock(step.at, timezone)}
                    {step.overrides.length > 0 && say("wake.lock_lifted")}
                  </span>
                )}
                {step.standing === "done" && (
                  <button type="button" className="quiet" onClick={() => answer(step, "-1")}>
                    {say("wake.not_any_more")}
                  </button>
                )}
                {step.standing !== "done" && step.to === "OFF" && (
                  <button
                    type="button"
                    className="quiet"
                    disabled={keep.isPending || step.gate.verdict === "stop"}
                    onClick={() => answer(step, "1")}
                  >
                    {say("wake.it_is_off")}
                  </button>
                )}
              </div>
            )}
          </li>
        ))}
      </ol>
    </section>
  );
}
