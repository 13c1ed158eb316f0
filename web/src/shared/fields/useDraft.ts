import { useState } from "react";

/** What is being typed over what is kept: null while nothing was changed. */
export function useDraft<T>(kept: T) {
  const [draft, setDraft] = useState<T | null>(null);
  const entered = draft ?? kept;
  return {
    entered,
    changed: draft !== null,
    put: (change: Partial<T>) => setDraft({ ...entered, ...change }),
    // What was typed while an earlier draft was on its way to being kept stays.
    drop: () => setDraft((now) => (now === draft ? null : now)),
  };
}

/** Which sheet a pick shows: what was picked, nothing when it was taken out, else the planned one. */
export const pickedSheet = (entered: string | null, planned: string | undefined) =>
  entered === "" ? null : (entered ?? planned ?? null);

/** A figure as it is shown in a field, or nothing. */
export const shownAs = (value: number | null | undefined, unit: string) =>
  value == null ? "" : `${value}\u00a0${unit}`.trim();
