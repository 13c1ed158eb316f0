import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { useStop } from "../shared/api/stopping";
import { Working } from "../shared/fields/Working";
import { type TakingIn, takeInSheets } from "../shared/api/stream";
import type { Kind, Problem } from "../shared/api/types";
import { FileButton } from "../shared/fields/FileButton";
import { ProblemNote } from "../shared/judging/ProblemNote";
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
        label="Sheets file"
        accept=".csv,.json,text/csv,application/json"
        busy={going.state === "reading"}
        take={(chosen) => {
          setFile(chosen);
          void read(chosen, false);
        }}
      >
        Read a file in
      </FileButton>
      <div role="status" className="take-in-told">
        {going.state === "reading" && (
          <>
            <progress max={Math.max(going.rows, 1)} value={going.checked} /> {going.checked} of {going.rows} rows
            checked <Working is doing="Checking" stop={stop} />
          </>
        )}
        {going.state === "library" && (
          <p>
            {going.entries} rows of a library stand behind the shelf: type a maker or a type to find one. What its label
            has still to say is asked when it is taken.
            {going.leftOut.length > 0 && ` Without figures, and left out: lines ${going.leftOut.join(", ")}.`}
          </p>
        )}
        {going.state === "kept" && (
          <p>
            {going.kept} sheets are on the shelf.
            {going.doubled.length > 0 &&
              ` Passed over, since they stand twice: rows ${going.doubled.slice(0, SHOWN_PROBLEMS).join(", ")}.`}
          </p>
        )}
      </div>
      {going.state === "failed" && <ProblemNote error={going.error} />}
      {going.state === "refused" && (
        <div className="problem" role="alert">
          <strong>Nothing was taken in</strong>
          <table className="points">
            <thead>
              <tr>
                <th>Where</th>
                <th>What is wrong</th>
                <th>Allowed</th>
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
          {going.problems.length > SHOWN_PROBLEMS && <p>{going.problems.length - SHOWN_PROBLEMS} more.</p>}
          {going.problems.every((one) => one.suggestion !== "") && file !== null && (
            <Button onClick={() => void read(file, true)}>The sheets say so: take them as given</Button>
          )}
          <p className="kept">{going.said}</p>
        </div>
      )}
    </div>
  );
}
