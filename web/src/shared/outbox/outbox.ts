import { api } from "../api/calls";
import { Refusal } from "../api/transport";
import type { JobView, Prompt, ReadingIn, Schemas } from "../api/types";
import { stopCore } from "../hand/core";
import {
  confirmHere,
  dropHere,
  holds,
  keepHeld,
  letGoOf,
  letGoOfAll,
  lookHere,
  pressHere,
  rebaseHere,
  sumHere,
  sunHere,
  revisionHeld,
  take,
  tryHere,
} from "../hand/held";
import { hasSignal, onSignal } from "./signal";
import {
  dropSeen,
  dropWaiting,
  everyWaiting,
  lastSeen,
  putWaiting,
  writeSeenNow,
  type Photo,
  type PlanPress,
  type Press,
  type ReadPress,
  type Waiting,
} from "./store";
import { say } from "../../words/say";

/**
 * What was pressed, on its way to the server. Each is written down in this browser before anything is called kept,
 * with an identity made here and the time of the press; sent in order, as often as it takes, and kept there once.
 */
const AGAIN_MS = 5_000;
const LOCK = "long-noon-outbox";
const NO_STATUS = 0;
const CONFLICT = 409;
const SERVER_FAULT = 500;

let waiting: readonly Waiting[] = [];
let person = "";
let onlyWithServer: ReadonlySet<string> = new Set();
const watchers = new Set<() => void>();
let told: (jobId: string, view: Partial<JobView>) => void = () => undefined;
let apart = "";

export const everyOneWaiting = () => waiting;

/** Why this browser judges no more by itself; empty while it does, or never did. */
export const judgedApart = () => apart;

export function watchOutbox(changed: () => void): () => void {
  watchers.add(changed);
  return () => watchers.delete(changed);
}

async function lookAgain(): Promise<void> {
  waiting = await everyWaiting().catch(() => waiting);
  watchers.forEach((changed) => changed());
}

/**
 * Begins to send in somebody's name. switching: kinds that no device keeps by itself; answered: what is told of
 * each answer. Gives what ends it.
 */
export function startSending(name: string, switching: string[], answered: typeof told): () => void {
  person = name;
  onlyWithServer = new Set(switching);
  told = answered;
  void send();
  const now = () => void (mine().length > 0 && send());
  const timer = setInterval(now, AGAIN_MS);
  window.addEventListener("online", now);
  window.addEventListener("pagehide", writeSeenNow);
  const stop = onSignal(now);
  return () => {
    clearInterval(timer);
    window.removeEventListener("online", now);
    window.removeEventListener("pagehide", writeSeenNow);
    stop();
    letGoOfAll();
    person = "";
  };
}

const isOnItsWay = (error: unknown) =>
  error instanceof Refusal && (error.report.status === NO_STATUS || error.report.status >= SERVER_FAULT);

/** One of them to the server, with both clocks: by their difference it knows when it was pressed. */
function sent(one: Waiting, briefly = holds(one.jobId)): Promise<JobView | Schemas["Brief"]> {
  const { press, jobId, id } = one;
  if ("photo" in press) {
    const { file, step, name, located } = press.photo;
    return api.keepEvidence(jobId, file, step, name, located, id);
  }
  if (isPlan(press)) return api.sendPlan(jobId, id, press, revisionHeld(jobId));
  const pressed = { id, noted_at: one.notedAt, sent_at: new Date().toISOString(), device: hand() };
  return "reading" in press
    ? api.sendReading(jobId, { ...press.reading, ...pressed }, briefly)
    : api.sendClearSky(jobId, { ...press.clear_sky, ...pressed }, briefly);
}

/** What this device is called in the record: its kind, no more. */
function hand(): string {
  const touch = navigator.maxTouchPoints > 0;
  return touch ? say("shared.phone_or_tablet") : say("shared.computer");
}

/** An identity that no other device makes; away from HTTPS browsers make none of their own. */
function identity(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  const hex = Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("");
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join("-");
}

/** Does it in one page of this browser at a time, where the browser can tell. */
async function alone(work: () => Promise<void>): Promise<void> {
  const { locks } = navigator as Partial<Navigator>;
  await (locks === undefined ? work() : locks.request(LOCK, work));
}

/** Presses of which somebody waits for the answer right now, with what it was. */
const awaited = new Map<string, JobView | Error | null>();
let sending: Promise<void> = Promise.resolve();

/** Sends what waits, one round after the other: two at once would change the order. */
function send(): Promise<void> {
  sending = sending.then(() => alone(round)).catch(() => undefined);
  return sending;
}

/** What can be sent: a change of a plan only where its revision is known, and no reading before it. */
function mine(): Waiting[] {
  const blocked = new Set<string>();
  const can = waiting.filter((one) => {
    if (one.person !== person || one.refused !== "" || one.contest !== null) return false;
    if (isPlan(one.press) && !holds(one.jobId)) blocked.add(one.jobId);
    return !blocked.has(one.jobId);
  });
  // A picture takes its time on a thin line: nothing else waits for it.
  return [...can.filter((one) => !("photo" in one.press)), ...can.filter((one) => "photo" in one.press)];
}

