import type { HangStage } from "../api/types";
import { figure } from "../lib/figures";
import { JudgementList } from "../judging/JudgementList";
import { rich, say } from "../../words/say";
import "./TapeMarks.css";

type Row = HangStage["tape"][number];

const STRIP = { height: 46, rail: 26, inset: 40 };

/** The rails of one plane as marks for the tape: hooks on rafters, clamps between modules. */
export function TapeMarks({ rows, whyAll }: { rows: Row[]; whyAll: boolean }) {
  if (rows.length === 0) return null;
  return (
    <section className="tape" aria-label={say("shared.marks_for_the_tape", { plane: rows[0]?.plane ?? "" })}>
      <h4>{say("shared.marks_for_the_tape_in_mm")}</h4>
      {rows.map((row) => (
        <div key={row.title} className="tape-row">
          <p>{rich("shared.two_rails_of", { title: <b>{row.title}</b>, rail_mm: figure(row.rail_mm, "mm", 0) })}</p>
          <Strip row={row} />
          {row.hooks_mm.length > 0 && (
            <p className="tape-marks">
              <b>{say("shared.hooks")}</b> {marks(row.hooks_mm)}
            </p>
          )}
          <p className="tape-marks">
            <b>{say("shared.clamps")}</b> {marks(row.clamps_mm)}
          </p>
          {row.judgement !== null && <JudgementList judgements={[row.judgement]} allOpen={whyAll} />}
        </div>
      ))}
      {rows.some((row) => row.judgement === null) && (
        <p className="source">{say("shared.give_the_first_rafter_and_their")}</p>
      )}
    </section>
  );
}

const marks = (of: number[]) => of.map((one) => figure(one, "", 0)).join(" · ");

/** A rail to scale: modules over it, hooks under it, clamps on it. */
function Strip({ row }: { row: Row }) {
  return (
    <svg
      className="tape-strip"
      viewBox={`${-STRIP.inset} 0 ${row.rail_mm + 2 * STRIP.inset} ${STRIP.height}`}
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      {row.modules_mm.map((left) => (
        <rect key={left} className="tape-module" x={left} y={4} width={row.module_mm} height={16} />
      ))}
      <line className="tape-rail" x1={0} x2={row.rail_mm} y1={STRIP.rail} y2={STRIP.rail} />
      {row.hooks_mm.map((at) => (
        <line key={at} className="tape-hook" x1={at} x2={at} y1={STRIP.rail} y2={STRIP.height - 4} />
      ))}
    </svg>
  );
}
