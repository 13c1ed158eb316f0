import { useNavigate } from "react-router";
import type { NextStep as Step } from "../shared/api/types";
import { leadAddress } from "../shared/lib/stageSlugs";
import { useKey } from "../shared/lib/useKey";
import { rich } from "../words/say";
import "./NextStep.css";

/** What comes next on this job, why it does, and one touch to where it is done. */
export function NextStep({ jobId, next }: { jobId: string; next: Step }) {
  const navigate = useNavigate();
  const go = () => void navigate(leadAddress(jobId, next.lead));
  useKey("n", go);
  return (
    <button type="button" className="next-step" onClick={go}>
      <b>{rich("app.next", { kbd: <kbd>N</kbd>, does: next.does })}</b> <small>{next.why}</small>
    </button>
  );
}
