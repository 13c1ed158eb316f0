import { useSyncExternalStore } from "react";
import { Refusal } from "../api/transport";
import type { Schemas } from "../api/types";
import { say } from "../../words/say";

/** The core in this browser, once it is there: it judges at once, the server behind it. */
type Problem = Schemas["Problem"];
type State = "none" | "coming" | "ready";

let state: State = "none";
let version = "";
let worker: Worker | null = null;
let asked = 0;
const waiting = new Map<number, { done: (text: string) => void; failed: (error: Error) => void }>();
const watchers = new Set<() => void>();

function becomes(now: State): void {
  state = now;
  watchers.forEach((changed) => changed());
}

function subscribe(changed: () => void): () => void {
  watchers.add(changed);
  return () => watchers.delete(changed);
}

/** The version of the core that judges in this browser; empty while the server alone does. */
export const coreHere = () => (state === "ready" ? version : "");

export function useCoreHere(): string {
  return useSyncExternalStore(subscribe, coreHere, coreHere);
}

/** Fetches and starts the core of a version. Where that cannot be, the server judges as before. */
export async function startCore(wanted: string): Promise<void> {
  if (state !== "none") return;
  version = wanted;
  becomes("coming");
  try {
    worker = new Worker(new URL("./core.worker.ts", import.meta.url), { type: "module" });
    worker.onmessage = ({ data }: MessageEvent<{ id: number; text?: string; failed?: string }>) => {
      const one = waiting.get(data.id);
      waiting.delete(data.id);
      if (data.text === undefined) one?.failed(new Error(data.failed));
      else one?.done(data.text);
    };
    worker.onerror = () => stopCore();
    await send({ from: `/engine/${wanted}/` });
    becomes("ready");
  } catch {
    stopCore();
  }
}

/** The core of this browser judges no more: another version is wanted, or it does not run. */
export function stopCore(): void {
  worker?.terminate();
  worker = null;
  waiting.forEach((one) => one.failed(new Error("stopped")));
  waiting.clear();
  becomes("none");
}

function send(message: { from?: string; question?: string }): Promise<string> {
  return new Promise((done, failed) => {
    asked += 1;
    waiting.set(asked, { done, failed });
    worker?.postMessage({ id: asked, ...message });
  });
}

/** Asks the core. Rejects with a Refusal, said as the server says it. */
export async function askCore<T>(question: Record<string, unknown>): Promise<T> {
  const answer = JSON.parse(await send({ question: JSON.stringify(question) })) as T & { refused?: Problem[] };
  if (answer.refused === undefined) return answer;
  const said = answer.refused.slice(0, 3).map((one) => one.message);
  throw new Refusal({
    title: say("shared.not_accepted"),
    status: 422,
    detail: said.join(" "),
    kept: say("shared.what_was_entered_stands_in_its"),
    problems: answer.refused,
  });
}
