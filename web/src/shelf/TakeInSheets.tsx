import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { useStop } from "../shared/api/stopping";
import { Working } from "../shared/fields/Working";
import { type TakingIn, takeInSheets } from "../shared/api/stream";
import type { Kind, Problem } from "../shared/api/types";
import { FileButton } from "../shared/fields/FileButton";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { say } from "../words/say";
import "./TakeInSheets.css";

const SHOWN_PROBLEMS = 12;

type Going =
  | { state: "idle" }
  | { state: "reading"; checked: number; rows: number }
  | { state: "library"; entries: number; leftOut: number[] }
  | { state: "kept"; kept: number; doubled: number[] }
  | { state: "refused"; problems: Problem[]; said: string }
  | { state: "failed"; error: Error };

function after(step: TakingIn): Going {
  if ("problems" in step) return { state: "refused", problems: step.problems, said: step.said };
  if ("entries" in step) return { state: "library", entries: step.entries, leftOut: step.left_out };
  if ("kept" in step) return { state: "kept", kept: step.kept, doubled: step.doubled_rows };
  return { state: "reading", checked: step.checked, rows: step.rows };
}

/** Sheets from a CSV or JSON file: progress as rows are checked, errors by row and column, all or nothing. */
export function TakeInSheets({ kind }: { kind: Kind }) {
  const client = useQueryClient();
  const [going, setGoing] = useState<Going>({ state: "idle" });
  const [file, setFile] = useState<File | null>(null);
  const { begun, stop } = useStop();
  const read = async (chosen: File, asGiven: boolean) => {
    setGoing({ state: "reading", checked: 0, rows: 0 });
    try {
      await takeInSheets(kind, chosen, asGiven, (step) => setGoing(after(step)), begun());
      await client.invalidateQueries({ queryKey: ["sheets"] });
      await client.invalidateQueries({ queryKey: ["shelf"] });
    } catch (fault) {
      setGoing({ state: "failed", error: fault as Error });
    }
  };
  return (
    <div className="take-in-sheets">
      <FileButton
        label={say("shelf.sheets_file")}
        accept=".csv,.json,text/csv,application/json"
        busy={going.state === "reading"}
        take={(chosen) => {
          setFile(chosen);
          void read(chosen, false);
        }}
      >
        {say("shelf.read_a_file_in")}
      </FileButton>
      <div role="status" className="take-in-told">
        {going.state === "reading" && (
          <>
            <progress max={Math.max(going.rows, 1)} value={going.checked} />{" "}
            {say("shelf.of_rows_checked", { checked: going.checked, rows: going.rows })}{" "}
            <Working is doing={say("shelf.checking")} stop={stop} />
          </>
        )}
        {going.state === "library" && (
          <p>
            {say("shelf.rows_of_a_library_stand_behind", {
              entries: going.entries,
              leftOutCount:
                going.leftOut.length > 0 &&
                say("shelf.without_figures_and_left_out_lines", { leftOut: going.leftOut.join(", ") }),
            })}
          </p>
        )}
        {going.state === "kept" && (
          <p>
            {say("shelf.sheets_are_on_the_shelf", {
              kept: going.kept,
              doubledCount:
                going.doubled.length > 0 &&
                say("shelf.passed_over_since_they_stand_twice", {
                  doubled: going.doubled.slice(0, SHOWN_PROBLEMS).join(", "),
                }),
            })}
          </p>
        )}
      </div>
      {going.state === "failed" && <ProblemNote error={going.error} />}
      {going.state === "refused" && (
        <div className="problem" role="alert">
          <strong>{say("shelf.nothing_was_taken_in")}</strong>
          <table className="points">
            <thead>
              <tr>
                <th>{say("shelf.where")}</th>
                <th>{say("shelf.what_is_wrong")}</th>
                <th>{say("shelf.allowed")}</th>
              </tr>
            </thead>
            <tbody>
              {going.problems.slice(0, SHOWN_PROBLEMS).map((one, index) => (
                <tr key={index}>
                  <td>{one.path}</td>
                  <td>{one.message}</td>
                  <td>{one.allowed}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {going.problems.length > SHOWN_PROBLEMS && (
            <p>{say("shelf.more", { problemsCount: going.problems.length - SHOWN_PROBLEMS })}</p>
          )}
          {going.problems.every((one) => one.suggestion !== "") && file !== null && (
            <Button onClick={() => void read(file, true)}>{say("shelf.the_sheets_say_so_take_them")}</Button>
          )}
          <p className="kept">{going.said}</p>
        </div>
      )}
    </div>
  );
}
