import { locale } from "../words/language";

/** A day so many days on, as the server writes days. */
export function plusDays(day: string, by: number): string {
  const at = new Date(`${day}T12:00:00Z`);
  at.setUTCDate(at.getUTCDate() + by);
  return at.toISOString().slice(0, 10);
}

/** A day as the head of a column: its name of the week and number. */
export function shortDay(day: string): { name: string; number: string } {
  const at = new Date(`${day}T12:00:00Z`);
  const name = new Intl.DateTimeFormat(locale, { weekday: "short", timeZone: "UTC" }).format(at);
  return { name, number: String(at.getUTCDate()) };
}
