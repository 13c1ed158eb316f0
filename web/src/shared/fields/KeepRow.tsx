import { Button } from "antd";

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
        Keep
      </Button>
      {changed && <Button onClick={drop}>As before</Button>}
      {remove !== undefined && <Button onClick={remove}>Remove</Button>}
    </div>
  );
}
