import { useState } from "react";

/** What is being typed over what is kept: null while nothing was changed. */
export function useDraft<T>(kept: T) {
  const [draft, setDraft] = useState<T | null>(null);
  const entered = draft ?? kept;
  return { entered, changed: draft !== null, put: (change: Partial<T>) => setDraft({ ...entered, ...change }), drop: () => setDraft(null) };
}

/** A figure as it is shown in a field, or nothing. */
export const shownAs = (value: number | null | undefined, unit: string) => (value == null ? "" : `${value}\u00a0${unit}`.trim());
