import { Modal } from "antd";
import "./KeysPanel.css";

const KEYS: [string, string][] = [
  ["1 … 9, 0", "go to a stage"],
  ["N", "what comes next on this job"],
  ["R", "take the next reading"],
  ["Enter", "keep the reading and move on"],
  ["W", "why: every reason and source"],
  ["U", "changes of the plan, and undoing them"],
  ["/", "find anything in the job"],
  ["P", "print what stands there: its pictures and what is judged"],
  ["L", "light: paper, glare in the sun, loft in the dark"],
  ["← ↑ → ↓", "on the wall: move what is chosen by 10 mm; Shift 50 mm, Alt 1 mm"],
  ["?", "these keys"],
  ["Esc", "leave a reading, close what is open"],
];

/** All keys in one place. */
export function KeysPanel({ open, close }: { open: boolean; close: () => void }) {
  return (
    <Modal title="Keys" open={open} onCancel={close} footer={null} width={420}>
      <dl className="keys">
        {KEYS.map(([key, does]) => (
          <div key={key}>
            <dt>
              <kbd>{key}</kbd>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
      <p className="source">No key acts while you type in a field, but a digit with Alt: it goes to that stage.</p>
    </Modal>
  );
}
