import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type JobView = Schemas["JobView"];
export type JobLine = Schemas["JobLine"];
export type Assessment = Schemas["Assessment"];
export type Ask = Schemas["Ask"];
export type Judgement = Schemas["Judgement"];
export type Verdict = Judgement["verdict"];
export type KeptReading = Schemas["KeptReading"];
export type StringStage = Schemas["StringStage"];
export type StringAssessment = Schemas["StringAssessment"];
export type FeedStage = Schemas["FeedStage"];
export type GridStage = Schemas["GridStage"];
export type StageStanding = Schemas["StageStanding"];
export type SunView = Schemas["SunView"];
export type ShelfView = Schemas["ShelfView"];
export type Choice = Schemas["Choice"];
export type Session = Schemas["Session"];
export type Problem = Schemas["Problem"];
export type ProblemReport = Schemas["ProblemReport"];
export type ReadingIn = Schemas["ReadingIn"];
export type NewJobIn = Schemas["NewJobIn"];

/** What the server refused, with each problem's path, value and allowed range. */
export class Refusal extends Error {
  constructor(readonly report: ProblemReport) {
    super(report.detail);
  }
}

const csrf: Middleware = {
  onRequest({ request }) {
    const token = /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1];
    if (token !== undefined && request.method !== "GET") request.headers.set("X-CSRFToken", token);
    return request;
  },
};

const client = createClient<paths>({ baseUrl: "/" });
client.use(csrf);

const NO_ANSWER: ProblemReport = {
  title: "No answer",
  status: 0,
  detail: "The server does not answer. Check the connection; what you typed is still here.",
  kept: "",
  problems: [],
};

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

function asReport(error: unknown, status: number): ProblemReport {
  const known = typeof error === "object" && error !== null && "detail" in error && "problems" in error;
  return known ? (error as ProblemReport) : { ...NO_ANSWER, status };
}

async function take<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch {
    throw new Refusal(NO_ANSWER);
  }
  if (answer.data === undefined) throw new Refusal(asReport(answer.error, answer.response.status));
  return answer.data;
}

const at = (id: string) => ({ params: { path: { job_id: id } } });

export const api = {
  session: () => take(client.GET("/api/session")),
  signIn: (username: string, password: string) =>
    take(client.POST("/api/session", { body: { username, password } })),
  signInDemo: () => take(client.POST("/api/session/demo")),
  signOut: () => take(client.DELETE("/api/session")),
  shelf: () => take(client.GET("/api/shelf")),
  jobs: () => take(client.GET("/api/jobs")),
  createJob: (body: NewJobIn) => take(client.POST("/api/jobs", { body })),
  job: (id: string) => take(client.GET("/api/jobs/{job_id}", at(id))),
  sun: (id: string) => take(client.GET("/api/jobs/{job_id}/sun", at(id))),
  change: (id: string, revision: number, changes: { path: string; entered: string }[]) =>
    take(client.POST("/api/jobs/{job_id}/changes", { ...at(id), body: { revision, changes } })),
  keep: (id: string, body: ReadingIn) =>
    take(client.POST("/api/jobs/{job_id}/readings", { ...at(id), body })),
  tryReading: (id: string, body: ReadingIn) =>
    take(client.POST("/api/jobs/{job_id}/readings/try", { ...at(id), body })),
  clearSky: (id: string, plane: string, moment: string | null) =>
    take(client.POST("/api/jobs/{job_id}/readings/clear-sky", { ...at(id), body: { plane, at: moment } })),
  writeProfile: (id: string) => take(client.POST("/api/jobs/{job_id}/settings", at(id))),
  takeIn: (file: Blob, asCopy: boolean) =>
    take(
      client.POST("/api/jobs/file", {
        params: { query: { as_copy: asCopy } },
        body: file as never,
        bodySerializer: (body: unknown) => body as Blob,
        headers: { "Content-Type": "application/json" },
      }),
    ),
};

export const fileUrl = (id: string) => `/api/jobs/${id}/file`;
export const recordUrl = (id: string) => `/api/jobs/${id}/record`;
export const recordPageUrl = (id: string, page: number, mark: string) =>
  `/api/jobs/${id}/record/pages/${page}?of=${encodeURIComponent(mark)}`;
