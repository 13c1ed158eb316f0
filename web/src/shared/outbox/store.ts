import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import type { Edit, ReadingIn, Schemas } from "../api/types";

export interface FieldChange {
  path: string;
  entered: string;
}

/** A picture or paper of a step, as it is sent. */
export interface Photo {
  file: Blob;
  step: string;
  name: string;
  located: boolean;
}

/** A change of the plan: an edit, or fields of it. */
export type PlanPress = { edit: Edit } | { changes: FieldChange[] };

/** The clear-sky figure of a plane, in the place of a reading. */
export interface ClearSky {
  plane: string;
  at: string | null;
}

/** What is read: typed, or by the sky. */
export type ReadPress = { reading: ReadingIn } | { clear_sky: ClearSky };

/** What was pressed: what is read, a change of the plan, or a picture taken. */
export type Press = ReadPress | { photo: Photo } | PlanPress;

/** A change that meets what somebody else did meanwhile: both stand here, nothing happens by itself. */
export interface Contest {
  id: string;
  met: { path: string; what: string; mine: string; theirs: string }[];
  refused: string;
  mine: Schemas["Judgement"]["verdict"] | "";
  theirs: Schemas["Judgement"]["verdict"];
}

/** What was pressed here and is not known to be on the server. */
export interface Waiting {
  id: string;
  jobId: string;
  /** Who pressed it: it is sent in no other name. */
  person: string;
  press: Press;
  /** What it is, in words. */
  said: string;
  notedAt: string;
  order: number;
  /** Why the server did not take it; empty while it has not said so. */
  refused: string;
  contest: Contest | null;
}

interface Shelf extends DBSchema {
  outbox: { key: string; value: Waiting };
  seen: { key: string; value: { key: string; value: unknown; at: string } };
}

const NAME = "long-noon";
const VERSION = 1;
let opened: Promise<IDBPDatabase<Shelf>> | null = null;

/** The store of this browser. Rejects where it keeps nothing, as in some private windows. */
function store(): Promise<IDBPDatabase<Shelf>> {
  opened ??= openDB<Shelf>(NAME, VERSION, {
    upgrade(database) {
      database.createObjectStore("outbox", { keyPath: "id" });
      database.createObjectStore("seen", { keyPath: "key" });
    },
  }).catch((error: unknown) => {
    opened = null;
    throw error;
  });
  return opened;
}

export async function putWaiting(one: Waiting): Promise<void> {
  await (await store()).put("outbox", one);
}

export async function dropWaiting(id: string): Promise<void> {
  await (await store()).delete("outbox", id);
}

export async function everyWaiting(): Promise<Waiting[]> {
  const every = await (await store()).getAll("outbox");
  return every.sort((a, b) => a.order - b.order);
}

export async function putSeen(key: string, value: unknown): Promise<void> {
  await (await store()).put("seen", { key, value, at: new Date().toISOString() });
}

const LATER_MS = 1_000;
const later = new Map<string, unknown>();

/** Writes down what was seen once the hand rests: the newest of each key. */
export function putSeenLater(key: string, value: unknown): void {
  if (later.size === 0) setTimeout(writeSeenNow, LATER_MS);
  later.set(key, value);
}

/** Writes down at once what was to be written later: the page may be closing. */
export function writeSeenNow(): void {
  // It is only a copy: where this browser keeps nothing, what is shown still counts.
  for (const [key, value] of later) void putSeen(key, value).catch(() => undefined);
  later.clear();
}

export async function lastSeen(key: string): Promise<unknown> {
  return later.get(key) ?? (await (await store()).get("seen", key))?.value;
}

/** What else its key says, of everything seen whose key begins so. */
export async function keysSeen(begins: string): Promise<string[]> {
  const keys = await (await store()).getAllKeys("seen");
  return keys.filter((key) => key.startsWith(begins)).map((key) => key.slice(begins.length));
}

export async function dropSeen(key: string): Promise<void> {
  await (await store()).delete("seen", key);
}

/** What was seen is one person's; what waits to be sent stays. */
export async function forgetSeen(): Promise<void> {
  later.clear();
  await (await store()).clear("seen");
}
