/** How far the server's clock is ahead of this device's: a phone may be wrong by hours. */
let ahead_ms = 0;
const MATTERS_MS = 2_000;

/** Takes the server's time from an answer. */
export function hearClock(date: string | null): void {
  const there = date === null ? NaN : Date.parse(date);
  if (Number.isNaN(there)) return;
  const found = there - Date.now();
  // An answer says whole seconds and takes its time on the way: less than that is no difference.
  ahead_ms = Math.abs(found) > MATTERS_MS ? found : 0;
}

/** Now, by the server's clock. */
export const serverNow = () => new Date(Date.now() + ahead_ms);
