import { useEffect, useState } from "react";

/** How long after the first screen the app is laid down for days without signal: never in its way. */
const LATER_MS = 4_000;

/** The app laid down on this device; gives what takes a newer version, once one is there and wanted. */
export function useInstalled(): (() => void) | null {
  const [newer, setNewer] = useState<ServiceWorker | null>(null);
  useEffect(() => {
    if (!("serviceWorker" in navigator)) return undefined;
    const timer = setTimeout(() => void lay(setNewer), LATER_MS);
    return () => clearTimeout(timer);
  }, []);
  if (newer === null) return null;
  return () => {
    navigator.serviceWorker.addEventListener("controllerchange", () => window.location.reload(), { once: true });
    newer.postMessage("take over");
  };
}

async function lay(found: (newer: ServiceWorker) => void): Promise<void> {
  try {
    const laid = await navigator.serviceWorker.register("/sw.js");
    void navigator.storage.persist();
    // The first one is no newer version: it takes over nothing that is open.
    if (laid.waiting !== null && navigator.serviceWorker.controller !== null) found(laid.waiting);
    laid.addEventListener("updatefound", () => {
      const coming = laid.installing;
      coming?.addEventListener("statechange", () => {
        if (coming.state === "installed" && navigator.serviceWorker.controller !== null) found(coming);
      });
    });
  } catch {
    // Without it the app works as before, as long as there is signal.
  }
}
