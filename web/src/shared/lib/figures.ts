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

const TIME: Intl.DateTimeFormatOptions = { hour: "2-digit", minute: "2-digit" };
const DAY: Intl.DateTimeFormatOptions = { day: "numeric", month: "short" };
const SHORT_DAY: Intl.DateTimeFormatOptions = { ...DAY, year: "numeric" };
const LONG_DAY: Intl.DateTimeFormatOptions = { weekday: "long", day: "numeric", month: "long" };
/** What writes days and hours, by how and where: making one takes longer than writing a hundred with it. */
const writers = new Map<Intl.DateTimeFormatOptions, Map<string, Intl.DateTimeFormat>>();

function written(at: Date, how: Intl.DateTimeFormatOptions, timeZone: string): string {
  const there = writers.get(how) ?? new Map<string, Intl.DateTimeFormat>();
  const writer = there.get(timeZone) ?? new Intl.DateTimeFormat(locale, { ...how, timeZone });
  writers.set(how, there.set(timeZone, writer));
  return writer.format(at);
}

export const clock = (iso: string, timezone: string) => written(new Date(iso), TIME, timezone);

export const dayAndClock = (iso: string, timezone: string) =>
  `${written(new Date(iso), DAY, timezone)}, ${clock(iso, timezone)}`;

export const longDay = (day: string) => written(noonOf(day), LONG_DAY, "UTC");

/** A day that may be of another year. */
export const shortDay = (day: string) => written(noonOf(day), SHORT_DAY, "UTC");

const noonOf = (day: string) => new Date(`${day}T12:00:00Z`);
