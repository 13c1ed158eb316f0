import type { TestGroup } from "../../shared/api/types";

const PART = " · ";
const LEAST = 2;

const kinds = (group: TestGroup) => group.tests.map((test) => test.key.split("/", 1)[0]);

/** What a group's tests are, in their order; nothing where one of them comes twice. */
function signature(group: TestGroup): string | null {
  const own = kinds(group);
  return own.length < LEAST || new Set(own).size < own.length ? null : own.join(" ");
}

/** Groups side by side that have the same tests stand together, each other one by itself. */
export function together(groups: TestGroup[]): TestGroup[][] {
  const sets: TestGroup[][] = [];
  for (const group of groups) {
    const last = sets.at(-1);
    const own = signature(group);
    if (own !== null && last?.[0] !== undefined && signature(last[0]) === own) last.push(group);
    else sets.push([group]);
  }
  return sets;
}

/** What stands over each column of groups with the same tests. */
export const inColumns = (groups: TestGroup[]) =>
  groups[0]?.tests.map((test) => test.title.slice(test.title.lastIndexOf(PART) + PART.length)) ?? [];
