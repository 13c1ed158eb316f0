import { memo, useState } from "react";
import { useSession } from "../../people/useSession";
import { api } from "../api/calls";
import type { Prompt, RecordedReading } from "../api/types";
import { useJob } from "../api/useJob";
import { useJobWrite, useKeep } from "../api/useJobWrite";
import { dayAndClock } from "../lib/figures";
import { Photos } from "../evidence/Photos";
import { useCoreHere } from "../hand/core";
import { ProblemNote } from "../judging/ProblemNote";
import { HollowMark, Mark } from "../marks/Mark";
import type { Waiting } from "../outbox/store";
import { useWaitingOf } from "../outbox/useOutbox";
import { Verdicts } from "./Verdicts";
import { say } from "../../words/say";
import "./readings.css";
import "./AskLine.css";

interface AskLineProps {
  jobId: string;
  ask: Prompt;
  timezone: string;
  whyAll: boolean;
  /**
   * Opens the reading of a key, to take it or to correct one. It stays the same function, so that lines that
   * did not change are not drawn anew.
   */
  open: (wanted: { key: string; corrects: RecordedReading | null }) => void;
}

/** One thing to read or read already: the figure, what was expected, and behind a touch who and when. */
export const AskLine = memo(function AskLine({ jobId, ask, timezone, whyAll, open: openReading }: AskLineProps) {
  const [open, setOpen] = useState(false);
  const take = () => openReading({ key: ask.key, corrects: null });
  const { reading } = ask;
  const waits = useWaitingOf(jobId, ask.kind, ask.subject);
  const core = useCoreHere();
  // The core on this device has judged what was pressed; without it the verdict comes with the signal.
  const isJudged = waits === undefined || reading?.id === waits.id;
  const tells = ask.verdict !== "clear" || whyAll || open;
  const corrected = ask.history.some((kept) => kept.superseded_by !== null || kept.is_past);
  return (
    <section className={`ask ask-${ask.verdict}`} id={`ask-${ask.key}`}>
      <button
        type="button"
        className="ask-head"
        aria-expanded={open}
        onClick={() => {
          if (reading === null) take();
          else setOpen(!open);
        }}
      >
        <span className="ask-title">
          {ask.title}
          {ask.optional && reading === null && <i> {say("shared.optional")}</i>}
        </span>
        {reading !== null && isJudged && <b className={ask.is_text ? "as-text" : undefined}>{reading.text}</b>}
        {waits !== undefined && !isJudged && <b className="as-text">{answerOf(ask, enteredOf(waits))}</b>}
        {isJudged && <Mark verdict={ask.verdict} />}
        {waits !== undefined && <HollowMark core={isJudged ? core : ""} />}
      </button>
      {(ask.expected_text !== "" || reading?.basis === "clear_sky") && (
        <div className="ask-value">
          {ask.expected_text !== "" && <span>{say("shared.expect", { expected_text: ask.expected_text })}</span>}
          {reading?.basis === "clear_sky" && <em>{say("shared.clear_sky_computed")}</em>}
        </div>
      )}
      {ask.choices.length > 0 && <Choices jobId={jobId} ask={ask} timezone={timezone} />}
      {reading !== null && tells && <Verdicts ask={ask} all={whyAll || open} />}
      {(open || corrected) && <History jobId={jobId} history={ask.history} timezone={timezone} />}
      {open && <Photos jobId={jobId} step={ask.key} title={ask.title} />}
      {reading?.learner === true && <Countersign jobId={jobId} reading={reading} />}
      {reading !== null && open && (
        <div className="ask-foot">
          <button type="button" className="quiet" onClick={() => openReading({ key: ask.key, corrects: reading })}>
            {say("shared.correct")}
          </button>
          <button type="button" className="quiet" onClick={take}>
            {say("common.read_again")}
          </button>
        </div>
      )}
    </section>
  );
});

const enteredOf = ({ press }: Waiting) => ("reading" in press ? press.reading.entered : "");

/** What was answered, in its words; anything else as it was typed. */
function answerOf(ask: Prompt, entered: string): string {
  return ask.answers.length > 0 ? (ask.answers[entered === "1" ? 0 : 1] ?? entered) : `${entered} ${ask.unit}`.trim();
}

/** Two people corrected one reading, neither knowing of the other: whoever knows better chooses. */
function Choices({ jobId, ask, timezone }: { jobId: string; ask: Prompt; timezone: string }) {
  const keep = useKeep(jobId);
  return (
    <div className="ask-choices">
      <Verdicts ask={ask} all />
      {ask.choices.map(({ reading, entered, supersedes }) => (
        <button
          key={reading.id}
          type="button"
          disabled={keep.isPending}
          onClick={() =>
            keep.mutate({
              kind: ask.kind,
              subject: ask.subject,
              entered,
              supersedes,
              taken_at: reading.taken_at,
              instrument: reading.instrument,
              note: reading.note,
            })
          }
        >
          <b>{reading.text}</b> {reading.by}, {dayAndClock(reading.taken_at, timezone)}
        </button>
      ))}
      <ProblemNote error={keep.error} />
    </div>
  );
}

/** What a learner measured: who answers for it says so here. */
function Countersign({ jobId, reading }: { jobId: string; reading: RecordedReading }) {
  const { may } = useSession();
  const sign = useJobWrite<string>(jobId, (id) => api.countersign(jobId, [id]));
  if (!may("countersign")) return null;
  return (
    <div className="ask-foot">
      <button type="button" className="quiet" disabled={sign.isPending} onClick={() => sign.mutate(reading.id)}>
        {say("shared.countersign_what_read", { by: reading.by })}
      </button>
      <ProblemNote error={sign.error} />
    </div>
  );
}

interface HistoryProps {
  jobId: string;
  history: RecordedReading[];
  timezone: string;
}

function History({ jobId, history, timezone }: HistoryProps) {
  const job = useJob(jobId);
  const fileOf = (id: string) => job.data?.files.find((one) => one.readings.includes(id));
  return (
    <ul className="history">
      {history.map((kept) => (
        <li key={kept.id} className={kept.superseded_by === null && !kept.is_past ? undefined : "superseded"}>
          <span>{kept.text}</span> {kept.by}, {dayAndClock(kept.taken_at, timezone)}
          {kept.superseded_by !== null && (kept.retest ? say("shared.made_again") : say("shared.corrected"))}
          {kept.is_past && say("shared.of_what_stood_there_before")}
          {kept.learner && say("shared.learning")}
          {fileOf(kept.id) !== undefined && say("shared.from", { name: fileOf(kept.id)?.name ?? say("shared.a_file") })}
          {kept.note !== "" && `. ${kept.note}`}
        </li>
      ))}
    </ul>
  );
}
