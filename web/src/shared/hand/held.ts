import { api, type Given } from "../api/calls";
import type { JobView, Prompt, Schemas } from "../api/types";
import { putSeen } from "../outbox/store";
import type { Contest, Waiting } from "../outbox/store";
import { changed, type Changes } from "./changes";
import { askCore, coreHere, stopCore } from "./core";
import { serverNow } from "./clock";

/** Jobs that the core of this browser holds: what the server has of them, and what was pressed since. */
type Shown = Pick<JobView, "plan" | "assessment" | "inverters">;
interface Looked {
  changes: Changes;
  revision: number;
}
type Brief = Schemas["Brief"];

const revisions = new Map<string, number>();
/** What the core here told of each job, by which what it tells next is understood. */
const shownLast = new Map<string, Shown>();
const taking = new Map<string, Promise<boolean>>();

/** Whether the core here holds a job as the server has it. */
export const holds = (jobId: string) => coreHere() !== "" && revisions.has(jobId);

export const revisionHeld = (jobId: string) => revisions.get(jobId) ?? 0;

/** The core here holds a job no more as the server has it. */
export function letGoOf(jobId: string): void {
  revisions.delete(jobId);
  taking.delete(jobId);
}

export function letGoOfAll(): void {
  revisions.clear();
  taking.clear();
}

/** Takes a job in the hand, with what waits of it; false where that cannot be. */
export function take(jobId: string, waiting: Waiting[]): Promise<boolean> {
  if (coreHere() === "") return Promise.resolve(false);
  const known = taking.get(jobId);
  if (known !== undefined) return known;
  const begun = open(jobId, waiting).catch(() => {
    taking.delete(jobId);
    return false;
  });
  taking.set(jobId, begun);
  return begun;
}

async function open(jobId: string, waiting: Waiting[]): Promise<boolean> {
  const given = await api.hand(jobId);
  if (!isOurs(given.core)) return false;
  await look(jobId, "open", { given, waiting: waiting.map(asPressed) });
  // For who looks at the page from outside: which job is judged in it.
  document.documentElement.dataset.judges = jobId;
  return true;
}

/** Asks what changes what is shown of a job; gives all of it, the same objects where nothing changed. */
async function look<T extends Looked = Looked>(jobId: string, what: string, more: Record<string, unknown> = {}) {
  const told = await ask<T>(jobId, what, more);
  revisions.set(jobId, told.revision);
  const shown = changed(shownLast.get(jobId), told.changes) as Shown;
  shownLast.set(jobId, shown);
  return { ...told, shown };
}

/**
 * What was told is shown with the parts that stood on the screen before it: from here on they are the same objects, so
 * that nothing is compared twice. Not where more was told meanwhile.
 */
export function shownAs(jobId: string, told: Partial<Shown>, { plan, assessment, inverters }: Shown): void {
  if (told.assessment !== undefined && shownLast.get(jobId)?.assessment === told.assessment)
    shownLast.set(jobId, { plan, assessment, inverters });
}

/** Another version of the core judges on the server: this one judges no more. */
function isOurs(core: string): boolean {
  if (core === coreHere()) return true;
  stopCore();
  letGoOfAll();
  return false;
}

const ask = <T>(jobId: string, what: string, more: Record<string, unknown> = {}) =>
  askCore<T>({ do: what, job: jobId, at: serverNow().toISOString(), ...more });

const asPressed = (one: Waiting) => ({ id: one.id, at: atServer(one.notedAt), ...one.press });

/** A moment by the clock here, by the server's. */
const atServer = (moment: string) =>
  new Date(serverNow().getTime() - Date.now() + new Date(moment).getTime()).toISOString();

/** What the screen shows after a press, judged here, and what a change is in words. Rejects with what is refused. */
export const pressHere = (one: Waiting) =>
  look<Looked & { said: string }>(one.jobId, "press", { press: asPressed(one) });

export const lookHere = async (jobId: string) => (await look(jobId, "look")).shown;

export const dropHere = async (one: Waiting) => (await look(one.jobId, "drop", { id: one.id })).shown;

/** What would be said of a reading that is being typed. */
export const tryHere = async (one: Waiting) =>
  (await ask<{ ask: Prompt }>(one.jobId, "try", { press: asPressed(one) })).ask;

/** The sun over a job by the sky that it carries along; null where that says nothing of it. */
export const sunHere = async (jobId: string) => (await ask<{ sun: Schemas["SunView"] | null }>(jobId, "sun")).sun;

export const sumHere = async (jobId: string, rule: string, reason: string) =>
  (await ask<{ sum: Schemas["Sum"] | null }>(jobId, "sum", { rule, reason })).sum;

/** What came of it, compared with what the server found: the same, another state, or judged apart. */
export type Compared = "same" | "moved" | { here: string; there: string };

export async function confirmHere(one: Waiting, brief: Brief, isLast: boolean): Promise<Compared> {
  if (!isOurs(brief.core)) return "same";
  const more = { id: one.id, reading: brief.reading, at: brief.at, compare: isLast };
  const here = await askCore<{ digest?: string; count: number; revision: number }>({
    do: "confirm",
    job: one.jobId,
    ...more,
  });
  revisions.set(one.jobId, here.revision);
  if (here.count !== brief.count || here.revision !== brief.revision) return "moved";
  const { digest = brief.digest } = here;
  return digest === brief.digest ? "same" : { here: digest, there: brief.digest };
}

/** What the server has of a job is kept on this device, as far as it is known here. */
export async function keepHeld(jobId: string, given: Given): Promise<void> {
  const known = await ask<{ house: unknown; revision: number }>(jobId, "house");
  await putSeen(`hand ${jobId}`, { ...given, ...known });
}

/** Brings what the server has by now under what waits; gives what meets it. */
export async function rebaseHere(
  jobId: string,
  waiting: string[],
): Promise<{ shown: Shown; contests: Contest[] } | null> {
  const given = await api.handNow(jobId);
  if (!isOurs(given.core)) return null;
  return look<Looked & { contests: Contest[] }>(jobId, "rebase", { given, waiting });
}
