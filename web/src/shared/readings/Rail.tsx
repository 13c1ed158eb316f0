import { Button } from "antd";
import { memo, useCallback, useState, type ReactNode } from "react";
import { useSearchParams } from "react-router";
import type { Prompt, RecordedReading } from "../api/types";
import { useJob } from "../api/useJob";
import { ProblemNote } from "../judging/ProblemNote";
import { useKey } from "../lib/useKey";
import { AskLine } from "./AskLine";
import { Taking } from "./Taking";
import { useTester } from "./useTester";
import { rich, say } from "../../words/say";
import "./Rail.css";

interface RailProps {
  jobId: string;
  /** Every reading of the job, and the stage whose readings are shown. */
  every: Prompt[];
  stage: number;
  timezone: string;
  whyAll: boolean;
  /** Headings for a long rail: every kind that is asked for stands under one of them. */
  groups?: readonly Group[];
  /** A reading asked for from the picture, until it is taken or left. */
  wanted?: string | null;
  seen?: () => void;
  /** Readings of other stages that are shown here too, by key. */
  also?: readonly string[];
}

const NONE: readonly string[] = [];

export interface Group {
  title: string;
  kinds: readonly string[];
}

type Lost = { ask: Prompt; entered: string; error: Error };
type Open = { key: string; corrects: RecordedReading | null } | null;

/** The readings of a stage: expected before read, verdict and reason under it, the next one way on. */
export const Rail = memo(function Rail({
  jobId,
  every,
  stage,
  timezone,
  whyAll,
  groups,
  wanted: fromPicture = null,
  seen,
  also = NONE,
}: RailProps) {
  const asks = every.filter((ask) => ask.stage === stage || ask.also_at.includes(stage) || also.includes(ask.key));
  const [address, setAddress] = useSearchParams();
  const linked = address.get("read");
  // A link leads to a reading; the picture's own wish comes before it.
  const asked = fromPicture ?? (asks.some((ask) => ask.key === linked) ? linked : null);
  const job = useJob(jobId).data;
  const [tester] = useTester(jobId, job?.plan.testing.instruments.map((one) => one.name) ?? []);
  // What stands in the test record is read with the tester in hand, in whichever stage it is read.
  const tested = new Set(job?.assessment.prove.groups.flatMap((group) => group.tests.map((test) => test.key)));
  const [chosen, setChosen] = useState<Open>(null);
  const open = asked === null ? chosen : { key: asked, corrects: null };
  const setOpen = useCallback(
    (next: Open) => {
      seen?.();
      if (linked !== null) {
        setAddress(
          (before) => {
            before.delete("read");
            return before;
          },
          { replace: true },
        );
      }
      setChosen(next);
    },
    [seen, linked, setAddress],
  );
  const [lost, setLost] = useState<Lost | null>(null);
  const [moment, setMoment] = useState<string | null>(null);
  const [spare, setSpare] = useState(false);
  const wanted = asks.filter((ask) => !ask.optional || ask.reading !== null);
  const only = asks.filter((ask) => ask.optional && ask.reading === null);
  const taken = wanted.filter((ask) => ask.reading !== null).length;
  const unread = asks.filter((ask) => ask.reading === null && !ask.optional);

  const goOn = () => {
    // On from here, then from the top: a log is filled in its own order.
    const here = asks.findIndex((ask) => ask.key === open?.key);
    const next = unread.find((ask) => asks.indexOf(ask) > here) ?? unread.find((ask) => ask.key !== open?.key);
    setOpen(next === undefined ? null : { key: next.key, corrects: null });
  };
  useKey("r", goOn);

  const line = (ask: Prompt, place: string) =>
    open?.key === ask.key ? (
      <Taking
        key={ask.key + (open.corrects?.id ?? "")}
        jobId={jobId}
        ask={ask}
        corrects={open.corrects}
        moment={moment}
        setMoment={setMoment}
        place={place}
        tester={tested.has(ask.key) && ask.answers.length === 0 ? tester : ""}
        asksTester={tested.has(ask.key) && ask.answers.length === 0 && tester === ""}
        kept={goOn}
        leave={() => {
          setOpen(null);
          // The hand goes on where it was: at the line of what it left.
          requestAnimationFrame(() => document.getElementById(`ask-${ask.key}`)?.querySelector("button")?.focus());
        }}
        notKept={(entered, error) => setLost({ ask, entered, error })}
      />
    ) : (
      <AskLine key={ask.key} jobId={jobId} ask={ask} timezone={timezone} whyAll={whyAll} open={setOpen} />
    );

  return (
    <>
      <header className="rail-head">
        <h2>{say("shared.readings")}</h2>
        <span>{say("shared.of_taken", { taken, wantedCount: wanted.length })}</span>
      </header>
      {lost !== null && (
        <div className="not-kept">
          <ProblemNote error={lost.error} />
          <p>{say("shared.not_kept", { title: lost.ask.title, entered: lost.entered })}</p>
          <Button
            onClick={() => {
              setLost(null);
              setOpen({ key: lost.ask.key, corrects: null });
            }}
          >
            {say("shared.enter_it_again")}
          </Button>
        </div>
      )}
      {groups === undefined
        ? wanted.map((ask, index) => line(ask, say("shared.of_2", { index: index + 1, wantedCount: wanted.length })))
        : groups.map((group) => {
            const own = wanted.filter((ask) => group.kinds.includes(ask.kind));
            return (
              own.length > 0 && (
                <RailGroup
                  key={group.title}
                  title={group.title}
                  asks={own}
                  open={own.some((ask) => ask.key === (open?.key ?? unread[0]?.key))}
                  line={line}
                />
              )
            );
          })}
      {open === null && unread.length > 0 && (
        <div className="rail-next">
          <Button type="primary" onClick={goOn}>
            {say("shared.take_next_reading")}
          </Button>
          <span className="key-hint">{rich("shared.or_press", { kbd: <kbd>R</kbd> })}</span>
        </div>
      )}
      {only.length > 0 && (
        <section className="spare">
          <button type="button" className="quiet" aria-expanded={spare} onClick={() => setSpare(!spare)}>
            {spare ? say("shared.fewer") : say("shared.more_only_when_needed", { onlyCount: only.length })}
          </button>
          {(spare || only.some((ask) => ask.key === open?.key)) &&
            only.map((ask) => line(ask, say("shared.only_when_needed")))}
        </section>
      )}
    </>
  );
});

interface RailGroupProps {
  title: string;
  asks: Prompt[];
  /** Whether what is taken now, or next, stands in it. */
  open: boolean;
  line: (ask: Prompt, place: string) => ReactNode;
}

/** Readings under a heading, folded until one of them is due. */
function RailGroup({ title, asks, open, line }: RailGroupProps) {
  const [shown, setShown] = useState<boolean | null>(null);
  const taken = asks.filter((ask) => ask.reading !== null).length;
  const isOpen = open || (shown ?? false);
  return (
    <section className="rail-group">
      <button type="button" className="rail-group-head" aria-expanded={isOpen} onClick={() => setShown(!isOpen)}>
        <span>{title}</span>
        <span>{say("shared.of_3", { taken, asksCount: asks.length })}</span>
      </button>
      {isOpen && asks.map((ask, index) => line(ask, say("shared.of_4", { index: index + 1, asksCount: asks.length })))}
    </section>
  );
}
