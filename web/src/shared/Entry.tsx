import { Input } from "antd";
import { useState } from "react";
import { ProblemNote } from "./judging/ProblemNote";
import { useChange } from "./api/useJobWrite";

interface EntryProps {
  jobId: string;
  label: string;
  path: string;
  shown: string;
  hint?: string;
}

/** One field of the plan: typed freely, read by the server, refused with a reason. */
export function Entry({ jobId, label, path, shown, hint }: EntryProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const change = useChange(jobId);
  const send = () => {
    if (draft === null || draft === shown) return;
    change.mutate([{ path, entered: draft }], { onSuccess: () => setDraft(null) });
  };
  return (
    <label className="entry">
      <span className="entry-label">{label}</span>
      <Input
        value={draft ?? shown}
        status={change.isError ? "error" : ""}
        onChange={(event) => {
          setDraft(event.target.value);
          change.reset();
        }}
        onBlur={send}
        onPressEnter={(event) => event.currentTarget.blur()}
      />
      {hint !== undefined && <span className="entry-hint">{hint}</span>}
      <ProblemNote error={change.error} />
      {change.isError && <span className="entry-hint">Kept: {shown}</span>}
    </label>
  );
}
