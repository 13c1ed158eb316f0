import { useChange } from "../api/useJobWrite";
import { Field } from "./Field";

interface EntryProps {
  jobId: string;
  label: string;
  path: string;
  shown: string;
  hint?: string;
}

/** One field of the plan by its path: typed freely, read by the server, refused with a reason. */
export function Entry({ jobId, path, ...field }: EntryProps) {
  const change = useChange(jobId);
  return <Field {...field} commit={(entered) => change.mutateAsync([{ path, entered }])} />;
}
