import { asReport, csrfToken, ended, Refusal } from "./transport";
import type { Problem, Kind } from "./types";

export type TakingIn =
  | { checked: number; rows: number }
  | { entries: number; left_out: number[] }
  | { kept: number; doubled_rows: number[] }
  | { problems: Problem[]; said: string };

/** A file of sheets taken in: a step for each line that the server answers, as it comes. */
export async function takeInSheets(
  kind: Kind,
  file: File,
  asGiven: boolean,
  step: (one: TakingIn) => void,
  signal: AbortSignal,
): Promise<void> {
  const headers = new Headers({ "Content-Type": "application/octet-stream" });
  const token = csrfToken();
  if (token !== undefined) headers.set("X-CSRFToken", token);
  const answer = await fetch(`/api/shelf/${kind}/file?as_given=${asGiven}`, {
    method: "POST",
    body: file,
    headers,
    signal,
  }).catch((failed: unknown) => {
    throw ended(failed);
  });
  if (!answer.ok || answer.body === null)
    throw new Refusal(asReport(await answer.json().catch(() => null), answer.status));
  const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  for (;;) {
    const { value, done } = await reader.read().catch((failed: unknown) => {
      throw ended(failed);
    });
    const lines = (rest + (value ?? "")).split("\n");
    rest = lines.pop() ?? "";
    lines.filter((line) => line !== "").forEach((line) => step(JSON.parse(line) as TakingIn));
    if (done) return;
  }
}
