import { describe, expect, it } from "vitest";
import type { Column } from "../api/types";
import { groupsOf, shownGroups } from "./groups";

const column = (group: string, last: string, more: Partial<Column> = {}): Column => ({
  name: group === "" ? last : `${group}.${last}`,
  meaning: last,
  help: "",
  group,
  heading: `Heading ${group}`,
  row: /\.\d+$/.test(group) ? group.replace(/\.\d+$/, "") : "",
  unit: "",
  allowed: "",
  required: false,
  choices: [],
  ...more,
});
const COLUMNS = [
  column("", "id", { required: true }),
  column("trackers.1", "inputs", { required: true }),
  column("trackers.2", "inputs"),
  column("trackers.3", "inputs"),
  column("body", "width_mm"),
  column("body", "height_mm"),
];

describe("fields of a sheet in their groups", () => {
  it("stand together in the sheet's order", () => {
    const groups = groupsOf(COLUMNS);
    expect(groups.map((one) => one.path)).toEqual(["", "trackers.1", "trackers.2", "trackers.3", "body"]);
    expect(groups.at(-1)?.columns.map((one) => one.meaning)).toEqual(["width_mm", "height_mm"]);
  });

  it("show of a list what must or holds something, and one more for each that was asked for", () => {
    const groups = groupsOf(COLUMNS);
    const shown = (holds: string[], more: Record<string, number>) =>
      shownGroups(groups, (group) => holds.includes(group.path), more);
    expect(shown([], {}).shown.map((one) => one.path)).toEqual(["", "trackers.1", "body"]);
    expect(shown([], {}).next).toEqual([{ row: "trackers", heading: "Heading trackers.2" }]);
    expect(shown([], { trackers: 1 }).shown.map((one) => one.path)).toContain("trackers.2");
    expect(shown(["trackers.3"], {}).shown.map((one) => one.path)).toContain("trackers.3");
    expect(shown(["trackers.2", "trackers.3"], {}).next).toEqual([]);
  });
});
