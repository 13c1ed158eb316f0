import type english from "./en.json";

/** Every file of words by its language; one more language is one more file here. */
const FILES = import.meta.glob<string>("./*.json", { query: "?url", import: "default", eager: true });

/** Words that stand where another language has none yet. */
const FIRST = "en";

const fileOf = (language: string) => FILES[`./${language}.json`];

/** The first language of this browser that there are words for. */
export const language =
  navigator.languages.map((one) => one.split("-")[0] ?? one).find((one) => fileOf(one) !== undefined) ?? FIRST;

/** How days, hours and months are written in it. */
export const locale = language === FIRST ? "en-GB" : language;

async function read(of: string): Promise<Partial<typeof english>> {
  const answer = await fetch(fileOf(of) ?? "");
  return (await answer.json()) as Partial<typeof english>;
}

/** The words of the screen. Waited for by every module that says something, so that none says it without them. */
export const words = (
  language === FIRST ? await read(FIRST) : { ...(await read(FIRST)), ...(await read(language)) }
) as typeof english;
