import { Button } from "antd";
import { useEffect, useRef, useState } from "react";
import type { UnitState } from "../shared/api/types";
import { say } from "../words/say";

/** The reading that a new serial of a unit supersedes. */
export const standing = (unit: UnitState) =>
  unit.serials.filter((one) => one.superseded_by === null).at(-1)?.id ?? null;

interface SerialFieldProps {
  unit: UnitState;
  form: string;
  busy: boolean;
  send: (entered: string) => void;
}

/** Where a scanner types: it ends with Enter, and so does a thumb. */
export function SerialField({ unit, form, busy, send }: SerialFieldProps) {
  const [entered, setEntered] = useState("");
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => input.current?.focus({ preventScroll: true }), []);
  return (
    <form
      className="big-entry"
      onSubmit={(event) => {
        event.preventDefault();
        if (entered.trim() !== "") send(entered);
      }}
    >
      <input
        ref={input}
        className="as-text"
        aria-label={say("microinverter.serial_of", { unit: unit.name })}
        placeholder={unit.serial === "" ? say("common.scan_or_type") : unit.serial}
        value={entered}
        autoComplete="off"
        autoCapitalize="characters"
        spellCheck={false}
        title={form}
        onChange={(event) => setEntered(event.target.value)}
      />
      <Button type="primary" htmlType="submit" loading={busy} disabled={entered.trim() === ""}>
        {say("common.keep")}
      </Button>
    </form>
  );
}
