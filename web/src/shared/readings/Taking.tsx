import { Button, Input } from "antd";
import { useEffect, useRef, useState } from "react";
import type { Prompt, RecordedReading, ReadingIn } from "../api/types";
import { useKeep, useKeepClearSky } from "../api/useJobWrite";
import { Photos } from "../evidence/Photos";
import { ProblemNote } from "../judging/ProblemNote";
import { Scan } from "../scan/Scan";
import { useNarrow } from "../lib/useNarrow";
import { BandPicture } from "./BandPicture";
import { Keypad } from "./Keypad";
import { Moment } from "./Moment";
import { TesterAsk } from "./TesterAsk";
import { useTried } from "./useTried";
import { Verdicts } from "./Verdicts";
import { say } from "../../words/say";
import "./Taking.css";
import "./readings.css";

interface TakingProps {
  jobId: string;
  ask: Prompt;
  corrects: RecordedReading | null;
  moment: string | null;
  setMoment: (iso: string | null) => void;
  place: string;
  /** The tester in hand: what is read is kept under its name. */
  tester: string;
  /** No tester is named on this job yet, and this reading is one of its tests. */
  asksTester: boolean;
  kept: () => void;
  leave: () => void;
  /** What was pressed to be kept, and could not be after its field was left. */
  notKept: (entered: string, error: Error) => void;
}

