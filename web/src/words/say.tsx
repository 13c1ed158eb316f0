import { Fragment, type ReactNode } from "react";
import { IntlMessageFormat, type FormatXMLElementFn } from "intl-messageformat";
import type english from "./en.json";
import { words, language } from "./language";

/** A sentence, title or label of the screen, by its name in the file of words. */
export type Word = keyof typeof english;

const formats = new Map<Word, IntlMessageFormat | string>();

/** A sentence without a mark in it is said as it stands; the others are read once. */
function formatOf(word: Word): IntlMessageFormat | string {
  let format = formats.get(word);
  if (format === undefined) {
    const text = words[word];
    format = /[{<']/.test(text) ? new IntlMessageFormat(text, language) : text;
    formats.set(word, format);
  }
  return format;
}

/** What is put into a sentence; what is not there leaves nothing in its place. */
type Put = string | number | false | null | undefined;

/** What the file of words has under a name, with its figures and names put in. */
export function say(word: Word, values?: Readonly<Record<string, Put>>): string {
  const format = formatOf(word);
  return typeof format === "string" ? format : String(format.format(values));
}

type Part = ReactNode | FormatXMLElementFn<ReactNode>;

/** The same where part of the sentence is drawn: an element, or the tag that some of its words stand in. */
export function rich(word: Word, values: Readonly<Record<string, Part>>): ReactNode {
  const format = formatOf(word);
  if (typeof format === "string") return format;
  const said = format.format<ReactNode>(values as Record<string, FormatXMLElementFn<ReactNode>>);
  return Array.isArray(said) ? said.map((part, at) => <Fragment key={at}>{part}</Fragment>) : said;
}
