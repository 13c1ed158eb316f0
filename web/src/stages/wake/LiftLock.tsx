import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { api } from "../../shared/api/calls";
import { useJobWrite } from "../../shared/api/useJobWrite";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { say } from "../../words/say";
import "./LiftLock.css";

/** Lifting a lock: a licensed person, a reason, for good in the record. */
export function LiftLock({ jobId, stepKey, lock }: { jobId: string; stepKey: string; lock: string }) {
  const session = useQuery({ queryKey: ["session"], queryFn: api.session });
  const [reason, setReason] = useState<string | null>(null);
  const lift = useJobWrite<string>(jobId, (said) => api.liftLock(jobId, stepKey, said, lock));
  if (session.data !== undefined && session.data.licence === "")
    return <p className="source">{say("wake.only_a_person_whose_licence_is")}</p>;
  if (reason === null)
    return (
      <button type="button" className="quiet" onClick={() => setReason("")}>
        {say("wake.lift_this_lock")}
      </button>
    );
  return (
    <div className="lift-lock">
      <label className="entry">
        <span className="entry-label">{say("wake.why_in_a_sentence_that_stands")}</span>
        <Input.TextArea rows={2} value={reason} onChange={(event) => setReason(event.target.value)} />
      </label>
      <p className="source">{say("wake.licence_you_answer_for_it", { licence: session.data?.licence })}</p>
      <div className="tester-do">
        <Button
          danger
          loading={lift.isPending}
          onClick={() => lift.mutate(reason, { onSuccess: () => setReason(null) })}
        >
          {say("wake.lift_the_lock")}
        </Button>
        <button type="button" className="quiet" onClick={() => setReason(null)}>
          {say("wake.leave_it_locked")}
        </button>
      </div>
      <ProblemNote error={lift.error} />
    </div>
  );
}
