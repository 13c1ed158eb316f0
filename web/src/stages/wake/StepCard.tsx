import { Button } from "antd";
import type { WakeStep } from "../../shared/api/types";
import { Countdown } from "../../shared/layout/Countdown";
import { Photos } from "../../shared/evidence/Photos";
import { GateLine } from "../../shared/judging/GateLine";
import { Locks } from "../../shared/judging/Locks";
import { LateNote } from "./LateNote";
import { LiftLock } from "./LiftLock";
import { say } from "../../words/say";
import "./wake.css";
import "./StepCard.css";

const HERE = 8;

interface StepCardProps {
  jobId: string;
  step: WakeStep;
  busy: boolean;
  answer: (step: WakeStep, entered: "1" | "-1") => void;
}

/**
 * The step at hand: its caution, its lock, its wait, what is then to be seen, and what to do when it is not.
 */
export function StepCard({ jobId, step, busy, answer }: StepCardProps) {
  const locked = step.gate.verdict !== "clear" && !step.only_waits;
  return (
    <div className="step-card">
      <h3>
        {step.title}
        {step.to !== null && <b className="step-to">{step.to}</b>}
      </h3>
      {step.caution !== "" && <p className="caution step-caution">{step.caution}</p>}
      {step.due_at !== null && (
        <p className="step-wait">
          <Countdown until={step.due_at} />{" "}
          <span>{say("wake.from_the_step_before", { wait_text: step.wait_text })}</span>
        </p>
      )}
      {locked &&
        (step.locks.length > 0 ? (
          <Locks
            jobId={jobId}
            here={HERE}
            locks={step.locks}
            lift={(lock) => !step.hard && <LiftLock jobId={jobId} stepKey={step.key} lock={lock.id} />}
          />
        ) : (
          <GateLine gate={step.gate} />
        ))}
      <dl className="step-expect">
        <div>
          <dt>{say("wake.then_you_see")}</dt>
          <dd>{step.expect}</dd>
        </div>
        {step.lights.length > 0 && (
          <div>
            <dt>{say("wake.its_lights_show")}</dt>
            <dd>{step.lights.join(say("wake.or"))}</dd>
          </div>
        )}
      </dl>
      {step.late_at !== null && step.standing !== "failed" && <LateNote at={step.late_at} otherwise={step.otherwise} />}
      {step.standing === "failed" && (
        <p className="reason reason-stop">{say("wake.not_as_expected", { otherwise: step.otherwise })}</p>
      )}
      <div className="two-ways">
        <Button type="primary" disabled={busy || locked} onClick={() => answer(step, "1")}>
          {step.to === null ? say("wake.so_it_is") : say("wake.it_is_as_expected", { to: step.to })}
        </Button>
        <Button disabled={busy} onClick={() => answer(step, "-1")}>
          {say("wake.not_as_expected_2")}
        </Button>
      </div>
      {step.overrides.map((one) => (
        <p key={one.id} className="source">
          {say("wake.lifted_by_licence", { by: one.by, licence: one.licence, reason: one.reason, lifted: one.lifted })}
        </p>
      ))}
      {step.only_waits && !step.hard && <LiftLock jobId={jobId} stepKey={step.key} lock="" />}
      <Photos jobId={jobId} step={step.key} title={step.title} />
    </div>
  );
}
