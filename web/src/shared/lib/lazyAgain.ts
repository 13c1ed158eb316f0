import { lazy, type ComponentType, type LazyExoticComponent } from "react";

const AGAIN_AFTER_MS = [300, 1200, 3000];

/** Fetches a part of the app, and again a little later when it was lost on the way. */
export async function fetchAgain<T>(
  fetch: () => Promise<T>,
  wait: (ms: number) => Promise<void> = (ms) => new Promise((done) => setTimeout(done, ms)),
): Promise<T> {
  for (const pause of AGAIN_AFTER_MS) {
    try {
      return await fetch();
    } catch {
      await wait(pause);
    }
  }
  return fetch();
}

/** A page or stage that is fetched when it is first opened. */
export function lazyAgain<Props>(
  load: () => Promise<{ default: ComponentType<Props> }>,
): LazyExoticComponent<ComponentType<Props>> {
  return lazy(() => fetchAgain(load));
}
