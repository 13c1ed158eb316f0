import { useSyncExternalStore } from "react";

/** Whether the last call reached the server: no signal is a state, not an error. */
let there = true;
const watchers = new Set<() => void>();

export function signalIs(now: boolean): void {
  if (there === now) return;
  there = now;
  watchers.forEach((changed) => changed());
}

function subscribe(changed: () => void): () => void {
  watchers.add(changed);
  return () => watchers.delete(changed);
}

export const hasSignal = () => there;

export function useSignal(): boolean {
  return useSyncExternalStore(subscribe, hasSignal, hasSignal);
}

/** Calls when the way to the server is back. */
export function onSignal(back: () => void): () => void {
  return subscribe(() => {
    if (there) back();
  });
}