/** One reading at a time: what is expected, the big number, the verdict as it is typed. */
export function Taking(props: TakingProps) {
  const { jobId, ask, corrects, moment, setMoment, place, tester, asksTester, kept, leave, notKept } = props;
  const [entered, setEntered] = useState("");
  // A correction is asked for its reason at once.
  const [words, setWords] = useState<Words | null>(corrects === null ? null : { note: "", instrument: tester });
  const narrow = useNarrow();
  const input = useRef<HTMLInputElement>(null);
  const heading = useRef<HTMLHeadingElement>(null);
  // Where there is no field the heading has the focus: an answer is never one stray Enter away.
  useEffect(() => (input.current ?? heading.current)?.focus(), [ask.key]);
  // Escape leaves it, wherever in it the focus is.
  const section = useRef<HTMLElement>(null);
  const latestLeave = useRef(leave);
  useEffect(() => {
    latestLeave.current = leave;
  });
  useEffect(() => {
    const here = section.current;
    const onKey = (event: KeyboardEvent) => {
      if (event.key === "Escape") latestLeave.current();
    };
    here?.addEventListener("keydown", onKey);
    return () => here?.removeEventListener("keydown", onKey);
  }, []);
  // What stands in the field, for a Keep that waits while whoever pressed it is already elsewhere.
  const typed = useRef("");
  const isHere = useRef(false);
  useEffect(() => {
    isHere.current = true;
    return () => {
      isHere.current = false;
    };
  }, []);
  const type = (text: string) => {
    typed.current = text;
    setEntered(text);
  };

  const reading: ReadingIn = {
    kind: ask.kind,
    subject: ask.subject,
    entered,
    taken_at: moment,
    supersedes: corrects?.id ?? null,
    instrument: words?.instrument ?? tester,
    note: words?.note ?? "",
  };
  const { judged, isAsking, isLate, error, settled } = useTried(jobId, ask.key, reading);
  const keep = useKeep(jobId);
  const clearSky = useKeepClearSky(jobId);
  const send = (text: string) => keep.mutate({ ...reading, entered: text }, { onSuccess: kept });
  const sendFromElsewhere = () =>
    keep.mutateAsync(reading).catch((failed: unknown) => notKept(entered, failed as Error));
  // Keep waits for the verdict on what stands in the field; without one it says so, and waits for another press.
  // Whoever has gone on to another reading has kept this one: it is sent, and judged where it is kept.
  const [waits, setWaits] = useState(false);
  const submit = async () => {
    if (isAsking && !isLate) {
      setWaits(true);
      const isJudged = await settled();
      setWaits(false);
      if (typed.current !== entered || (!isJudged && isHere.current)) return;
      if (!isHere.current) return void sendFromElsewhere();
    }
    send(entered);
  };
  const shown = judged ?? ask;

  return (
    <section ref={section} className="taking" aria-label={ask.title}>
      <header>
        <h2 ref={heading} tabIndex={-1}>
          {ask.title}
        </h2>
        <span className="place">{place}</span>
        <button type="button" className="quiet leave" onClick={leave}>
          {say("common.leave")}
        </button>
      </header>
      <p className="ask-caution">{ask.caution}</p>
      {asksTester && <TesterAsk jobId={jobId} />}
      {corrects !== null && (
        <p className="corrects">{say("shared.corrects_both_stay_in_the_record", { text: corrects.text })}</p>
      )}
      {ask.answers.length > 0 ? (
        <div className="two-ways">
          {ask.answers.map((answer, index) => (
            <Button key={answer} disabled={keep.isPending} onClick={() => send(index === 0 ? "1" : "-1")}>
              {answer}
            </Button>
          ))}
        </div>
      ) : (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            void submit();
          }}
        >
          <div className="big-entry">
            <input
              ref={input}
              aria-label={ask.title}
              value={entered}
              inputMode={ask.is_text ? "text" : narrow ? "none" : "decimal"}
              className={ask.is_text ? "as-text" : undefined}
              autoComplete="off"
              onChange={(event) => type(event.target.value)}
            />
            <span className="unit">{ask.unit}</span>
            {shown.expected_text !== "" && (
              <span className="expect">
                {ask.is_text ? say("shared.expect_2") : say("common.expect_now")}
                <b>{shown.expected_text}</b>
              </span>
            )}
          </div>
          {ask.is_text && <Scan found={type} />}
          <BandPicture ask={shown} value={judged?.reading?.value ?? null} verdict={judged?.verdict ?? "waiting"} />
          {judged !== null && <Verdicts ask={judged} all={false} />}
          {isAsking && (
            <p className="asking" role="status">
              {isLate ? say("shared.no_verdict_yet_the_server_does") : "…"}
            </p>
          )}
          {error !== null && keep.error === null && <ProblemNote error={error} />}
          {narrow && !ask.is_text && (
            <Keypad
              beyond={ask.may_be_beyond}
              press={(key) => type(entered + key)}
              erase={() => type(entered.slice(0, -1))}
            />
          )}
          <Button type="primary" htmlType="submit" loading={keep.isPending || waits} className="keep">
            {isLate || (error !== null && entered.trim() !== "")
              ? say("shared.keep_not_judged_yet")
              : say("shared.keep_and_go_to_next")}
          </Button>
        </form>
      )}
      <NoteAndInstrument words={words} tester={tester} put={setWords} />
      <Moment moment={moment} setMoment={setMoment} />
      {ask.kind === "irradiance" && (
        <Button
          loading={clearSky.isPending}
          onClick={() => clearSky.mutate({ plane: ask.subject, at: moment }, { onSuccess: kept })}
        >
          {say("shared.take_the_clear_sky_figure_instead")}
        </Button>
      )}
      <Photos jobId={jobId} step={ask.key} title={ask.title} />
      <ProblemNote error={keep.error ?? clearSky.error} />
    </section>
  );
}

interface Words {
  note: string;
  instrument: string;
}

/** What is said beside a reading: a note, and what it was read with. */
function NoteAndInstrument({
  words,
  tester,
  put,
}: {
  words: Words | null;
  tester: string;
  put: (words: Words) => void;
}) {
  if (words === null)
    return (
      <button type="button" className="quiet" onClick={() => put({ note: "", instrument: tester })}>
        {tester === "" ? say("shared.note_or_instrument") : say("shared.note_read_with", { tester })}
      </button>
    );
  return (
    <div className="note-fields">
      <label className="entry">
        <span className="entry-label">{say("shared.note")}</span>
        <Input value={words.note} onChange={(event) => put({ ...words, note: event.target.value })} />
      </label>
      <label className="entry">
        <span className="entry-label">{say("shared.instrument_and_its_serial")}</span>
        <Input value={words.instrument} onChange={(event) => put({ ...words, instrument: event.target.value })} />
      </label>
    </div>
  );
}
