import { parse, TYPE, type MessageFormatElement } from "@formatjs/icu-messageformat-parser";
import ts from "typescript";
import { describe, expect, it } from "vitest";
import { isStringLike, isWordText, isWords, treeOf } from "../../tools/words.mjs";

const FILES = import.meta.glob<string>("../**/*.{ts,tsx}", { query: "?raw", import: "default", eager: true });
const SOURCES = Object.entries(FILES)
  .filter(([path]) => !/\.test\.|schema\.d\.ts$/.test(path))
  .map(([path, text]) => treeOf(path, text));

type Words = Partial<Record<string, string>>;
const LANGUAGES = import.meta.glob<Words>("./*.json", { import: "default", eager: true });
const english: Words = LANGUAGES["./en.json"] ?? {};

function each(node: ts.Node, see: (node: ts.Node) => void): void {
  see(node);
  ts.forEachChild(node, (child) => each(child, see));
}

/** The names of what is put into a sentence, figures, names and tags alike. */
const marksOf = (parts: MessageFormatElement[]): string[] =>
  parts.flatMap((part) => {
    if (part.type === TYPE.literal || part.type === TYPE.pound) return [];
    const inner =
      part.type === TYPE.tag
        ? marksOf(part.children)
        : part.type === TYPE.plural || part.type === TYPE.select
          ? Object.values(part.options).flatMap((option) => marksOf(option.value))
          : [];
    return [part.value, ...inner];
  });

const marked = (text: string) => [...new Set(marksOf(parse(text)))].sort();

/** A call that takes a sentence from the file: its name, and the names of what it puts in. */
function taken(node: ts.Node): { word: string; puts: string[] } | undefined {
  if (!ts.isCallExpression(node) || !/^(say|rich)$/.test(node.expression.getText())) return undefined;
  const [word, values] = node.arguments;
  if (word === undefined || !ts.isStringLiteral(word)) return undefined;
  const puts =
    values !== undefined && ts.isObjectLiteralExpression(values)
      ? values.properties.map((one) => one.name?.getText() ?? "")
      : [];
  return { word: word.text, puts: puts.sort() };
}

describe("the file of words", () => {
  it("is where every sentence of the screen stands", () => {
    const strays: string[] = [];
    for (const source of SOURCES) {
      each(source, (node) => {
        if (isWordText(node) || (isStringLike(node) && isWords(node)))
          strays.push(`${source.fileName}: ${node.getText().trim()}`);
      });
    }
    expect(strays).toEqual([]);
  });

  it("is told by each call what its sentence leaves open, and no more", () => {
    for (const source of SOURCES) {
      each(source, (node) => {
        const call = taken(node);
        if (call !== undefined)
          expect({ [call.word]: call.puts }).toEqual({ [call.word]: marked(english[call.word] ?? "") });
      });
    }
  });

  it("has nothing that is not said, and nothing twice", () => {
    const texts = Object.entries(english).filter(([word]) => !word.startsWith("face."));
    const named = SOURCES.map((source) => source.text).join("\n");
    expect(texts.length).toBeGreaterThan(0);
    const idle = texts.filter(([word]) => !named.includes(`"${word}"`));
    expect(idle).toEqual([]);
    const twice = texts.filter(([, text], at) => texts.findIndex(([, other]) => other === text) !== at);
    expect(twice).toEqual([]);
  });

  it.each(Object.entries(LANGUAGES))("leaves open in %s what it leaves open in English", (_, words) => {
    for (const [word, text] of Object.entries(words)) {
      expect({ [word]: marked(text ?? "") }).toEqual({ [word]: marked(english[word] ?? "") });
    }
  });
});

describe("the finder of words", () => {
  const found = (source: string) => {
    const strays: string[] = [];
    each(treeOf("Any.tsx", source), (node) => {
      if (isWordText(node) || (isStringLike(node) && isWords(node))) strays.push(node.getText().trim());
    });
    return strays;
  };

  it.each([
    ["<p>Not here</p>", ["Not here"]],
    ['<p>{isHere ? "here" : "not yet"}</p>', ['"here"', '"not yet"']],
    ['<Field label="Length" unit="mm" />', ['"Length"']],
    ["const said = `${count} of them`;", ["`${count} of them`"]],
    ['const NAMES = { window: "window", door: "door" };', ['"window"', '"door"']],
    ['const WAYS = [["", "not said yet"], ["unit", "unit"]];', ['"not said yet"', '"unit"']],
  ])("finds them in %s", (source, words) => expect(found(source)).toEqual(words));

  it.each([
    '<p className="reason reason-stop">4 mm²</p>',
    'if (event.key === "Enter") go(`/jobs/${id}/string`);',
    'edit.mutate({ do: "put_backup", kind: "wall_units" });',
    '<path d="M1 2 L3 4" fill="none" transform={`translate(${x} ${y})`} />',
    "document.querySelector(`input, select, [role='radio']`); const ALL = \"label, main [aria-label]\";",
    'throw new Error("this job has no wall inverter");',
  ])("leaves alone %s", (source) => expect(found(source)).toEqual([]));
});
