import type { ReactNode } from "react";

import { rich, say } from "../words/say";
import { pressKey } from "../shared/lib/useKey";
import "./Foot.css";

const TOUCHABLE: [string, string, string][] = [
  ["r", "R", say("app.next_reading")],
  ["w", "W", say("common.why")],
  ["u", "U", say("app.undo_2")],
  ["/", "/", say("app.find_2")],
  ["p", "P", say("app.print")],
  ["l", "L", say("common.light")],
  ["?", "?", say("app.keys_2")],
];

/** There is no room for them in the hand. */
const ON_DESK = ["?", "p"];

/** The thin foot with the keys, each a touch target too; in the hand what comes next stands in it. */
export function Foot({ children }: { children: ReactNode }) {
  return (
    <footer className="foot">
      {children}
      <div className="foot-keys">
        <span className="wide-only">{rich("app.stage", { kbd: <kbd>1</kbd>, kbd2: <kbd>0</kbd> })}</span>
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
