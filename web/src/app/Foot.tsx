import type { ReactNode } from "react";
import { pressKey } from "../shared/lib/useKey";
import "./Foot.css";

const TOUCHABLE: [string, string, string][] = [
  ["r", "R", "next reading"],
  ["w", "W", "why"],
  ["u", "U", "undo"],
  ["/", "/", "find"],
  ["p", "P", "print"],
  ["l", "L", "light"],
  ["?", "?", "keys"],
];

/** There is no room for them in the hand. */
const ON_DESK = ["?", "p"];

/** The thin foot with the keys, each a touch target too; in the hand what comes next stands in it. */
export function Foot({ children }: { children: ReactNode }) {
  return (
    <footer className="foot">
      {children}
      <div className="foot-keys">
        <span className="wide-only">
          <kbd>1</kbd>…<kbd>0</kbd> stage
        </span>
        {TOUCHABLE.map(([key, shown, does]) => (
          <button
            key={key}
            type="button"
            className={ON_DESK.includes(key) ? "wide-only" : undefined}
            onClick={() => pressKey(key)}
          >
            <kbd>{shown}</kbd> {does}
          </button>
        ))}
      </div>
    </footer>
  );
}
