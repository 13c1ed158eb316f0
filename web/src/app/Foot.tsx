import { pressKey } from "../shared/lib/useKey";
import "./Foot.css";

const TOUCHABLE: [string, string, string][] = [
  ["r", "R", "next reading"],
  ["w", "W", "why"],
  ["/", "/", "find"],
  ["l", "L", "light"],
  ["?", "?", "keys"],
];

/** The thin foot with the keys; each is a touch target too. */
export function Foot() {
  return (
    <footer className="foot">
      <span className="wide-only">
        <kbd>1</kbd>…<kbd>0</kbd> stage
      </span>
      {TOUCHABLE.map(([key, shown, does]) => (
        <button key={key} type="button" onClick={() => pressKey(key)}>
          <kbd>{shown}</kbd> {does}
        </button>
      ))}
    </footer>
  );
}
