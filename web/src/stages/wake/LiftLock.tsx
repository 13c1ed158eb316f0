import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { api } from "../../shared/api/calls";
import { useJobWrite } from "../../shared/api/useJobWrite";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import "./LiftLock.css";

/** Lifting a lock: a licensed person, a reason, for good in the record. */
export function LiftLock({ jobId, stepKey, lock }: { jobId: string; stepKey: string; lock: string }) {
  const session = useQuery({ queryKey: ["session"], queryFn: api.session });
  const [reason, setReason] = useState<string | null>(null);
  const lift = useJobWrite<string>(jobId, (said) => api.liftLock(jobId, stepKey, said, lock));
  if (session.data !== undefined && session.data.licence === "")
    return <p className="source">Only a person whose licence is entered may lift this lock.</p>;
  if (reason === null)
    return (
      <button type="button" className="quiet" onClick={() => setReason("")}>
        lift this lock
      </button>
    );
  return (
    <div className="lift-lock">
      <label className="entry">
        <span className="entry-label">Why, in a sentence that stands in the record</span>
        <Input.TextArea rows={2} value={reason} onChange={(event) => setReason(event.target.value)} />
      </label>
      <p className="source">Licence {session.data?.licence}. You answer for it.</p>
      <div className="tester-do">
        <Button
          danger
          loading={lift.isPending}
          onClick={() => lift.mutate(reason, { onSuccess: () => setReason(null) })}
        >
          Lift the lock
        </Button>
        <button type="button" className="quiet" onClick={() => setReason(null)}>
          leave it locked
        </button>
      </div>
      <ProblemNote error={lift.error} />
    </div>
  );
}
