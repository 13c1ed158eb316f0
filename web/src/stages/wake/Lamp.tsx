const INKS: Record<string, string> = {
  green: "#1b8a4b",
  yellow: "#e0a400",
  red: "#b3201b",
  blue: "#1c57a5",
  white: "#ffffff",
  orange: "#d9741a",
};
const LIT = /green|yellow|red|blue|white|orange/g;

/** A lamp as its pattern says: steady filled, blinking with rays, dark empty. Two colours: by turns. */
export function Lamp({ shows }: { shows: string }) {
  const inks = shows.match(LIT) ?? [];
  const blinks = shows.includes("blink") || shows.includes("turns");
  return (
    <svg className="lamp" width="34" height="34" viewBox="0 0 34 34" aria-hidden="true">
      {blinks && <path className="lamp-rays" d="M17 1v5M17 28v5M1 17h5M28 17h5M6 6l3 3M25 25l3 3M6 28l3-3M25 9l3-3" />}
      <circle cx="17" cy="17" r="8.5" fill={INKS[inks[0] ?? ""] ?? "none"} />
      {inks[1] !== undefined && <path d="M17 8.5a8.5 8.5 0 0 1 0 17z" fill={INKS[inks[1]]} />}
    </svg>
  );
}
