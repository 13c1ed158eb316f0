/** Numbers and times as the user reads them. No figure of the job is computed here. */

const MOST_DIGITS = 6;
/** Units in which a tenth is coarse. */
const LEAST_DIGITS: Partial<Record<string, number>> = { Ω: 2 };

/** A number with its unit: at most `digits` decimals, a true minus, never a bare number. */
export function figure(value: number, unit: string, digits = 1): string {
  const text = String(Number(value.toFixed(digits))).replace("-", "−");
  return unit === "" ? text : unit === "°" ? `${text}°` : `${text}\u00a0${unit}`;
}

/** Decimals with which two different numbers never look the same. */
export function digitsApart(a: number, b: number, unit = ""): number {
  let digits = LEAST_DIGITS[unit] ?? 1;
  while (a !== b && digits < MOST_DIGITS && a.toFixed(digits) === b.toFixed(digits)) digits += 1;
  return digits;
}

export function clock(iso: string, timezone: string): string {
  return new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit", timeZone: timezone }).format(
    new Date(iso),
  );
}

export function dayAndClock(iso: string, timezone: string): string {
  const day = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", timeZone: timezone }).format(
    new Date(iso),
  );
  return `${day}, ${clock(iso, timezone)}`;
}

export function longDay(day: string): string {
  return new Intl.DateTimeFormat("en-GB", { weekday: "long", day: "numeric", month: "long", timeZone: "UTC" }).format(
    new Date(`${day}T12:00:00Z`),
  );
}
