import { say } from "../../words/say";

import "./Keypad.css";
const KEYS = ["1", "2", "3", "4", "5", "6", "7", "8", "9", "−", "0", "."];

/** Keys for gloves. */
export function Keypad({ beyond, press, erase }: { beyond: boolean; press: (key: string) => void; erase: () => void }) {
  return (
    <div className="keypad">
      {KEYS.map((key) => (
        <button key={key} type="button" onClick={() => press(key)}>
          {key}
        </button>
      ))}
      {beyond && (
        <button type="button" className="keypad-beyond" aria-label={say("shared.more_than")} onClick={() => press(">")}>
          &gt;
        </button>
      )}
      <button type="button" className={beyond ? "keypad-erase beside" : "keypad-erase"} onClick={erase}>
        {say("shared.erase")}
      </button>
    </div>
  );
}
