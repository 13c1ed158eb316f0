/**
 * Packs the core for the browser: the interpreter, only so much of its library as the core needs, and the core's
 * own files, precompiled. Usage: node engine.mjs OUT VERSION TZDATA
 */
import { createHash } from "node:crypto";
import { cpSync, existsSync, mkdirSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from "node:fs";
import { dirname, join, relative } from "node:path";
import { fileURLToPath } from "node:url";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import { loadPyodide } from "pyodide";

const [out, version, tzdata] = process.argv.slice(2);
const root = join(dirname(fileURLToPath(import.meta.url)), "..", "..");
const interpreter = dirname(fileURLToPath(import.meta.resolve("pyodide")));
const PARTS = ["pyodide.mjs", "pyodide.asm.mjs", "pyodide.asm.wasm"];

const files = (folder) =>
  readdirSync(folder, { recursive: true })
    .map((name) => join(folder, name))
    .filter((name) => statSync(name).isFile())
    .sort();

/** The core without its tests, as it is put into the interpreter's own file system. */
const core = files(join(root, "core")).filter((name) => !/\/(tests|__pycache__)\//.test(name));
const zones = files(join(tzdata, "zoneinfo")).filter((name) => !/\.(py|tab|zi|list|json)$|__pycache__/.test(name));

const python = await loadPyodide({ env: { PYTHONNODEBUGRANGES: "1" } });
python.FS.mkdirTree("/app");
const put = (path, bytes) => {
  python.FS.mkdirTree(dirname(path));
  python.FS.writeFile(path, bytes);
};
for (const name of core) put(`/app/${relative(root, name)}`, new Uint8Array(readFileSync(name)));
for (const name of zones)
  put(`/app/zones/${relative(join(tzdata, "zoneinfo"), name)}`, new Uint8Array(readFileSync(name)));
python.FS.writeFile("/job.json", readFileSync(join(root, "server/demo/jobs/gull-terrace-2.json"), "utf8"));

/** Runs the core once to see what it imports; what only packs it here is left out. */
python.runPython(`
import sys, zoneinfo, json
sys.path.insert(0, "/app")
zoneinfo.reset_tzpath(["/app/zones"])
from core.hand.answer import answer
given = {"house": json.load(open("/job.json")), "revision": 1, "by": "A", "learner": False, "only_with_server": [], "sheets": {}, "packs": {}, "pressed": [], "sky": {"latitude_deg": 0, "longitude_deg": 0, "altitude_m": 0, "days": []}}
job = given["house"]["id"]
at = "2026-06-21T12:00:00+00:00"
answer(json.dumps({"do": "open", "job": job, "given": given, "waiting": [], "at": at}))
answer(json.dumps({"do": "confirm", "job": job, "id": "", "reading": None, "at": at, "compare": True}))
answer(json.dumps({"do": "house", "job": job}))
answer(json.dumps({"do": "sun", "job": job, "at": at}))

used = set(sys.modules)
import marshal, importlib.util, pathlib, types, zipfile, zipimport
TOOLS = set(sys.modules) - used

def pyc(code):
    return importlib.util.MAGIC_NUMBER + bytes(12) + marshal.dumps(code)

def without_lines(code):
    """The library's own lines are told to nobody."""
    inner = tuple(without_lines(one) if isinstance(one, types.CodeType) else one for one in code.co_consts)
    return code.replace(co_linetable=b"", co_consts=inner)

library = "/lib/python314.zip"
laid = set()
with zipfile.ZipFile("/library.zip", "w", zipfile.ZIP_STORED) as lean:
    for name, module in sorted(sys.modules.items()):
        file = getattr(module, "__file__", None) or ""
        if name in TOOLS or not file.startswith(library + "/"):
            continue
        inner = file.removeprefix(library + "/")
        source = zipimport.zipimporter(library).get_data(file)
        if inner in laid:
            continue
        laid.add(inner)
        code = marshal.loads(source[16:]) if inner.endswith(".pyc") else compile(source, inner, "exec", optimize=2)
        lean.writestr(zipfile.ZipInfo(inner.removesuffix("c").removesuffix(".py") + ".pyc"), pyc(without_lines(code)))

made = {}
for file in sorted(pathlib.Path("/app").rglob("*")):
    inner = str(file.relative_to("/app"))
    if not file.is_file() or "__pycache__" in inner:
        continue
    if inner.endswith(".py"):
        # With its docstrings: from them a sum says its formula.
        made[inner + "c"] = pyc(compile(file.read_bytes(), inner, "exec", dont_inherit=True, optimize=0))
    else:
        made[inner] = file.read_bytes()
with open("/core.pack", "wb") as packed:
    index = json.dumps({name: len(data) for name, data in made.items()}).encode()
    packed.write(len(index).to_bytes(4, "little") + index + b"".join(made.values()))
`);

rmSync(out, { recursive: true, force: true });
const folder = join(out, "engine", version);
mkdirSync(folder, { recursive: true });
for (const name of PARTS) cpSync(join(interpreter, name), join(folder, name));
// The interpreter looks for packages that it may load: there are none.
const lock = JSON.parse(readFileSync(join(interpreter, "pyodide-lock.json"), "utf8"));
writeFileSync(join(folder, "pyodide-lock.json"), JSON.stringify({ ...lock, packages: {} }));
writeFileSync(join(folder, "python_stdlib.zip"), python.FS.readFile("/library.zip"));
writeFileSync(join(folder, "core.pack"), python.FS.readFile("/core.pack"));

/** What is compressed once stays so: the interpreter changes with its package alone. */
const squeezed = join(out, "..", "squeezed");
mkdirSync(squeezed, { recursive: true });
for (const file of files(folder)) {
  const bytes = readFileSync(file);
  const kept = join(squeezed, createHash("sha256").update(bytes).digest("hex"));
  if (!existsSync(kept))
    writeFileSync(kept, brotliCompressSync(bytes, { params: { [constants.BROTLI_PARAM_LGWIN]: 24 } }));
  cpSync(kept, `${file}.br`);
  writeFileSync(`${file}.gz`, gzipSync(bytes, { level: 6 }));
}
const total = files(folder)
  .filter((name) => name.endsWith(".br"))
  .reduce((sum, name) => sum + statSync(name).size, 0);
console.log(`core ${version} for the browser: ${(total / 1e6).toFixed(2)} MB compressed`);
