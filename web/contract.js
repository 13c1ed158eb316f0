// One direction: app → pages, stages → microinverter → shared. No stage knows another, no page another,
// shared knows none of them. The stages are read from their folder: a new one is held at once.
import { readdirSync } from "node:fs";

const PAGES = ["begin", "home", "shelf", "bench", "day", "weeks"];
const SHOWN_BY_SEVERAL = ["microinverter"];
const stages = readdirSync(new URL("./src/stages", import.meta.url), { withFileTypes: true })
  .filter((entry) => entry.isDirectory())
  .map((entry) => entry.name);

const inside = (names) => names.map((name) => `**/${name}/**`);
const closed = (files, names, message) => ({
  files: [`${files}/**/*.{ts,tsx}`],
  rules: { "no-restricted-imports": ["error", { patterns: [{ group: inside(names), message }] }] },
});
const others = (all, one) => all.filter((name) => name !== one);

export const contract = [
  closed("src/shared", ["app", "stages", ...PAGES, ...SHOWN_BY_SEVERAL], "shared knows nobody above it."),
  ...SHOWN_BY_SEVERAL.map((name) => closed(`src/${name}`, ["app", "stages", ...PAGES], `${name} knows shared only.`)),
  ...PAGES.map((page) => closed(`src/${page}`, ["app", "stages", ...others(PAGES, page)], "A page knows shared only.")),
  ...stages.map((stage) =>
    closed(
      `src/stages/${stage}`,
      ["app", ...PAGES, ...others(stages, stage)],
      "A stage knows shared and microinverter only.",
    ),
  ),
];
