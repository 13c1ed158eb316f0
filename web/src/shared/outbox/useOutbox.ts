import { useSyncExternalStore } from "react";
import { everyOneWaiting, watchOutbox } from "./outbox";
import type { Press, Waiting } from "./store";

/** Every reading that is only on this device. */
export function useOutbox(): readonly Waiting[] {
  return useSyncExternalStore(watchOutbox, everyOneWaiting, everyOneWaiting);
}

/** What a press is a reading of: kind and subject; nothing where it is none. */
function readOf(press: Press): string {
  if ("reading" in press) return `${press.reading.kind}/${press.reading.subject}`;
  return "clear_sky" in press ? `irradiance/${press.clear_sky.plane}` : "";
}

/** What waits of one reading of a job, the last pressed. */
export function useWaitingOf(jobId: string, kind: string, subject: string): Waiting | undefined {
  const every = useOutbox();
  return every.findLast(
    ({ jobId: of, press, refused }) => of === jobId && refused === "" && readOf(press) === `${kind}/${subject}`,
  );
}
