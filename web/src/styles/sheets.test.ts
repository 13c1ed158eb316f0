import { describe, expect, it } from "vitest";

const text = (found: Record<string, unknown>) => found as Record<string, string>;
const sheets = text(import.meta.glob("../**/*.css", { query: "?raw", import: "default", eager: true }));
const parts = text(import.meta.glob("../**/*.tsx", { query: "?raw", import: "default", eager: true }));

describe("the sheet beside a component", () => {
  it("is its component's alone, or its folder's, and is used by it", () => {
    for (const sheet of Object.keys(sheets)) {
      if (sheet.startsWith("./")) continue;
      const [folder, name] = [sheet.slice(0, sheet.lastIndexOf("/")), sheet.slice(sheet.lastIndexOf("/") + 1)];
      const beside = Object.keys(parts).filter((part) => part.slice(0, part.lastIndexOf("/")) === folder);
      const users = beside.filter((part) => (parts[part] ?? "").includes(`import "./${name}"`));
      expect(users.length, `${sheet} is used by nobody beside it`).toBeGreaterThan(0);
      if (name.slice(0, -4) !== folder.slice(folder.lastIndexOf("/") + 1)) expect(users, sheet).toHaveLength(1);
    }
  });

  it("names no colour of its own: they come from the palette", () => {
    for (const [sheet, css] of Object.entries(sheets)) {
      if (sheet.endsWith("tokens.css")) continue;
      expect(css.match(/#[0-9a-f]{3,8}\b(?!\s*\{)/gi) ?? [], sheet).toEqual([]);
    }
  });
});
