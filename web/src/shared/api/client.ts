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
export type Evidence = Schemas["Evidence"];
export type ArriveStage = Schemas["ArriveStage"];
export type LoadInLine = Schemas["LoadInLine"];
export type HangStage = Schemas["HangStage"];
export type HungDevice = Schemas["HungDevice"];
export type EarthStage = Schemas["EarthStage"];
export type EarthLinkState = Schemas["EarthLinkState"];
export type Gate = Schemas["Gate"];
export type Wall = Schemas["Wall"];
export type WallObject = Schemas["WallObject"];
export type WallDevice = Schemas["WallDevice"];
export type WallPlace = Schemas["WallPlace"];
export type EarthLink = Schemas["EarthLink"];
export type Earthing = Schemas["Earthing"];
export type Arrival = Schemas["Arrival"];
export type GoodsIn = Schemas["GoodsIn"];
export type StringStage = Schemas["StringStage"];
export type RoofStage = Schemas["RoofStage"];
export type RoofPlane = Schemas["RoofPlane"];
export type RoofModule = Schemas["RoofModule"];
export type UnitState = Schemas["UnitState"];
export type BranchState = Schemas["BranchState"];
export type SwapStep = Schemas["SwapStep"];
export type StringAssessment = Schemas["StringAssessment"];
export type FeedStage = Schemas["FeedStage"];
export type FeedPlan = Schemas["FeedPlan"];
export type FeedDevice = Schemas["FeedDevice"];
export type AcRun = Schemas["AcRun"];
export type Containment = Schemas["Containment"];
export type BackupPlan = Schemas["BackupPlan"];
export type GridStage = Schemas["GridStage"];
export type ProveStage = Schemas["ProveStage"];
export type TestState = Schemas["TestState"];
export type TestGroup = Schemas["TestGroup"];
export type InstrumentState = Schemas["InstrumentState"];
export type Instrument = Schemas["Instrument"];
export type FileLook = Schemas["FileLook"];
export type WakeStage = Schemas["WakeStage"];
export type WakePhase = Schemas["WakePhase"];
export type WakeStep = Schemas["WakeStep"];
export type SwitchStanding = Schemas["SwitchStanding"];
export type LightMeaning = Schemas["LightMeaning"];
export type RehearseIn = Schemas["RehearseIn"];
export type ActIn = Schemas["ActIn"];
export type Rehearsal = Schemas["Rehearsal"];
export type Watched = Schemas["Watched"];
export type GridResponse = Schemas["Response"];
export type StageStanding = Schemas["StageStanding"];
export type SunView = Schemas["SunView"];
export type ShelfView = Schemas["ShelfView"];
export type Choice = Schemas["Choice"];
export type Session = Schemas["Session"];
export type Problem = Schemas["Problem"];
export type ProblemReport = Schemas["ProblemReport"];
export type ReadingIn = Schemas["ReadingIn"];
export type NewJobIn = Schemas["NewJob"];
export type Plan = Schemas["Plan"];
export type Plane = Schemas["Plane"];
export type ModulePlace = Schemas["ModulePlace"];
export type StringPlan = Schemas["StringPlan"];
export type WindowLimits = Schemas["WindowLimits"];
export type Edit = Schemas["EditIn"]["edit"];
export type Arrangement = Schemas["Arrangement"];
export type Arrangements = Schemas["Arrangements"];
export type PlaneModules = Schemas["PlaneModules"];
export type SheetOffer = Schemas["SheetOffer"];
export type PackView = Schemas["PackView"];
export type PackFigure = Schemas["PackFigure"];
export type PackIn = Schemas["PackIn"];
export type Climate = Schemas["Climate"];
export type Kind = Schemas["KindLine"]["kind"];
export type SheetLine = Schemas["SheetLine"];
export type SheetView = Schemas["SheetView"];
export type Column = Schemas["Column"];
export type BenchIn = Schemas["BenchIn"];
export type BenchVerdict = Schemas["BenchVerdict"];

/** What the server refused, with each problem's path, value and allowed range. */
export class Refusal extends Error {
  constructor(readonly report: ProblemReport) {
    super(report.detail);
  }
}

