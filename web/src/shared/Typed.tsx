import { Input } from "antd";
import { useState } from "react";

interface TypedProps {
  label: string;
  shown: string;
  /** What is typed goes here when the field is left; the server reads it. */
  commit: (entered: string) => void;
  hint?: string;
  wrong?: boolean;
}

/** One field that is typed freely and sent when it is left. */
export function Typed({ label, shown, commit, hint, wrong = false }: TypedProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const send = () => {
    if (draft !== null && draft !== shown) commit(draft);
    setDraft(null);
  };
  return (
    <label className="entry">
      <span className="entry-label">{label}</span>
      <Input
        value={draft ?? shown}
        status={wrong ? "error" : ""}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={send}
        onPressEnter={(event) => event.currentTarget.blur()}
      />
      {hint !== undefined && <span className="entry-hint">{hint}</span>}
    </label>
  );
}
