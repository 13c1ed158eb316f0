import { useEffect, useState } from "react";
import { everyWaiting } from "./store";
import { say } from "../../words/say";

/** Less room than this is said before something that was pressed finds none. */
const LEAST_BYTES = 20_000_000;
const BYTES_PER_MB = 1_000_000;

/** What stands in the way of keeping things on this device; empty while nothing does. */
export function useRoom(waiting: number): string {
  const [said, setSaid] = useState("");
  useEffect(() => {
    let isShown = true;
    void lookAtRoom().then((found) => {
      if (isShown) setSaid(found);
    });
    return () => {
      isShown = false;
    };
  }, [waiting]);
  return said;
}

async function lookAtRoom(): Promise<string> {
  try {
    await everyWaiting();
  } catch {
    return say("shared.this_browser_keeps_nothing_on_the");
  }
  const { storage } = navigator as Partial<Navigator>;
  const { quota = Infinity, usage = 0 } = (await storage?.estimate()) ?? {};
  const left = quota - usage;
  return left < LEAST_BYTES
    ? say("shared.little_room_on_this_device_mb", { left_mb: Math.max(0, Math.round(left / BYTES_PER_MB)) })
    : "";
}
