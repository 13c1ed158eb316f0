import { Input } from "antd";
import { useState } from "react";

interface TypedProps {
  label: string;
  shown: string;
  /** What is typed goes here when the field is left; the server reads it. */
  commit: (entered: string) => void;
  hint?: string;
  /** Where the label stands elsewhere: it is only said to readers of screens. */
  bare?: boolean;
}

/** One field that is typed freely and sent when it is left. */
export function Typed({ label, shown, commit, hint, bare = false }: TypedProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const send = () => {
    if (draft !== null && draft !== shown) commit(draft);
    setDraft(null);
  };
  return (
    <label className="entry">
      {!bare && <span className="entry-label">{label}</span>}
      <Input
        aria-label={label}
        value={draft ?? shown}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={send}
        onPressEnter={(event) => event.currentTarget.blur()}
      />
      {hint !== undefined && <span className="entry-hint">{hint}</span>}
    </label>
  );
}