const isPlan = (press: Press): press is PlanPress => "edit" in press || "changes" in press;

/** What waits of a job and is judged with it. */
const waitingOf = (jobId: string) =>
  waiting.filter(
    (one) =>
      one.jobId === jobId &&
      one.person === person &&
      one.refused === "" &&
      one.contest === null &&
      !("photo" in one.press),
  );

/** Everything that waits, in the order of the press, as far as there is a way. */
async function round(): Promise<void> {
  await lookAgain();
  const touched = new Set<string>();
  let moves = 0;
  for (let one = mine()[0]; one !== undefined && person !== ""; one = mine()[0]) {
    try {
      const answer = await sent(one);
      await dropWaiting(one.id);
      if ("digest" in answer) {
        touched.add(one.jobId);
        // It is kept there: what fails from here on is no word on it, and the hand is taken anew.
        await compare(one, answer).catch(() => letGoOf(one.jobId));
      } else {
        const view = await withWaiting(one.jobId, answer);
        if (awaited.has(one.id)) awaited.set(one.id, view);
        else told(one.jobId, view);
        void refreshed(one.jobId);
      }
    } catch (error) {
      if (isOnItsWay(error)) break;
      const isMoved = error instanceof Refusal && error.report.status === CONFLICT && isPlan(one.press);
      if (isMoved && moves < MOST_MOVES) {
        moves += 1;
        await moved(one.jobId);
      } else if (awaited.has(one.id)) {
        // Whoever pressed it is there, and is told why.
        await dropWaiting(one.id);
        awaited.set(one.id, error as Error);
      } else await notTaken(one, error as Error);
    }
    await lookAgain();
  }
  await lookAgain();
  for (const jobId of touched)
    if (holds(jobId)) await keepHeld(jobId, await api.handSeen(jobId)).catch(() => undefined);
}

/** How often in one round a plan may have moved on under a change before it is left for the next. */
const MOST_MOVES = 5;

async function notTaken(one: Waiting, error: Error): Promise<void> {
  await putWaiting({ ...one, refused: error.message });
  if (holds(one.jobId)) told(one.jobId, await dropHere(one));
}

/** So long after a press the hand may press again: its verdict goes before the comparing. */
const REST_MS = 300;
let pressedAt = 0;
const pause = (time_ms: number) => new Promise((done) => setTimeout(done, time_ms));

/** Whether nothing more of its job is on the way: what comes later is compared with all before it. */
const isLastOf = (one: Waiting) => waitingOf(one.jobId).every(({ id }) => id === one.id);

/** Whether the server found the same: if not, that is said aloud, and the server alone judges from then on. */
async function compare(one: Waiting, brief: Schemas["Brief"]): Promise<void> {
  while (isLastOf(one) && Date.now() - pressedAt < REST_MS) await pause(REST_MS);
  const found = await confirmHere(one, brief, isLastOf(one));
  if (found === "moved") await moved(one.jobId);
  else {
    // Read between two steps of the sky that is carried along, it may differ in its last figure.
    const isOfSky = "clear_sky" in one.press;
    told(one.jobId, { ...(isOfSky ? await lookHere(one.jobId) : {}), revision: brief.revision });
  }
  if (typeof found === "string") return;
  apart = say("shared.this_device_judged_otherwise_than_the");
  await api.judgedApart(one.jobId, { core: brief.core, ...found }).catch(() => undefined);
  stopCore();
  letGoOf(one.jobId);
  told(one.jobId, await api.job(one.jobId));
}

/** Somebody else did something on the job: what waits is brought over it. */
async function moved(jobId: string): Promise<void> {
  const over = await rebaseHere(
    jobId,
    waitingOf(jobId).map((one) => one.id),
  );
  if (over === null) return;
  for (const contest of over.contests) {
    const one = waiting.find((other) => other.id === contest.id);
    if (one !== undefined) await putWaiting({ ...one, contest });
  }
  told(jobId, over.shown);
}

/** The job as it was seen last on this device. */
const shown = async (jobId: string) => (await lastSeen(`job ${jobId}`).catch(() => undefined)) as JobView | undefined;

function made(jobId: string, press: Press, said: string): Waiting {
  const now = Date.now();
  const order = Math.max(now, (waiting.at(-1)?.order ?? 0) + 1);
  const notedAt = new Date(now).toISOString();
  return { id: identity(), jobId, person, press, said, notedAt, order, refused: "", contest: null };
}

/** Takes a job in the hand, once the core is there. */
export async function takeInHand(jobId: string): Promise<boolean> {
  if (holds(jobId)) return true;
  await lookAgain();
  const isTaken = await take(jobId, waitingOf(jobId));
  if (isTaken) {
    // The page may show a copy from before what waits was pressed.
    if (waitingOf(jobId).length > 0) told(jobId, await lookHere(jobId));
    void send();
  }
  return isTaken;
}

