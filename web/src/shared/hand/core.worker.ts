/** The core in the hand: the same files as on the server, run by an interpreter that ships with the app. */
import type { loadPyodide as Load } from "pyodide";

/** The interpreter's own files, in memory. */
interface Files {
  mkdirTree: (path: string) => void;
  writeFile: (path: string, bytes: Uint8Array) => void;
}
type Answer = (question: string) => string;
let ready: Promise<Answer> | null = null;

self.onmessage = ({ data }: MessageEvent<{ id: number; from?: string; question?: string }>) => {
  if (data.from !== undefined) ready = start(data.from);
  void told(data.id, data.question);
};

async function told(id: number, question?: string): Promise<void> {
  try {
    const answer = await (ready as Promise<Answer>);
    self.postMessage({ id, text: question === undefined ? "{}" : answer(question) });
  } catch (error) {
    self.postMessage({ id, failed: String(error) });
  }
}

async function start(from: string): Promise<Answer> {
  const pack = fetch(`${from}core.pack`).then((got) =>
    got.ok ? got.arrayBuffer() : Promise.reject(new Error(got.url)),
  );
  const { loadPyodide } = (await import(/* @vite-ignore */ `${from}pyodide.mjs`)) as { loadPyodide: typeof Load };
  const python = await loadPyodide({ indexURL: from });
  lay(python.FS as Files, new Uint8Array(await pack));
  return python.runPython(BEGIN) as Answer;
}

const BEGIN = `
import sys, zoneinfo
sys.path.insert(0, "/app")
zoneinfo.reset_tzpath(["/app/zones"])
from core.hand.answer import answer
answer
`;

/** Unpacks the core: an index of names and lengths, then every file one after the other. */
function lay(files: Files, bytes: Uint8Array): void {
  const size = new DataView(bytes.buffer).getUint32(0, true);
  const index = JSON.parse(new TextDecoder().decode(bytes.subarray(4, 4 + size))) as Record<string, number>;
  let at = 4 + size;
  for (const [name, length] of Object.entries(index)) {
    const path = `/app/${name}`;
    files.mkdirTree(path.slice(0, path.lastIndexOf("/")));
    files.writeFile(path, bytes.subarray(at, at + length));
    at += length;
  }
}
