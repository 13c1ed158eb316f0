import { Refusal } from "../api/transport";
import { lastSeen, putSeen } from "./store";

/** What a call gives; without a way to the server what it gave last on this device. */
export async function seen<T>(key: string, call: Promise<T>): Promise<T> {
  try {
    const given = await call;
    // It is only a copy: where this browser keeps nothing, the call still counts.
    void putSeen(key, given).catch(() => undefined);
    return given;
  } catch (error) {
    if (!(error instanceof Refusal) || error.report.status !== 0) throw error;
    const kept = await lastSeen(key).catch(() => undefined);
    if (kept === undefined) throw error;
    return kept as T;
  }
}
