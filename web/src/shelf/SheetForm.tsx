import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input, Select } from "antd";
import { useState } from "react";
import { api } from "../shared/api/calls";
import { Refusal } from "../shared/api/transport";
import type { Column, Kind, Problem, SheetView } from "../shared/api/types";
import { ProblemNote } from "../shared/judging/ProblemNote";
import "./shelf.css";
import "./SheetForm.css";

interface SheetFormProps {
  kind: Kind;
  /** Identity of the sheet shown; "" for a new one. */
  id: string;
  close: () => void;
}

/** A sheet field by field: as it stands, or to enter. */
export function SheetForm({ kind, id, close }: SheetFormProps) {
  const columns = useQuery({ queryKey: ["columns", kind], queryFn: () => api.columns(kind), staleTime: Infinity });
  const sheet = useQuery({ queryKey: ["sheet", kind, id], queryFn: () => api.sheet(kind, id), enabled: id !== "" });
  if (columns.data === undefined || (id !== "" && sheet.data === undefined)) return <p>Opening the sheet</p>;
  return <Fields kind={kind} columns={columns.data.columns} sheet={sheet.data ?? null} close={close} />;
}

/** In the hand the sheet stands under the list: bring it up when it opens. */
const bringIntoView = (form: HTMLFormElement | null) => form?.scrollIntoView({ block: "nearest" });
const isPlain = (column: Column) => column.name.replaceAll("_", " ") === column.meaning;
const fieldOf = (problem: Problem) => problem.path.replace("$.", "");
const isQuestion = (error: Error | null) =>
  error instanceof Refusal && error.report.problems.some((one) => one.suggestion !== "");

function Fields({
  kind,
  columns,
  sheet,
  close,
}: {
  kind: Kind;
  columns: Column[];
  sheet: SheetView | null;
  close: () => void;
}) {
  const client = useQueryClient();
  const stored = Object.fromEntries(sheet?.cells.map((cell) => [cell.name, cell.text]) ?? []);
  const [typed, setTyped] = useState<Record<string, string>>({});
  const value = (name: string) => typed[name] ?? (name === "checked_by" ? "" : (stored[name] ?? ""));
  const put = (name: string, text: string) => setTyped({ ...typed, [name]: text });
  const done = async () => {
    await client.invalidateQueries({ queryKey: ["sheets"] });
    await client.invalidateQueries({ queryKey: ["sheet", kind] });
    await client.invalidateQueries({ queryKey: ["shelf"] });
    close();
  };
  const keep = useMutation({
    mutationFn: (asGiven: boolean) =>
      api.keepSheet(
        kind,
        columns.map(({ name }) => ({ name, text: value(name) })).filter((cell) => cell.text !== ""),
        asGiven,
      ),
    onSuccess: done,
  });
  const withdraw = useMutation({ mutationFn: (id: string) => api.withdraw(kind, id), onSuccess: done });
  const wrong = keep.error instanceof Refusal ? keep.error.report.problems.map(fieldOf) : [];
  return (
    <form
      ref={bringIntoView}
      className="sheet-form"
      aria-label={sheet === null ? "New sheet" : sheet.line.label}
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate(false);
      }}
    >
      <h2>{sheet === null ? "New sheet" : sheet.line.label}</h2>
      <div className="sheet-fields">
        {columns.map((column) => (
          <label className="entry" key={column.name}>
            <span className="entry-label">
              {column.meaning}
              {column.unit === "" ? "" : `, ${column.unit}`}
              {column.required ? "" : ", if given"} {isPlain(column) ? "" : <code>{column.name}</code>}
            </span>
            {column.choices.length > 0 ? (
              <Select
                aria-label={column.name}
                allowClear={!column.required}
                value={value(column.name) === "" ? null : value(column.name)}
                options={column.choices.map((one) => ({ value: one, label: one }))}
                onChange={(choice: string | undefined) => put(column.name, choice ?? "")}
              />
            ) : (
              <Input
                value={value(column.name)}
                status={wrong.includes(column.name) ? "error" : ""}
                title={`${column.meaning}: ${column.allowed}`}
                onChange={(event) => put(column.name, event.target.value)}
              />
            )}
          </label>
        ))}
      </div>
      <ProblemNote error={keep.error ?? withdraw.error} take={(problem) => put(fieldOf(problem), problem.suggestion)} />
      <div className="shelf-do">
        <Button type="primary" htmlType="submit" loading={keep.isPending}>
          Keep this sheet
        </Button>
        {isQuestion(keep.error) && <Button onClick={() => keep.mutate(true)}>The sheet says so: keep as given</Button>}
        {sheet !== null && <Button onClick={() => withdraw.mutate(sheet.line.id)}>Take it off the shelf</Button>}
        <Button onClick={close}>Leave it</Button>
      </div>
      {sheet !== null && (
        <ol className="revisions">
          {sheet.revisions.map((one, index) => (
            <li key={index}>
              {one.sheet_revision}: {one.by}
              {one.at === null ? "" : `, ${one.at.slice(0, 10)}`}
              {one.checked_by === "" ? ", not checked" : `, checked by ${one.checked_by}`}
            </li>
          ))}
        </ol>
      )}
    </form>
  );
}
