import { seen } from "../outbox/seen";
import { forgetSeen, lastSeen, type FieldChange } from "../outbox/store";
import { Refusal, asReport, client, take } from "./transport";
import type {
  Schemas,
  GoodsIn,
  RehearseIn,
  ReadingIn,
  SentClearSky,
  SentReading,
  Answers,
  Edit,
  PlaneModules,
  PackIn,
  Kind,
  BenchIn,
  MemberIn,
} from "./types";

const at = (id: string) => ({ params: { path: { job_id: id } } });
const begunAt = (id: string) => ({ params: { path: { begun_id: id } } });
const of = (kind: Kind) => ({ params: { path: { kind } } });
/** A device that judges by itself is told briefly what came of it. */
const preferring = (briefly: boolean) => (briefly ? { Prefer: "return=minimal" } : {});
/** A job as a device takes it along to judge it by itself. */
export type Given = Schemas["Given"];
/** A file is sent as it is. */
const asFile = (file: Blob, type: string) => ({
  body: file as never,
  bodySerializer: (body: unknown) => body as Blob,
  headers: { "Content-Type": type },
});

export const api = {
  session: () => seen("session", take(client.GET("/api/session"))),
  standing: () => take(client.GET("/api/standing")),
  signIn: (username: string, password: string) => take(client.POST("/api/session", { body: { username, password } })),
  signInDemo: () => take(client.POST("/api/session/demo")),
  signInCode: (code: string) => take(client.POST("/api/session/code", { body: { code } })),
  passkeyOptions: () => take(client.POST("/api/session/passkey/options")),
  signInPasskey: (answer: Record<string, unknown>) =>
    take(client.POST("/api/session/passkey", { body: { answer, name: "" } })),
  account: () => take(client.GET("/api/account")),
  changePassword: (old: string, fresh: string) =>
    take(client.POST("/api/account/password", { body: { old, new: fresh } })),
  endSession: (number: number) =>
    take(client.DELETE("/api/account/sessions/{number}", { params: { path: { number } } })),
  beginCode: () => take(client.POST("/api/account/code")),
  confirmCode: (code: string) => take(client.POST("/api/account/code/confirm", { body: { code } })),
  removeCode: () => take(client.DELETE("/api/account/code")),
  beginPasskey: () => take(client.POST("/api/account/passkeys/options")),
  keepPasskey: (answer: Record<string, unknown>, name: string) =>
    take(client.POST("/api/account/passkeys", { body: { answer, name } })),
  removePasskey: (number: number) =>
    take(client.DELETE("/api/account/passkeys/{number}", { params: { path: { number } } })),
  people: () => take(client.GET("/api/people")),
  invite: (name: string, role: string) => take(client.POST("/api/people/invitations", { body: { name, role } })),
  withdrawInvitation: (number: number) =>
    take(client.DELETE("/api/people/invitations/{number}", { params: { path: { number } } })),
  changeMember: (number: number, body: MemberIn) =>
    take(client.PATCH("/api/people/{number}", { params: { path: { number } }, body })),
  memberLeaves: (number: number) => take(client.POST("/api/people/{number}/leave", { params: { path: { number } } })),
  resetMember: (number: number) => take(client.POST("/api/people/{number}/reset", { params: { path: { number } } })),
  ticket: (ticket: string) => take(client.GET("/api/join", { params: { query: { ticket } } })),
  join: (ticket: string, username: string, password: string) =>
    take(client.POST("/api/join", { params: { query: { ticket } }, body: { username, name: "", password } })),
  audit: (job: string, person: string, before: number) =>
    take(
      client.GET("/api/audit", {
        params: { query: { job: job === "" ? null : job, person: person === "" ? null : Number(person), before } },
      }),
    ),
  guests: (id: string) => take(client.GET("/api/jobs/{job_id}/guests", at(id))),
  inviteGuest: (id: string, name: string, endsOn: string) =>
    take(client.POST("/api/jobs/{job_id}/guests", { ...at(id), body: { name, ends_on: endsOn } })),
  endGuest: (id: string, number: number) =>
    take(client.DELETE("/api/jobs/{job_id}/guests/{number}", { params: { path: { job_id: id, number } } })),
  guestRecord: (ticket: string) => take(client.GET("/api/guest", { params: { query: { ticket } } })),
  erase: async (id: string, name: string, why: string) => {
    const { error, response } = await client.POST("/api/jobs/{job_id}/erase", { ...at(id), body: { name, why } });
    if (error !== undefined) throw new Refusal(asReport(error, response.status));
  },
  day: (id: string, goal: Schemas["DayView"]["goal"], fromNow: boolean, atOnce = false) =>
    take(
      client.GET("/api/jobs/{job_id}/day", {
        params: { path: { job_id: id }, query: { goal, from_now: fromNow, at_once: atOnce } },
      }),
    ),
  dayRelax: (id: string, fromNow: boolean) =>
    take(
      client.GET("/api/jobs/{job_id}/day/relax", {
        params: { path: { job_id: id }, query: { from_now: fromNow } },
      }),
    ),
  weeks: (first: string | null, weeks: number) =>
    take(client.GET("/api/weeks", { params: { query: first === null ? { weeks } : { first, weeks } } })),
  proposeVisits: (jobs: string[], first: string, signal: AbortSignal) =>
    take(client.POST("/api/weeks/propose", { body: { jobs, first }, signal })),
  keepAbsence: (body: Schemas["AbsenceIn"]) => take(client.POST("/api/weeks/absences", { body })),
  endAbsence: (number: number) => take(client.DELETE("/api/weeks/absences/{number}", { params: { path: { number } } })),
  takeBusy: (who: string, file: File) =>
    take(
      client.POST("/api/weeks/busy", {
        params: { query: { who, file_name: file.name.slice(0, 60) } },
        ...asFile(file, "text/calendar"),
      }),
    ),
  tryDay: (id: string, body: Schemas["LookIn"]) => take(client.POST("/api/jobs/{job_id}/day", { ...at(id), body })),
  signing: (id: string) => take(client.GET("/api/jobs/{job_id}/signing", at(id))),
  sign: (id: string, body: Schemas["SignatureIn"]) =>
    take(client.POST("/api/jobs/{job_id}/signing", { ...at(id), body })),
  keepYield: (id: string, body: Schemas["YieldIn"]) =>
    take(client.POST("/api/jobs/{job_id}/yield", { ...at(id), body })),
  keepYieldCounter: (id: string, body: Schemas["CounterIn"]) =>
    take(client.POST("/api/jobs/{job_id}/yield/counter", { ...at(id), body })),
  keepYieldFile: (id: string, file: File, query: { unit: string; share: string; t_air_c: string; note: string }) =>
    take(
      client.POST("/api/jobs/{job_id}/yield/file", {
        params: { path: { job_id: id }, query },
        ...asFile(file, "text/csv"),
      }),
    ),
  countersign: (id: string, readings: string[]) =>
    take(client.POST("/api/jobs/{job_id}/countersign", { ...at(id), body: { readings } })),
  signOut: async () => {
    const left = await take(client.DELETE("/api/session"));
    await forgetSeen().catch(() => undefined);
    return left;
  },
  shelf: () => seen("shelf", take(client.GET("/api/shelf"))),
  jobs: () => seen("jobs", take(client.GET("/api/jobs"))),
  begunLines: () => seen("begun", take(client.GET("/api/begin"))),
  begun: (id: string) => take(client.GET("/api/begin/{begun_id}", begunAt(id))),
  answer: (id: string, body: Answers) => take(client.PUT("/api/begin/{begun_id}", { ...begunAt(id), body })),
  putAway: (id: string) => take(client.DELETE("/api/begin/{begun_id}", begunAt(id))),
  jobFromBegun: (id: string) => take(client.POST("/api/begin/{begun_id}/job", begunAt(id))),
  spots: (typed: string) => take(client.GET("/api/begin/places", { params: { query: { typed } } })),
  spotAt: (latitude_deg: number, longitude_deg: number) =>
    take(client.GET("/api/begin/places/at", { params: { query: { latitude_deg, longitude_deg } } })),
  dots: (box: { south: number; west: number; north: number; east: number }) =>
    take(client.GET("/api/begin/places/map", { params: { query: box } })),
  roofTable: (text: string) => take(client.POST("/api/begin/roof-table", { body: { text } })),
  climates: (latitude_deg: number, longitude_deg: number) =>
    take(client.GET("/api/shelf/climates", { params: { query: { latitude_deg, longitude_deg } } })),
  job: (id: string) => seen(`job ${id}`, take(client.GET("/api/jobs/{job_id}", at(id)))),
  example: () => seen("example", take(client.GET("/api/jobs/example"))),
  sun: (id: string) => seen(`sun ${id}`, take(client.GET("/api/jobs/{job_id}/sun", at(id)))),
  change: (id: string, revision: number, changes: { path: string; entered: string }[]) =>
    take(client.POST("/api/jobs/{job_id}/changes", { ...at(id), body: { revision, changes } })),
  edit: (id: string, revision: number, edit: Edit) =>
    take(client.POST("/api/jobs/{job_id}/edits", { ...at(id), body: { revision, edit } })),
  arrangements: (id: string, planes: PlaneModules[], signal: AbortSignal) =>
    take(client.POST("/api/jobs/{job_id}/arrangements", { ...at(id), body: { planes }, signal })),
  places: (id: string, name: string, signal: AbortSignal) =>
    take(client.POST("/api/jobs/{job_id}/places", { ...at(id), body: { name }, signal })),
  branches: (id: string) => take(client.GET("/api/jobs/{job_id}/branches", at(id))),
  takeUnitList: (id: string, body: Schemas["UnitListIn"]) =>
    take(client.POST("/api/jobs/{job_id}/gateway/list", { ...at(id), body })),
  followGateway: (id: string) => take(client.POST("/api/jobs/{job_id}/gateway/live", at(id))),
  registerPlant: (id: string) => take(client.POST("/api/jobs/{job_id}/portal/plant", at(id))),
  lookAtMeter: (id: string, step: string, signal: AbortSignal) =>
    take(client.POST("/api/jobs/{job_id}/meter", { ...at(id), body: { step }, signal })),
  lookAtPortal: (id: string, signal: AbortSignal) =>
    take(client.POST("/api/jobs/{job_id}/portal", { ...at(id), signal })),
  lookAtGateway: (id: string, signal: AbortSignal) =>
    take(client.POST("/api/jobs/{job_id}/gateway", { ...at(id), signal })),
  takeSerialMap: (id: string, file: File) =>
    take(
      client.POST("/api/jobs/{job_id}/serial-map/file", {
        params: { path: { job_id: id }, query: { file_name: file.name } },
        ...asFile(file, "application/octet-stream"),
      }),
    ),
  wallSun: (id: string) => seen(`wall-sun ${id}`, take(client.GET("/api/jobs/{job_id}/wall-sun", at(id)))),
  countGoods: (id: string, lines: GoodsIn[]) =>
    take(client.POST("/api/jobs/{job_id}/goods", { ...at(id), body: { lines } })),
  keepEvidence: (id: string, file: Blob, step: string, name: string, keepLocation: boolean, press: string) =>
    take(
      client.POST("/api/jobs/{job_id}/evidence", {
        params: { path: { job_id: id }, query: { step, name, keep_location: keepLocation, id: press } },
        ...asFile(file, "application/octet-stream"),
      }),
    ),
  offers: (id: string) => take(client.GET("/api/jobs/{job_id}/offers", at(id))),
  sum: (id: string, rule: string, reason: string) =>
    take(client.GET("/api/jobs/{job_id}/sum", { params: { path: { job_id: id }, query: { rule, reason } } })),
  figures: (id: string) => take(client.GET("/api/jobs/{job_id}/figures", at(id))),
  sheets: (kind: Kind, find: string) =>
    take(client.GET("/api/shelf/{kind}", { params: { path: { kind }, query: { find } } })),
  sheet: (kind: Kind, id: string) =>
    take(client.GET("/api/shelf/{kind}/sheets/{sheet_id}", { params: { path: { kind, sheet_id: id } } })),
  libraryEntry: (kind: Kind, entry: number) =>
    take(client.GET("/api/shelf/{kind}/library/{entry_id}", { params: { path: { kind, entry_id: entry } } })),
  columns: (kind: Kind) => take(client.GET("/api/shelf/{kind}/columns", of(kind))),
  keepSheet: (kind: Kind, cells: { name: string; text: string }[], asGiven: boolean) =>
    take(client.POST("/api/shelf/{kind}", { ...of(kind), body: { cells, as_given: asGiven } })),
  withdraw: (kind: Kind, id: string) => take(client.POST("/api/shelf/{kind}/withdraw", { ...of(kind), body: { id } })),
  pack: (id: string) => take(client.GET("/api/shelf/packs/{pack_id}", { params: { path: { pack_id: id } } })),
  keepPack: (body: PackIn) => take(client.POST("/api/shelf/packs", { body })),
  climate: (file: File) =>
    take(
      client.POST("/api/shelf/climate", {
        params: { query: { file_name: file.name } },
        ...asFile(file, "application/octet-stream"),
      }),
    ),
  label: (kind: Kind, file: File, signal: AbortSignal) =>
    take(
      client.POST("/api/shelf/{kind}/label", {
        params: { path: { kind } },
        signal,
        ...asFile(file, "application/octet-stream"),
      }),
    ),
  bench: (body: BenchIn) => take(client.POST("/api/bench", { body })),
  hand: (id: string) => seen(`hand ${id}`, take(client.GET("/api/jobs/{job_id}/hand", at(id)))),
  /** A job as the server has it by now: what was taken along before does not stand in for it. */
  handNow: (id: string) => take(client.GET("/api/jobs/{job_id}/hand", at(id))),
  /** What was taken along of a job last. */
  handSeen: async (id: string) => (await lastSeen(`hand ${id}`)) as Given,
  sendReading: (id: string, body: SentReading, briefly: boolean) =>
    take(
      client.POST("/api/jobs/{job_id}/readings", {
        ...at(id),
        body: { device: "", ...body },
        headers: preferring(briefly),
      }),
    ),
  sendPlan: (id: string, press: string, what: { edit: Edit } | { changes: FieldChange[] }, revision: number) => {
    const more = { revision, id: press };
    const headers = preferring(true);
    return "edit" in what
      ? take(client.POST("/api/jobs/{job_id}/edits", { ...at(id), body: { ...what, ...more }, headers }))
      : take(client.POST("/api/jobs/{job_id}/changes", { ...at(id), body: { ...what, ...more }, headers }));
  },
  undo: (id: string, revision: number, of: number) =>
    take(client.POST("/api/jobs/{job_id}/undo", { ...at(id), body: { revision, of } })),
  history: (id: string) => take(client.GET("/api/jobs/{job_id}/history", at(id))),
  judgedApart: (id: string, body: Schemas["ApartIn"]) =>
    take(client.POST("/api/jobs/{job_id}/apart", { ...at(id), body })),
  tryReading: (id: string, body: ReadingIn) =>
    take(client.POST("/api/jobs/{job_id}/readings/try", { ...at(id), body: { ...body, device: "" } })),
  sendClearSky: (id: string, body: SentClearSky, briefly: boolean) =>
    take(
      client.POST("/api/jobs/{job_id}/readings/clear-sky", {
        ...at(id),
        body: { device: "", ...body },
        headers: preferring(briefly),
      }),
    ),
  writeProfile: (id: string) => take(client.POST("/api/jobs/{job_id}/settings", at(id))),
  lookAtSettings: (id: string) => take(client.POST("/api/jobs/{job_id}/settings/look", at(id))),
  watchLive: (id: string) => take(client.POST("/api/jobs/{job_id}/live", at(id))),
  liftLock: (id: string, key: string, reason: string, lock: string) =>
    take(client.POST("/api/jobs/{job_id}/overrides", { ...at(id), body: { key, reason, lock } })),
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
  takeTests: (id: string, instrument: string, file: File) =>
    take(
      client.POST("/api/jobs/{job_id}/tests/file", {
        params: { path: { job_id: id }, query: { instrument, file_name: file.name } },
        ...asFile(file, "application/octet-stream"),
      }),
    ),
  takeIn: (file: File, asCopy: boolean, signal: AbortSignal) =>
    take(
      client.POST("/api/jobs/file", {
        params: { query: { as_copy: asCopy, file_name: file.name } },
        signal,
        ...asFile(file, "application/octet-stream"),
      }),
    ),
};
