// What a field is measured in stands in its value, not in its name.
const UNIT = /_(mm2|mm|m|v|a|va|w|kw|kwh|deg|c|hz|s|min|pct|ohm|kohm|w_per_m2|pct_per_k)$/;

/** A field as it is spoken of: “section of runs 1” for the one of the first run. */
export function fieldInWords(path: string): string {
  const parts = path
    .replace(/^\$\.?/, "")
    .split(".")
    .map((part) =>
      part
        .replace(/\[(\d+)\]/g, (_, index: string) => ` ${Number(index) + 1}`)
        .replace(UNIT, "")
        .replaceAll("_", " ")
        .trim(),
    );
  return parts.reverse().join(" of ");
}
