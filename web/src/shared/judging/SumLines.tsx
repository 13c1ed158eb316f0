import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { api } from "../api/calls";
import { sumOf } from "../outbox/outbox";
import type { Judgement } from "../api/types";
import { say } from "../../words/say";
import "./SumLines.css";

/** How a judgement was found: each step's formula with its numbers, and where each number came from. */
export function SumLines({ judgement }: { judgement: Judgement }) {
  const { jobId = "" } = useParams();
  const [shown, setShown] = useState(false);
  const { rule_id: rule, reason } = judgement;
  const sum = useQuery({
    queryKey: ["sum", jobId, rule, reason],
    queryFn: async () => (await sumOf(jobId, rule, reason)) ?? api.sum(jobId, rule, reason),
    enabled: shown,
    retry: false,
  });
  if (jobId === "" || judgement.verdict === "waiting") return null;
  return (
    <div className="sum">
      <button type="button" className="quiet" aria-expanded={shown} onClick={() => setShown(!shown)}>
        {shown ? say("shared.put_the_sum_away") : say("shared.how_it_was_found")}
      </button>
      {shown && sum.isError && <p className="source">{say("shared.it_says_something_else_by_now")}</p>}
      {shown && sum.isLoading && <p className="source">{say("shared.working_it_out")}</p>}
      {shown && sum.data !== undefined && (
        <ol className="sum-steps">
          {sum.data.steps.map((step) => (
            <li key={step.rule + step.numbers}>
              <b>{step.title}</b>
              {step.numbers !== "" && <p className="sum-numbers">{step.numbers}</p>}
              {step.inputs.length > 0 && (
                <ul className="sum-inputs">
                  {step.inputs.map((one) => (
                    <li key={one.name}>
                      {one.name} <b>{one.value}</b> <span>{one.origin}</span>
                    </li>
                  ))}
                </ul>
              )}
            </li>
          ))}
        </ol>
      )}
    </div>
  );
}
