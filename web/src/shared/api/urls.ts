import type { Kind } from "./types";

export const templateUrl = (kind: Kind) => `/api/shelf/${kind}/template`;
export const shelfFileUrl = (kind: Kind, form: "csv" | "json") => `/api/shelf/${kind}/file?form=${form}`;
export const fileUrl = (id: string) => `/api/jobs/${id}/file`;
export const loadInUrl = (id: string) => `/api/jobs/${id}/load-in`;
export const bundleUrl = (id: string) => `/api/jobs/${id}/bundle`;
export const energyPathUrl = (id: string, form: "svg" | "pdf" | "dxf") => `/api/jobs/${id}/energy-path?form=${form}`;
export const serialMapUrl = (id: string, form: "csv" | "json" | "svg" | "pdf") =>
  `/api/jobs/${id}/serial-map?form=${form}`;
export const testRecordUrl = (id: string) => `/api/jobs/${id}/tests/record`;
export const testTemplateUrl = (id: string) => `/api/jobs/${id}/tests/template`;
export const drillSheetUrl = (id: string) => `/api/jobs/${id}/drill-sheet`;
export const evidenceUrl = (id: string, evidence: string) => `/api/jobs/${id}/evidence/${evidence}`;
export const recordUrl = (id: string) => `/api/jobs/${id}/record`;
export const recordPageUrl = (id: string, page: number, mark: string) =>
  `/api/jobs/${id}/record/pages/${page}?of=${encodeURIComponent(mark)}`;
export const recordPartUrl = (id: string, part: string) => `/api/jobs/${id}/record/parts/${part}`;
export const ownerUrl = (id: string, part: "" | "owner" | "card" | "warranty") =>
  `/api/jobs/${id}/owner${part === "" ? "" : `?part=${part}`}`;
export const labelsUrl = (id: string) => `/api/jobs/${id}/labels`;
export const labelUrl = (id: string, key: string) => `/api/jobs/${id}/label?key=${encodeURIComponent(key)}`;
export const serialsUrl = (id: string) => `/api/jobs/${id}/serials`;
export const dossierUrl = (id: string, form: "pdf" | "zip") => `/api/jobs/${id}/dossier?form=${form}`;
export const supportUrl = (id: string, personal: boolean) => `/api/jobs/${id}/support?personal=${String(personal)}`;
export const signedUrl = (id: string, number: number) => `/api/jobs/${id}/signing/${number}`;
export const dayFileUrl = (id: string, form: "sheet" | "tasks" | "calendar") => `/api/jobs/${id}/day/${form}`;
export const calendarUrl = (who: string) => `/api/weeks/calendar${who === "" ? "" : `?who=${encodeURIComponent(who)}`}`;
export const personalDataUrl = (id: string) => `/api/jobs/${id}/personal-data`;
export const guestPageUrl = (ticket: string, page: number) =>
  `/api/guest/pages/${page}?ticket=${encodeURIComponent(ticket)}`;
export const guestFileUrl = (ticket: string) => `/api/guest/file?ticket=${encodeURIComponent(ticket)}`;
export const auditUrl = (job: string, person: string) => {
  const asked = new URLSearchParams();
  if (job !== "") asked.set("job", job);
  if (person !== "") asked.set("person", person);
  return `/api/audit/file?${asked.toString()}`;
};
