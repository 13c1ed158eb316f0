/**
 * What is shown after a press, told as what changed: whole, or some fields or items of it; where: which of the items
 * before each of a list was, -1 for a new one.
 */
export interface Changes {
  whole?: unknown;
  fields?: Record<string, Changes>;
  items?: Record<string, Changes>;
  where?: number[];
}

/** A value after its changes; what did not change stays the very same, so that nothing of it is drawn anew. */
export function changed(before: unknown, told: Changes): unknown {
  if ("whole" in told) return told.whole;
  if (told.fields !== undefined) return { ...(before as object), ...inside(before, told.fields) };
  if (told.items === undefined) return before;
  const stood = before as unknown[];
  const items = told.where?.map((at) => stood[at]) ?? [...stood];
  return Object.assign(items, inside(items, told.items));
}

const inside = (before: unknown, told: Record<string, Changes>) =>
  Object.fromEntries(
    Object.entries(told).map(([name, one]) => [name, changed((before as Record<string, unknown>)[name], one)]),
  );