const csrfToken = () => /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1];

const csrf: Middleware = {
  onRequest({ request }) {
    const token = csrfToken();
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
const of = (kind: Kind) => ({ params: { path: { kind } } });
/** A file is sent as it is. */
const asFile = (file: Blob, type: string) => ({
  body: file as never,
  bodySerializer: (body: unknown) => body as Blob,
  headers: { "Content-Type": type },
});

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
  edit: (id: string, revision: number, edit: Edit) =>
    take(client.POST("/api/jobs/{job_id}/edits", { ...at(id), body: { revision, edit } })),
  arrangements: (id: string, planes: PlaneModules[]) =>
    take(client.POST("/api/jobs/{job_id}/arrangements", { ...at(id), body: { planes } })),
  places: (id: string, name: string) =>
    take(client.POST("/api/jobs/{job_id}/places", { ...at(id), body: { name } })),
  branches: (id: string) => take(client.GET("/api/jobs/{job_id}/branches", at(id))),
  lookAtGateway: (id: string) => take(client.POST("/api/jobs/{job_id}/gateway", at(id))),
  takeSerialMap: (id: string, file: Blob) =>
    take(client.POST("/api/jobs/{job_id}/serial-map/file", { ...at(id), ...asFile(file, "application/octet-stream") })),
  wallSun: (id: string) => take(client.GET("/api/jobs/{job_id}/wall-sun", at(id))),
  countGoods: (id: string, lines: GoodsIn[]) =>
    take(client.POST("/api/jobs/{job_id}/goods", { ...at(id), body: { lines } })),
  keepEvidence: (id: string, file: Blob, step: string, name: string, keepLocation: boolean) =>
    take(
      client.POST("/api/jobs/{job_id}/evidence", {
        params: { path: { job_id: id }, query: { step, name, keep_location: keepLocation } },
        ...asFile(file, "application/octet-stream"),
      }),
    ),
  offers: (id: string) => take(client.GET("/api/jobs/{job_id}/offers", at(id))),
  figures: (id: string) => take(client.GET("/api/jobs/{job_id}/figures", at(id))),
  sheets: (kind: Kind, find: string) =>
    take(client.GET("/api/shelf/{kind}", { params: { path: { kind }, query: { find } } })),
  sheet: (kind: Kind, id: string) =>
    take(client.GET("/api/shelf/{kind}/sheets/{sheet_id}", { params: { path: { kind, sheet_id: id } } })),
  columns: (kind: Kind) => take(client.GET("/api/shelf/{kind}/columns", of(kind))),
  keepSheet: (kind: Kind, cells: { name: string; text: string }[], asGiven: boolean) =>
    take(client.POST("/api/shelf/{kind}", { ...of(kind), body: { cells, as_given: asGiven } })),
  withdraw: (kind: Kind, id: string) =>
    take(client.POST("/api/shelf/{kind}/withdraw", { ...of(kind), body: { id } })),
  pack: (id: string) => take(client.GET("/api/shelf/packs/{pack_id}", { params: { path: { pack_id: id } } })),
  keepPack: (body: PackIn) => take(client.POST("/api/shelf/packs", { body })),
  climate: (file: File) =>
    take(
      client.POST("/api/shelf/climate", {
        params: { query: { file_name: file.name } },
        ...asFile(file, "application/octet-stream"),
      }),
    ),
  bench: (body: BenchIn) => take(client.POST("/api/bench", { body })),
  jobFromBench: (job: NewJobIn, bench: BenchIn) =>
    take(client.POST("/api/bench/job", { body: { job, bench } })),
  keep: (id: string, body: ReadingIn) =>
    take(client.POST("/api/jobs/{job_id}/readings", { ...at(id), body })),
  tryReading: (id: string, body: ReadingIn) =>
    take(client.POST("/api/jobs/{job_id}/readings/try", { ...at(id), body })),
  clearSky: (id: string, plane: string, moment: string | null) =>
    take(client.POST("/api/jobs/{job_id}/readings/clear-sky", { ...at(id), body: { plane, at: moment } })),
  writeProfile: (id: string) => take(client.POST("/api/jobs/{job_id}/settings", at(id))),
  lookAtSettings: (id: string) => take(client.POST("/api/jobs/{job_id}/settings/look", at(id))),
  watchLive: (id: string) => take(client.POST("/api/jobs/{job_id}/live", at(id))),
  liftLock: (id: string, key: string, reason: string) =>
    take(client.POST("/api/jobs/{job_id}/overrides", { ...at(id), body: { key, reason } })),
  rehearse: (id: string, body: RehearseIn) => take(client.POST("/api/jobs/{job_id}/rehearsal", { ...at(id), body })),
  testersUsed: (id: string) => take(client.GET("/api/jobs/{job_id}/testers", at(id))),
  testColumns: (id: string) => take(client.GET("/api/jobs/{job_id}/tests/columns", at(id))),
  lookAtTests: (id: string, instrument: string, file: Blob) =>
    take(
      client.POST("/api/jobs/{job_id}/tests/look", {
        params: { path: { job_id: id }, query: { instrument } },
        ...asFile(file, "application/octet-stream"),
      }),
    ),
  takeTests: (id: string, instrument: string, file: Blob) =>
    take(
      client.POST("/api/jobs/{job_id}/tests/file", {
        params: { path: { job_id: id }, query: { instrument } },
        ...asFile(file, "application/octet-stream"),
      }),
    ),
  takeIn: (file: Blob, asCopy: boolean) =>
    take(
      client.POST("/api/jobs/file", {
        params: { query: { as_copy: asCopy } },
        ...asFile(file, "application/octet-stream"),
      }),
    ),
};

export type TakingIn =
  | { checked: number; rows: number }
  | { kept: number; doubled_rows: number[] }
  | { problems: Problem[]; said: string };

/** A file of sheets taken in: a step for each line that the server answers, as it comes. */
export async function takeInSheets(kind: Kind, file: File, asGiven: boolean, step: (one: TakingIn) => void): Promise<void> {
  const headers = new Headers({ "Content-Type": "application/octet-stream" });
  const token = csrfToken();
  if (token !== undefined) headers.set("X-CSRFToken", token);
  const answer = await fetch(`/api/shelf/${kind}/file?as_given=${asGiven}`, { method: "POST", body: file, headers }).catch(() => {
    throw new Refusal(NO_ANSWER);
  });
  if (!answer.ok || answer.body === null) throw new Refusal(asReport(await answer.json().catch(() => null), answer.status));
  const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  for (;;) {
    const { value, done } = await reader.read();
    const lines = (rest + (value ?? "")).split("\n");
    rest = lines.pop() ?? "";
    lines.filter((line) => line !== "").forEach((line) => step(JSON.parse(line) as TakingIn));
    if (done) return;
  }
}

export const templateUrl = (kind: Kind) => `/api/shelf/${kind}/template`;
export const shelfFileUrl = (kind: Kind, form: "csv" | "json") => `/api/shelf/${kind}/file?form=${form}`;
export const fileUrl = (id: string) => `/api/jobs/${id}/file`;
export const loadInUrl = (id: string) => `/api/jobs/${id}/load-in`;
export const bundleUrl = (id: string) => `/api/jobs/${id}/bundle`;
export const energyPathUrl = (id: string, form: "svg" | "pdf" | "dxf") => `/api/jobs/${id}/energy-path?form=${form}`;
export const serialMapUrl = (id: string, form: "csv" | "json" | "svg" | "pdf") => `/api/jobs/${id}/serial-map?form=${form}`;
export const testRecordUrl = (id: string) => `/api/jobs/${id}/tests/record`;
export const testTemplateUrl = (id: string) => `/api/jobs/${id}/tests/template`;
export const drillSheetUrl = (id: string) => `/api/jobs/${id}/drill-sheet`;
export const evidenceUrl = (id: string, evidence: string) => `/api/jobs/${id}/evidence/${evidence}`;
export const recordUrl = (id: string) => `/api/jobs/${id}/record`;
export const recordPageUrl = (id: string, page: number, mark: string) =>
  `/api/jobs/${id}/record/pages/${page}?of=${encodeURIComponent(mark)}`;
