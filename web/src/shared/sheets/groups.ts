import type { Column } from "../api/types";

/** Fields of a sheet that belong together, under one heading. row: the list that it is one of. */
export interface Group {
  path: string;
  heading: string;
  row: string;
  columns: Column[];
}

/** The columns of a kind of sheet by what they belong to, in the sheet's order. */
export function groupsOf(columns: readonly Column[]): Group[] {
  const found = new Map<string, Group>();
  for (const column of columns) {
    const group = found.get(column.group) ?? {
      path: column.group,
      heading: column.heading,
      row: column.row,
      columns: [],
    };
    group.columns.push(column);
    found.set(column.group, group);
  }
  return [...found.values()];
}

/**
 * The groups to show: of a list those that hold something or must, and as many more as were asked for.
 * next: for each list that can take one more, what it would be called.
 */
export function shownGroups(
  groups: readonly Group[],
  holds: (group: Group) => boolean,
  more: Readonly<Record<string, number>>,
): { shown: Group[]; next: { row: string; heading: string }[] } {
  const shown: Group[] = [];
  const next: { row: string; heading: string }[] = [];
  const left: Record<string, number> = { ...more };
  for (const group of groups) {
    const isNeeded = group.row === "" || holds(group) || group.columns.some((column) => column.required);
    const asked = left[group.row] ?? 0;
    if (isNeeded) shown.push(group);
    else if (asked > 0) {
      left[group.row] = asked - 1;
      shown.push(group);
    } else if (!next.some((one) => one.row === group.row)) next.push({ row: group.row, heading: group.heading });
  }
  return { shown, next };
}
