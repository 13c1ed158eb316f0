const MIN_PER_DAY = 1440;
const MIN_PER_H = 60;

/** A minute from some midnight as its clock shows it. */
export function clockOf(minute: number): string {
  const ofDay = ((minute % MIN_PER_DAY) + MIN_PER_DAY) % MIN_PER_DAY;
  return `${String(Math.floor(ofDay / MIN_PER_H)).padStart(2, "0")}:${String(ofDay % MIN_PER_H).padStart(2, "0")}`;
}
