import createClient, { type Middleware } from "openapi-fetch";
import type { paths } from "./schema";
import { hearClock } from "../hand/clock";
import { signalIs } from "../outbox/signal";
import { Stopped } from "./stopping";
import type { ProblemReport } from "./types";
import { say } from "../../words/say";

/** What the server refused, with each problem's path, value and allowed range. */
export class Refusal extends Error {
  constructor(readonly report: ProblemReport) {
    super(report.detail);
  }
}

export const csrfToken = () => /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1];

const csrf: Middleware = {
  onRequest({ request }) {
    const token = csrfToken();
    if (token !== undefined && request.method !== "GET") request.headers.set("X-CSRFToken", token);
    return request;
  },
};

export const client = createClient<paths>({ baseUrl: "/" });
client.use(csrf);
client.use({
  onResponse({ response }) {
    hearClock(response.headers.get("Date"));
  },
});

export const NO_ANSWER: ProblemReport = {
  title: say("shared.no_answer"),
  status: 0,
  detail: say("shared.the_server_does_not_answer_check"),
  kept: "",
  problems: [],
};

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

export function asReport(error: unknown, status: number): ProblemReport {
  const known = typeof error === "object" && error !== null && "detail" in error && "problems" in error;
  return known ? (error as ProblemReport) : { ...NO_ANSWER, status };
}

/** Why a call came to no answer: it was stopped, or there is no signal. */
export function ended(failed: unknown): Error {
  if (failed instanceof DOMException && failed.name === "AbortError") return new Stopped();
  signalIs(false);
  return new Refusal(NO_ANSWER);
}

/** A file of the server and the name it gives it. */
export async function fileFrom(url: string, signal: AbortSignal): Promise<{ name: string; data: Blob }> {
  try {
    const answer = await fetch(url, { signal });
    signalIs(true);
    if (!answer.ok) throw new Refusal(asReport(await answer.json().catch(() => null), answer.status));
    const name = /filename="([^"]+)"/.exec(answer.headers.get("Content-Disposition") ?? "")?.[1];
    return { name: name ?? "file", data: await answer.blob() };
  } catch (failed) {
    throw failed instanceof Refusal ? failed : ended(failed);
  }
}

export async function take<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch (failed) {
    throw ended(failed);
  }
  signalIs(true);
  if (answer.data === undefined) throw new Refusal(asReport(answer.error, answer.response.status));
  return answer.data;
}
