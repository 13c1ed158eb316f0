import { Button } from "antd";
import { say } from "../../words/say";

interface KeepRowProps {
  changed: boolean;
  saving: boolean;
  drop: () => void;
  remove?: (() => void) | undefined;
}

/** Keep what was typed, drop it, or take the thing out. */
export function KeepRow({ changed, saving, drop, remove }: KeepRowProps) {
  return (
    <div className="object-do">
      <Button htmlType="submit" type="primary" disabled={!changed} loading={saving}>
        {say("common.keep")}
      </Button>
      {changed && <Button onClick={drop}>{say("shared.as_before")}</Button>}
      {remove !== undefined && <Button onClick={remove}>{say("common.remove")}</Button>}
    </div>
  );
}
