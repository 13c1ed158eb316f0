import { Button } from "antd";
import { useState } from "react";
import type { Ask, KeptReading } from "../api/client";
import { useKey } from "../useKey";
import { AskLine } from "./AskLine";
import { Taking } from "./Taking";

interface RailProps {
  jobId: string;
  /** Every reading of the job, and the stage whose readings are shown. */
  every: Ask[];
  stage: number;
  timezone: string;
  whyAll: boolean;
}

type Open = { key: string; corrects: KeptReading | null } | null;

/** The readings of a stage: expected before read, verdict and reason under it, the next one way on. */
export function Rail({ jobId, every, stage, timezone, whyAll }: RailProps) {
  const asks = every.filter((ask) => ask.stage === stage || ask.also_at.includes(stage));
  const [open, setOpen] = useState<Open>(null);
  const [moment, setMoment] = useState<string | null>(null);
  const [spare, setSpare] = useState(false);
  const wanted = asks.filter((ask) => !ask.optional || ask.reading !== null);
  const only = asks.filter((ask) => ask.optional && ask.reading === null);
  const taken = wanted.filter((ask) => ask.reading !== null).length;
  const unread = asks.filter((ask) => ask.reading === null && !ask.optional);

  const goOn = () => {
    const next = unread.find((ask) => ask.key !== open?.key);
    setOpen(next === undefined ? null : { key: next.key, corrects: null });
  };
  useKey("r", goOn);

  const line = (ask: Ask, place: string) =>
    open?.key === ask.key ? (
      <Taking
        key={ask.key + (open.corrects?.id ?? "")}
        jobId={jobId}
        ask={ask}
        corrects={open.corrects}
        moment={moment}
        setMoment={setMoment}
        place={place}
        kept={goOn}
        leave={() => setOpen(null)}
      />
    ) : (
      <AskLine
        key={ask.key}
        jobId={jobId}
        ask={ask}
        timezone={timezone}
        whyAll={whyAll}
        open={setOpen}
      />
    );

  return (
    <>
      <header className="rail-head">
        <h2>Readings</h2>
        <span>{taken} of {wanted.length} taken</span>
      </header>
      {wanted.map((ask, index) => line(ask, `${index + 1} of ${wanted.length}`))}
      {open === null && unread.length > 0 && (
        <div className="rail-next">
          <Button type="primary" onClick={goOn}>Take next reading</Button>
          <span className="key-hint">or press <kbd>R</kbd></span>
        </div>
      )}
      {only.length > 0 && (
        <section className="spare">
          <button type="button" className="quiet" aria-expanded={spare} onClick={() => setSpare(!spare)}>
            {spare ? "fewer" : `${only.length} more, only when needed`}
          </button>
          {(spare || only.some((ask) => ask.key === open?.key)) && only.map((ask) => line(ask, "only when needed"))}
        </section>
      )}
    </>
  );
}
