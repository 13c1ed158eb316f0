/**
 * What the core as it is packed for the browser answers to questions, one line each, for whoever compares it with the
 * core on the server. Usage: node answers.mjs FOLDER QUESTIONS ANSWERS
 */
import { readFileSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { loadPyodide } from "pyodide";

const [folder, asked, told] = process.argv.slice(2);
const questions = readFileSync(asked, "utf8").split("\n");
const python = await loadPyodide({ indexURL: `${folder}/`, stdLibURL: join(folder, "python_stdlib.zip") });
const bytes = readFileSync(join(folder, "core.pack"));
const size = bytes.readUInt32LE(0);
let at = 4 + size;
for (const [name, length] of Object.entries(JSON.parse(bytes.subarray(4, 4 + size).toString()))) {
  python.FS.mkdirTree(dirname(`/app/${name}`));
  python.FS.writeFile(`/app/${name}`, new Uint8Array(bytes.subarray(at, at + length)));
  at += length;
}
const answer = python.runPython(`
import sys, zoneinfo
sys.path.insert(0, "/app")
zoneinfo.reset_tzpath(["/app/zones"])
from core.hand.answer import answer
answer
`);
const answers = questions.map((question) => `${answer(question)}\n`);
writeFileSync(told, answers.join(""));
