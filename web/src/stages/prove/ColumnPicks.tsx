import { Button, Input, Select } from "antd";
import { useState } from "react";
import type { FileLook } from "../../shared/api/types";
import { say } from "../../words/say";
import "./ColumnPicks.css";

interface Column {
  theirs: string;
  ours: string;
  unit: string;
}

const LEFT_OUT = "";

/** What each column of a tester's file is: picked once, kept with the tester. */
export function ColumnPicks({
  look,
  known,
  busy,
  keep,
}: {
  look: FileLook;
  known: string[];
  busy: boolean;
  keep: (columns: Column[]) => void;
}) {
  const [picked, setPicked] = useState<Column[]>(
    look.columns.filter((one) => one.theirs !== "").map(({ theirs, ours, unit }) => ({ theirs, ours, unit })),
  );
  const put = (index: number, change: Partial<Column>) =>
    setPicked(picked.map((one, at) => (at === index ? { ...one, ...change } : one)));
  const options = [
    { value: LEFT_OUT, label: say("prove.left_out") },
    ...known.map((name) => ({ value: name, label: name.replaceAll("_", " ") })),
  ];
  return (
    <fieldset className="column-picks">
      <legend>{say("prove.what_its_columns_are")}</legend>
      {picked.map((one, index) => (
        <div key={one.theirs} className="column-pick">
          <span>
            <b>{one.theirs}</b>
            <small>{look.columns.find((column) => column.theirs === one.theirs)?.sample}</small>
          </span>
          <Select
            showSearch={{ optionFilterProp: "label" }}
            aria-label={say("prove.is", { theirs: one.theirs })}
            value={one.ours}
            options={options}
            onChange={(ours: string) => put(index, { ours })}
          />
          <Input
            aria-label={say("prove.unit_of", { theirs: one.theirs })}
            placeholder={say("prove.unit")}
            value={one.unit}
            onChange={(event) => put(index, { unit: event.target.value })}
          />
        </div>
      ))}
      <Button loading={busy} onClick={() => keep(picked)}>
        {say("prove.keep_for_this_tester")}
      </Button>
    </fieldset>
  );
}
