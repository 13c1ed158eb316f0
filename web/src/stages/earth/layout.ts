import type { Earthing } from "../../shared/api/types";

/** Where a thing of the path is drawn: its column, in leaves from the left, and its row from the top. */
export interface Spot {
  column: number;
  row: number;
}

export interface Layout {
  spots: Map<string, Spot>;
  columns: number;
  rows: number;
}

/** The path as a tree that hangs from the electrode: each thing above what it leads to, leaves side by side. */
export function layout({ nodes, links }: Earthing): Layout {
  const above = new Map<string, string[]>();
  const away = new Map<string, number>();
  const roots = nodes.filter((node) => node.kind === "electrode").map((node) => node.name);
  const grow = (from: string[]) => {
    from.forEach((name) => away.set(name, 0));
    for (const ahead = [...from]; ahead.length > 0;) {
      const name = ahead.shift() ?? "";
      const beside = links.flatMap((link) =>
        link.end === name ? [link.start] : link.start === name ? [link.end] : [],
      );
      const fresh = [...new Set(beside)].filter((one) => !away.has(one));
      above.set(name, fresh);
      fresh.forEach((one) => away.set(one, (away.get(name) ?? 0) + 1));
      ahead.push(...fresh);
    }
  };
  grow(roots);
  // What leads nowhere stands by itself, at the end of its own piece of path.
  const loose: string[] = [];
  for (const node of [...nodes].reverse()) {
    if (away.has(node.name)) continue;
    loose.push(node.name);
    grow([node.name]);
  }
  const rows = 1 + Math.max(0, ...away.values());
  const spots = new Map<string, Spot>();
  let columns = 0;
  const put = (name: string): number => {
    const children = (above.get(name) ?? []).map(put);
    const column =
      children.length === 0 ? (columns += 1) : children.reduce((sum, one) => sum + one, 0) / children.length;
    spots.set(name, { column, row: rows - 1 - (away.get(name) ?? 0) });
    return column;
  };
  [...roots, ...loose].forEach(put);
  return { spots, columns, rows };
}
