import { Button, Input, Select } from "antd";
import { useState } from "react";
import type { Plane } from "../../shared/api/client";
import { useChange, useEdit } from "../../shared/api/useJobWrite";
import { Entry } from "../../shared/Entry";
import { figure } from "../../shared/figures";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { resized } from "./roof";

export const MOUNTINGS = [
  { value: "close", label: "close to the roof" },
  { value: "raised", label: "raised on a rack" },
  { value: "open", label: "open rack" },
];
const MOST_ROWS = 30;
const MOST_COLUMNS = 40;

/** One roof plane: how it lies, what is drawn on it, what shades it. */
export function PlaneEditor({ jobId, plane, index }: { jobId: string; plane: Plane; index: number }) {
  const change = useChange(jobId);
  const edit = useEdit(jobId);
  const path = `$.planes[${index}]`;
  return (
    <section className="plane" aria-label={`Plane ${plane.name}`}>
      <h3>{plane.name}</h3>
      <div className="plane-fields">
        <Entry jobId={jobId} label="Tilt" path={`${path}.tilt_deg`} shown={figure(plane.tilt_deg, "°")} />
        <Entry jobId={jobId} label="Facing, 180 south" path={`${path}.azimuth_deg`} shown={figure(plane.azimuth_deg, "°")} />
        <label className="entry">
          <span className="entry-label">Mounting</span>
          <Select aria-label={`Mounting of ${plane.name}`} value={plane.mounting} options={MOUNTINGS} onChange={(entered: string) => change.mutate([{ path: `${path}.mounting`, entered }])} />
        </label>
        <Size rows={plane.rows} put={(rows) => edit.mutate({ do: "shape_plane", name: plane.name, rows })} />
        <Button className="plane-off" onClick={() => edit.mutate({ do: "remove_plane", name: plane.name })}>Remove</Button>
      </div>
      <Entry jobId={jobId} label="Shade: what, and when" path={`${path}.shade`} shown={plane.shade} />
      <ProblemNote error={change.error ?? edit.error} />
    </section>
  );
}

/** Rows and columns as drawn, typed as "2 x 6". */
function Size({ rows, put }: { rows: string[]; put: (rows: string[]) => void }) {
  const shown = rows.length === 0 ? "" : `${rows.length} × ${Math.max(...rows.map((row) => row.length))}`;
  const [typed, setTyped] = useState<string | null>(null);
  const parts = /^\s*(\d+)\s*[x×*]\s*(\d+)\s*$/i.exec(typed ?? "");
  const [rowCount, columnCount] = [Number(parts?.[1]), Number(parts?.[2])];
  const fits = parts !== null && rowCount >= 1 && columnCount >= 1 && rowCount <= MOST_ROWS && columnCount <= MOST_COLUMNS;
  const send = () => {
    if (!fits) return;
    put(resized(rows, rowCount, columnCount));
    setTyped(null);
  };
  const isWrong = typed !== null && typed !== "" && !fits;
  return (
    <label className="entry">
      <span className="entry-label">Rows × columns</span>
      <Input value={typed ?? shown} placeholder="2 × 6" status={isWrong ? "error" : ""} onChange={(event) => setTyped(event.target.value)} onBlur={send} onPressEnter={send} />
      {isWrong && <span className="entry-hint">As 2 × 6; up to {MOST_ROWS} × {MOST_COLUMNS}. Kept: {shown === "" ? "not drawn" : shown}</span>}
    </label>
  );
}