/** Writes it down and sends it, judged here. Undefined where this browser keeps nothing. */
async function pressed(one: Waiting): Promise<Partial<JobView> | undefined> {
  pressedAt = Date.now();
  const { shown: view, said } = await pressHere(one);
  one = { ...one, said: one.said === "" ? said : one.said };
  try {
    await putWaiting(one);
  } catch {
    // A browser that keeps nothing judges nothing by itself: it could not go on where it was closed.
    letGoOf(one.jobId);
    return undefined;
  }
  waiting = [...waiting, one];
  watchers.forEach((changed) => changed());
  void send();
  return view;
}

/**
 * Keeps a reading: on the server, and without a way there on this device until there is one. Rejects with what is
 * refused, and where neither keeps it.
 */
export async function keepRead(jobId: string, press: ReadPress, said: string): Promise<Partial<JobView>> {
  const one = made(jobId, press, said);
  if (person === "" || ("reading" in press && onlyWithServer.has(press.reading.kind))) {
    await flushed(jobId);
    const view = await sent(one, false);
    await refreshed(jobId);
    return view;
  }
  if (holds(jobId)) {
    const view = await pressed(one);
    if (view !== undefined) return view;
  }
  return sentOrHere(one);
}

/** Keeps a picture of a step, here until it is on the server. */
export function keepPhoto(jobId: string, photo: Photo, said: string): Promise<Partial<JobView>> {
  return sentOrHere(made(jobId, { photo }, said));
}

/** Sends one and waits for what comes of it; without a way it is kept here. Rejects where neither keeps it. */
async function sentOrHere(one: Waiting): Promise<Partial<JobView>> {
  if (person === "" || !(await putWaiting(one).then(yes, no))) return sent(one);
  awaited.set(one.id, null);
  await send();
  const answer = awaited.get(one.id) ?? null;
  awaited.delete(one.id);
  if (answer instanceof Error) throw answer;
  if (answer !== null) return answer;
  const view = await shown(one.jobId);
  if (view === undefined) throw new Refusal(ONLY_HERE);
  return view;
}

const yes = () => true;
const no = () => false;

/** Changes a plan, judged here; undefined where the server is to say first what comes of it. */
export async function changePlan(jobId: string, press: PlanPress): Promise<Partial<JobView> | undefined> {
  if (person === "" || !holds(jobId)) return undefined;
  try {
    return await pressed(made(jobId, press, ""));
  } catch (error) {
    // The server may know more: sheets of the shelf, and what only it may do.
    if (!(error instanceof Refusal) || !(await flushed(jobId))) throw error;
    return undefined;
  }
}

/** What is said of a reading while it is typed, by the core here; undefined where it does not hold the job. */
export async function tryReading(jobId: string, reading: ReadingIn): Promise<Prompt | undefined> {
  return holds(jobId) ? tryHere(made(jobId, { reading }, "")) : undefined;
}

/** The sun over a job, by the core here; null where it cannot say. */
export async function sunOf(jobId: string): Promise<Schemas["SunView"] | null> {
  return holds(jobId) ? sunHere(jobId) : null;
}

/** How a judgement was found, by the core here; null where it does not hold the job. */
export async function sumOf(jobId: string, rule: string, reason: string): Promise<Schemas["Sum"] | null> {
  return holds(jobId) ? sumHere(jobId, rule, reason) : null;
}

/** Waits until everything of a job is on the server; false where there is no way. */
export async function flushed(jobId: string): Promise<boolean> {
  if (waitingOf(jobId).length === 0) return true;
  await send();
  return waitingOf(jobId).length === 0;
}

/** The server did something on a job by itself: the core here takes its state anew. */
export async function refreshed(jobId: string): Promise<void> {
  if (!holds(jobId)) return;
  try {
    await moved(jobId);
  } catch {
    // What is known here is older than what the server did: nothing is judged on it, here or after a reload.
    letGoOf(jobId);
    await dropSeen(`hand ${jobId}`).catch(() => undefined);
  }
}

/** What the server says of a job, with what waits here made on it. */
export async function withWaiting(jobId: string, view: JobView): Promise<JobView> {
  if (!holds(jobId)) return view;
  // Without signal the view is a copy that was seen; what the core here holds is newer.
  if (waitingOf(jobId).length === 0 && hasSignal()) {
    if (view.revision !== revisionHeld(jobId)) void refreshed(jobId);
    return view;
  }
  return { ...view, ...(await lookHere(jobId)) };
}

const ONLY_HERE = {
  title: say("common.on_this_device"),
  status: NO_STATUS,
  detail: say("shared.it_is_kept_on_this_device"),
  kept: "",
  problems: [],
};

/** Sends one again that was refused, or that met another change: mine is wanted all the same. */
export async function tryAgain(one: Waiting): Promise<void> {
  const again = { ...one, refused: "", contest: null };
  if (holds(one.jobId)) told(one.jobId, (await pressHere(again)).shown);
  await putWaiting(again);
  await send();
}

/** Takes one out that was refused, once somebody has it elsewhere or does not want it. */
export async function letGo(one: Waiting): Promise<void> {
  await dropWaiting(one.id);
  await lookAgain();
}
