import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Checkbox, Input, Select } from "antd";
import { useState } from "react";
import { api } from "../api/calls";
import { Refusal } from "../api/transport";
import type { Column, Kind, LabelView, Problem, SheetView } from "../api/types";
import { ProblemNote } from "../judging/ProblemNote";
import { BodyPicture } from "./BodyPicture";
import { groupsOf, shownGroups, type Group } from "./groups";
import { say } from "../../words/say";
import "./SheetForm.css";

interface SheetFormProps {
  kind: Kind;
  /** Identity of the sheet shown; "" for a new one. */
  id: string;
  close: () => void;
  /** What was kept, by its identity and its name. */
  kept?: (id: string, label: string) => void;
  /** The row of a library that fills a new sheet as far as it goes. */
  entry?: number;
  /** What was read off a picture of the label: figures to be compared before they are kept. */
  label?: LabelView;
}

/** A sheet field by field: as it stands, or to enter. */
export function SheetForm({ kind, id, close, kept, entry, label }: SheetFormProps) {
  const columns = useQuery({ queryKey: ["columns", kind], queryFn: () => api.columns(kind), staleTime: Infinity });
  const sheet = useQuery({ queryKey: ["sheet", kind, id], queryFn: () => api.sheet(kind, id), enabled: id !== "" });
  const row = useQuery({
    queryKey: ["library", kind, entry],
    queryFn: () => api.libraryEntry(kind, entry ?? 0),
    enabled: entry !== undefined,
  });
  if (entry !== undefined && row.data === undefined) return <p>{say("shared.opening_the_row")}</p>;
  if (columns.data === undefined || (id !== "" && sheet.data === undefined))
    return <p>{say("shared.opening_the_sheet")}</p>;
  const filled = Object.fromEntries((label ?? row.data)?.cells.map((cell) => [cell.name, cell.text]) ?? []);
  return (
    <Fields
      kind={kind}
      columns={columns.data.columns}
      sheet={sheet.data ?? null}
      filled={filled}
      isReadOff={label !== undefined}
      close={close}
      kept={kept}
    />
  );
}

/** In the hand the sheet stands under the list: bring it up when it opens. */
const bringIntoView = (form: HTMLFormElement | null) => form?.scrollIntoView({ block: "nearest" });
const BODY = "body";
const fieldOf = (problem: Problem) => problem.path.replace("$.", "");
const isQuestion = (error: Error | null) =>
  error instanceof Refusal && error.report.problems.some((one) => one.suggestion !== "");

