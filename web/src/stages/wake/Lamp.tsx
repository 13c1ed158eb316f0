import palette from "../../../../core/data/palette.json";
import "./Lamp.css";

const INKS: Partial<Record<string, string>> = palette.lamps;
const LIT = new RegExp(Object.keys(palette.lamps).join("|"), "g");

/** A lamp as its pattern says: steady filled, blinking with rays, dark empty. Two colours: by turns. */
export function Lamp({ shows }: { shows: string }) {
  const inks = shows.match(LIT) ?? [];
  const blinks = shows.includes("blink") || shows.includes("turns");
  return (
    <svg className="lamp" width="34" height="34" viewBox="0 0 34 34" aria-hidden="true">
      {blinks && <path className="lamp-rays" d="M17 1v5M17 28v5M1 17h5M28 17h5M6 6l3 3M25 25l3 3M6 28l3-3M25 9l3-3" />}
      <circle cx="17" cy="17" r="8.5" fill={INKS[inks[0] ?? ""] ?? "none"} />
      {inks[1] !== undefined && <path d="M17 8.5a8.5 8.5 0 0 1 0 17z" fill={INKS[inks[1]] ?? "none"} />}
    </svg>
  );
}
