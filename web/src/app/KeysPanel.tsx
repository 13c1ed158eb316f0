import { Modal } from "antd";
import { say } from "../words/say";
import "./KeysPanel.css";

const KEYS: [string, string][] = [
  ["1 … 9, 0", say("app.go_to_a_stage")],
  ["N", say("app.what_comes_next_on_this_job")],
  ["R", say("app.take_the_next_reading")],
  ["Enter", say("app.keep_the_reading_and_move_on")],
  ["W", say("app.why_every_reason_and_source")],
  ["U", say("app.changes_of_the_plan_and_undoing")],
  ["/", say("app.find_anything_in_the_job")],
  ["P", say("app.print_what_stands_there_its_pictures")],
  ["L", say("app.light_paper_glare_in_the_sun")],
  ["← ↑ → ↓", say("app.on_the_wall_move_what_is")],
  ["?", say("app.these_keys")],
  [say("app.esc"), say("app.leave_a_reading_close_what_is")],
];

/** All keys in one place. */
export function KeysPanel({ open, close }: { open: boolean; close: () => void }) {
  return (
    <Modal title={say("app.keys")} open={open} onCancel={close} footer={null} width={420}>
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
      <p className="source">{say("app.no_key_acts_while_you_type")}</p>
    </Modal>
  );
}
