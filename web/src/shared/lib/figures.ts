import { locale } from "../../words/language";

/** Numbers and times as the user reads them. No figure of the job is computed here. */

const MOST_DIGITS = 6;
/** Units in which a tenth is coarse. */
const LEAST_DIGITS: Partial<Record<string, number>> = { Ω: 2 };

/** A number with its unit: at most `digits` decimals, a true minus, never a bare number. */
export function figure(value: number, unit: string, digits = 1): string {
  const text = String(Number(fixed(value, digits))).replace("-", "−");
  return unit === "" ? text : unit === "°" ? `${text}°` : `${text}\u00a0${unit}`;
}

/** A figure that may not be known yet: then nothing. */
export function maybe(value: number | null | undefined, unit: string, digits = 1): string {
  return value == null ? "" : figure(value, unit, digits);
}

/**
 * A number with so many decimals, rounded as the core rounds: both go by the exact value, and of two decimals that are
 * equally near the even one is taken. `toFixed` alone would take the larger.
 */
export function fixed(value: number, digits: number): string {
  const scaled = Math.abs(value) * 10 ** digits;
  // Only a number of few binary places can lie exactly in the middle; then the product is exact too.
  const isHalf = Number.isInteger(value * 2 ** (digits + 1)) && scaled % 1 === 0.5;
  if (!isHalf) return value.toFixed(digits);
  const even = 2 * Math.round(scaled / 2);
  return (Math.sign(value) * (even / 10 ** digits)).toFixed(digits);
}

/** Decimals with which two different numbers never look the same. */
export function digitsApart(a: number, b: number, unit = ""): number {
  let digits = LEAST_DIGITS[unit] ?? 1;
  while (a !== b && digits < MOST_DIGITS && fixed(a, digits) === fixed(b, digits)) digits += 1;
  return digits;
}

export function clock(iso: string, timezone: string): string {
  return new Intl.DateTimeFormat(locale, { hour: "2-digit", minute: "2-digit", timeZone: timezone }).format(
    new Date(iso),
  );
}

export function dayAndClock(iso: string, timezone: string): string {
  const day = new Intl.DateTimeFormat(locale, { day: "numeric", month: "short", timeZone: timezone }).format(
    new Date(iso),
  );
  return `${day}, ${clock(iso, timezone)}`;
}

export function longDay(day: string): string {
  return new Intl.DateTimeFormat(locale, { weekday: "long", day: "numeric", month: "long", timeZone: "UTC" }).format(
    new Date(`${day}T12:00:00Z`),
  );
}
