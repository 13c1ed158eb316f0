import { useSyncExternalStore } from "react";

const keyOf = (jobId: string) => `tester-${jobId}`;
const watchers = new Set<() => void>();

function subscribe(changed: () => void): () => void {
  watchers.add(changed);
  return () => watchers.delete(changed);
}

/** The tester in hand: remembered on this device, for this job, the same in every stage. */
export function useTester(jobId: string, known: readonly string[]): [string, (name: string) => void] {
  const held = useSyncExternalStore(subscribe, () => localStorage.getItem(keyOf(jobId)) ?? "");
  const tester = known.includes(held) ? held : (known[0] ?? "");
  const choose = (name: string) => {
    localStorage.setItem(keyOf(jobId), name);
    watchers.forEach((changed) => changed());
  };
  return [tester, choose];
}
