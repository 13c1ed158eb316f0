import { useSyncExternalStore } from "react";
import { say } from "../../words/say";

const NARROW = say("shared.max_width_760px");

function subscribe(changed: () => void): () => void {
  const query = window.matchMedia(NARROW);
  query.addEventListener("change", changed);
  return () => query.removeEventListener("change", changed);
}

/** Whether the screen is one that is held in a hand. */
export function useNarrow(): boolean {
  return useSyncExternalStore(subscribe, () => window.matchMedia(NARROW).matches);
}