function Fields({
  kind,
  columns,
  sheet,
  filled: given,
  isReadOff,
  close,
  kept,
}: {
  kind: Kind;
  columns: Column[];
  sheet: SheetView | null;
  filled: Record<string, string>;
  isReadOff: boolean;
  close: () => void;
  kept: ((id: string, label: string) => void) | undefined;
}) {
  const client = useQueryClient();
  const stored = Object.fromEntries(sheet?.cells.map((cell) => [cell.name, cell.text]) ?? []);
  const [typed, setTyped] = useState<Record<string, string>>(given);
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
    onSuccess: async () => {
      const [id, label] = [value("id"), `${value("maker")} ${value("model")}`];
      await done();
      kept?.(id, label);
    },
  });
  const withdraw = useMutation({ mutationFn: (id: string) => api.withdraw(kind, id), onSuccess: done });
  const [isCompared, setIsCompared] = useState(!isReadOff);
  const [at, setAt] = useState("");
  const [more, setMore] = useState<Record<string, number>>({});
  const holds = (group: Group) => group.columns.some(({ name }) => value(name) !== "");
  const { shown, next } = shownGroups(groupsOf(columns), holds, more);
  const isAsked = (group: Group) => group.row !== "" || group.columns.some((column) => column.required);
  const filled = (group: Group) => {
    const count = group.columns.filter(({ name }) => value(name) !== "").length;
    return count === 0
      ? say("shared.nothing_entered")
      : say("shared.of_5", { count, columnsCount: group.columns.length });
  };
  const lastOf = (name: string) => name.slice(name.lastIndexOf(".") + 1);
  const labelOf = (name: string) => columns.find((column) => column.name === name)?.meaning ?? "";
  const wrong = keep.error instanceof Refusal ? keep.error.report.problems.map(fieldOf) : [];
  return (
    <form
      ref={bringIntoView}
      className="sheet-form"
      aria-label={sheet === null ? say("common.new_sheet") : sheet.line.label}
      onSubmit={(event) => {
        event.preventDefault();
        // The form may stand beside another one, whose picker opened it.
        event.stopPropagation();
        keep.mutate(false);
      }}
    >
      <h2>{sheet === null ? say("common.new_sheet") : sheet.line.label}</h2>
      {shown.map((group) => (
        <details
          key={group.path}
          className="sheet-group"
          open={
            group.path === "" ||
            holds(group) ||
            group.columns.some(({ name }) => wrong.includes(name)) ||
            isAsked(group)
          }
        >
          <summary>
            {group.heading} <small>{filled(group)}</small>
          </summary>
          {group.path.startsWith(BODY) && <BodyPicture field={lastOf(at)} label={labelOf(at)} />}
          <div className="sheet-fields">
            {group.columns.map((column) => (
              <label className="entry" key={column.name}>
                <span className="entry-label">
                  {column.meaning}
                  {column.unit === "" ? "" : `, ${column.unit}`}
                  {column.required ? <b className="must"> {say("shared.must")}</b> : ""}
                </span>
                {column.choices.length > 0 ? (
                  <Select
                    aria-label={column.name}
                    onFocus={() => setAt(column.name)}
                    allowClear={!column.required}
                    value={value(column.name) === "" ? null : value(column.name)}
                    options={column.choices.map((one) => ({ value: one, label: one }))}
                    onChange={(choice: string | undefined) => put(column.name, choice ?? "")}
                  />
                ) : (
                  <Input
                    value={value(column.name)}
                    onFocus={() => setAt(column.name)}
                    status={wrong.includes(column.name) ? "error" : ""}
                    title={`${column.name}: ${column.allowed}`}
                    onChange={(event) => put(column.name, event.target.value)}
                  />
                )}
                {column.help !== "" && <span className="entry-hint">{column.help}</span>}
              </label>
            ))}
          </div>
        </details>
      ))}
      {next.map((one) => (
        <Button key={one.row} onClick={() => setMore({ ...more, [one.row]: (more[one.row] ?? 0) + 1 })}>
          {say("shared.add", { heading: one.heading })}
        </Button>
      ))}
      <ProblemNote error={keep.error ?? withdraw.error} take={(problem) => put(fieldOf(problem), problem.suggestion)} />
      {isReadOff && (
        <Checkbox checked={isCompared} onChange={(event) => setIsCompared(event.target.checked)}>
          {say("shared.i_compared_each_figure_with_the")}
        </Checkbox>
      )}
      <div className="shelf-do">
        <Button type="primary" htmlType="submit" loading={keep.isPending} disabled={!isCompared}>
          {say("shared.keep_this_sheet")}
        </Button>
        {isQuestion(keep.error) && (
          <Button onClick={() => keep.mutate(true)}>{say("shared.the_sheet_says_so_keep_as")}</Button>
        )}
        {sheet !== null && (
          <Button onClick={() => withdraw.mutate(sheet.line.id)}>{say("shared.take_it_off_the_shelf")}</Button>
        )}
        <Button onClick={close}>{say("shared.leave_it")}</Button>
      </div>
      {sheet !== null && (
        <ol className="revisions">
          {sheet.revisions.map((one, index) => (
            <li key={index}>
              {one.sheet_revision}: {one.by}
              {one.at === null ? "" : `, ${one.at.slice(0, 10)}`}
              {one.checked_by === ""
                ? say("shared.not_checked")
                : say("shared.checked_by", { checked_by: one.checked_by })}
            </li>
          ))}
        </ol>
      )}
    </form>
  );
}
