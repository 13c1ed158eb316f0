import { Button } from "antd";
import type { ActIn, Rehearsal } from "../../shared/api/types";
import { StepShape } from "./StepShape";
import { say } from "../../words/say";
import "./wake.css";

/** The steps of the rehearsed phase: done, out of turn, next; what only eyes can tell is said with a touch. */
export function PlayedSteps({ steps, act }: { steps: Rehearsal["steps"]; act: (act: Omit<ActIn, "at_s">) => void }) {
  const next = steps.find((one) => one.done_s === null);
  return (
    <ol className="steps played-steps">
      {steps.map((one, index) => (
        <li key={one.id} className={`step step-${one.done_s !== null ? "done" : one === next ? "now" : "later"}`}>
          <StepShape
            standing={one.done_s !== null ? "done" : one.early ? "failed" : one === next ? "now" : "later"}
            number={index + 1}
          />
          <div className="step-line">
            <span className="step-title">{one.title}</span>
            {one.to !== "" && !one.title.endsWith(one.to) && <b className="step-to">{one.to}</b>}
            {one.early && one.done_s === null && <span className="step-by">{say("wake.out_of_turn")}</span>}
            {one === next && (one.needs_seen || one.id === "paired") && (
              <Button onClick={() => act({ seen: one.id, switch: null, to: "ON" })}>{say("wake.seen")}</Button>
            )}
            {one === next && <small>{one.expect}</small>}
          </div>
        </li>
      ))}
    </ol>
  );
}
