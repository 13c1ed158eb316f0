import { useState } from "react";
import type { Edit, GoodsIn, Kind, LoadInLine } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { Photos } from "../../shared/evidence/Photos";
import { figure } from "../../shared/lib/figures";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Mark } from "../../shared/marks/Mark";
import { SheetPick } from "../../shared/fields/SheetPick";
import { Field } from "../../shared/fields/Field";
import { say } from "../../words/say";
import "./LoadInRow.css";

interface RowProps {
  jobId: string;
  line: LoadInLine;
  count: (counted: GoodsIn[]) => void;
  /** The same for what is typed: it stays in its field until it has been taken. */
  typed: (counted: GoodsIn[]) => Promise<unknown>;
}

type Swapped = Extract<Edit, { do: "substitute" }>["kind"];

/** One line: what, how many, how many are here; behind a touch what is damaged, swapped, photographed. */
export function LoadInRow({ jobId, line, count, typed }: RowProps) {
  const [open, setOpen] = useState(false);
  const edit = useEdit(jobId);
  const { needed, found, damaged, judgement } = line;
  const text = (value: number | null) => (value === null ? "" : figure(value, "", 2));
  return (
    <li className={`goods goods-${judgement.verdict}`}>
      <button type="button" className="goods-what" aria-expanded={open} onClick={() => setOpen(!open)}>
        <Mark verdict={judgement.verdict} />
        <span>
          {line.what}
          {line.keep !== "" && <small>{line.keep}</small>}
        </span>
      </button>
      <Tally line={line} />
      <span className="goods-needed">
        {needed === null ? "?" : <b>{figure(needed, "", 2)}</b>} {line.unit}
      </span>
      <Field
        bare
        label={say("arrive.here_of", { what: line.what })}
        shown={text(found)}
        commit={(entered) => typed([{ line: line.id, found: entered, damaged: "", note: "" }])}
      />
      <button
        type="button"
        className="goods-all"
        disabled={needed === null}
        aria-label={say("arrive.all_here_3", { what: line.what })}
        onClick={() =>
          count([{ line: line.id, found: String(needed), damaged: damaged === null ? "" : "0", note: "" }])
        }
      >
        {say("arrive.all")}
      </button>
      {(open || judgement.verdict === "stop" || judgement.verdict === "watch") && (
        <p className="goods-told">{judgement.reason}</p>
      )}
      {open && (
        <div className="goods-more">
          <p className="source">{say("arrive.counted_by", { because: line.because })}</p>
          <Field
            label={say("arrive.damaged_of", { what: line.what })}
            shown={text(damaged)}
            commit={(entered) => typed([{ line: line.id, found: String(found ?? 0), damaged: entered, note: "" }])}
          />
          {line.kind !== "" && (
            <SheetPick
              kind={line.kind as Kind}
              label={say("arrive.came_instead")}
              now={null}
              nowLabel=""
              put={(id) => {
                if (id !== null) edit.mutate({ do: "substitute", kind: line.kind as Swapped, was: line.what, id });
              }}
            />
          )}
          <Photos jobId={jobId} step={line.id} title={line.what} />
          <ProblemNote error={edit.error} />
          {line.history.length > 0 && (
            <ul className="history">
              {line.history.map((kept) => (
                <li key={kept.id}>
                  {kept.text} {kept.by}
                </li>
              ))}
            </ul>
          )}
        </div>
      )}
    </li>
  );
}

const WIDTH_PX = 96;
const HEIGHT_PX = 14;

/** Needed as an open box, what is here and whole as the filled part of it, what is damaged crossed out. */
function Tally({ line }: { line: LoadInLine }) {
  if (line.needed === null || line.needed === 0) return <span className="tally" />;
  const share = (value: number) => Math.min(value / (line.needed ?? 1), 1) * WIDTH_PX;
  const whole = share(Math.max((line.found ?? 0) - (line.damaged ?? 0), 0));
  const broken = share(line.damaged ?? 0);
  return (
    <svg className="tally" width={WIDTH_PX + 2} height={HEIGHT_PX + 2} aria-hidden="true">
      <rect className="tally-here" x={1} y={1} width={whole} height={HEIGHT_PX} />
      <rect
        className="tally-damaged"
        x={1 + whole}
        y={1}
        width={Math.min(broken, WIDTH_PX - whole)}
        height={HEIGHT_PX}
      />
      <rect className="tally-needed" x={1} y={1} width={WIDTH_PX} height={HEIGHT_PX} />
    </svg>
  );
}
