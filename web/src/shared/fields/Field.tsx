import { Input } from "antd";
import { useState } from "react";
import { ProblemNote } from "../judging/ProblemNote";
import { say } from "../../words/say";

interface FieldProps {
  label: string;
  shown: string;
  /** What is typed goes here when the field is left; it stays in the field until that has been taken. */
  commit: (entered: string) => Promise<unknown>;
  hint?: string;
  /** Where the label stands elsewhere: it is only said to readers of screens. */
  bare?: boolean;
}

/** One field that is typed freely and sent when it is left. Refused, it keeps what was typed and says why. */
export function Field({ label, shown, commit, hint, bare = false }: FieldProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const [refused, setRefused] = useState<Error | null>(null);
  const send = async () => {
    if (draft === null || draft === shown) return;
    try {
      await commit(draft);
      setDraft((now) => (now === draft ? null : now));
    } catch (error) {
      setRefused(error instanceof Error ? error : new Error(String(error)));
    }
  };
  return (
    <label className="entry">
      {!bare && <span className="entry-label">{label}</span>}
      <Input
        aria-label={label}
        value={draft ?? shown}
        status={refused === null ? "" : "error"}
        onChange={(event) => {
          setDraft(event.target.value);
          setRefused(null);
        }}
        onBlur={() => void send()}
        onPressEnter={(event) => event.currentTarget.blur()}
      />
      {hint !== undefined && <span className="entry-hint">{hint}</span>}
      <ProblemNote error={refused} />
      {refused !== null && (
        <span className="entry-hint">
          {say("shared.kept", { shown: shown === "" ? say("common.nothing") : shown })}
        </span>
      )}
    </label>
  );
}
