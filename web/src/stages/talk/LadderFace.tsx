import { Button } from "antd";
import { useState } from "react";
import type { Schemas } from "../../shared/api/types";
import { useKeep } from "../../shared/api/useJobWrite";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { GateLine } from "../../shared/judging/GateLine";
import { dayAndClock } from "../../shared/lib/figures";
import type { TalkFaceProps } from "./props";
import { say } from "../../words/say";

type Ladder = Schemas["LinkLadder"];

/** The status row of each device, its digits tapped as they are read; the first that fails stands out. */
export function LadderFace({ jobId, view }: TalkFaceProps) {
  const { ladders } = view.assessment.talk;
  if (ladders.length === 0) return <p className="nothing">{say("talk.no_device_of_this_plan_shows")}</p>;
  return (
    <>
      {ladders.map((one) => (
        <LadderOf key={one.device} jobId={jobId} ladder={one} timezone={view.plan.site.timezone} />
      ))}
    </>
  );
}

function LadderOf({ jobId, ladder, timezone }: { jobId: string; ladder: Ladder; timezone: string }) {
  const [digits, setDigits] = useState<string[]>([]);
  const keep = useKeep(jobId);
  const of = ladder.rungs.length;
  const send = () =>
    keep.mutate(
      {
        kind: "status_row",
        subject: ladder.device,
        entered: digits.join(""),
        taken_at: null,
        supersedes: null,
        instrument: "",
        note: "",
      },
      { onSuccess: () => setDigits([]) },
    );
  const broken = ladder.rungs.find((one) => one.stands === "broken");
  return (
    <section className="ladder-of" aria-label={say("talk.status_row_of", { device: ladder.device })}>
      <h2>{ladder.device}</h2>
      {broken === undefined ? (
        <GateLine gate={{ verdict: ladder.verdict, line: ladder.line }} />
      ) : (
        <div className="broken-rung" role="status">
          <b>
            {broken.number} · {broken.name}
          </b>
          <p>{broken.look}</p>
          <p>{say("talk.for_to_mend", { mends: broken.mends })}</p>
        </div>
      )}
      <ol className="rungs">
        {ladder.rungs.map((one) => (
          <li key={one.number} className={`rung rung-${one.stands}`}>
            <b>{one.number}</b>
            <span>{one.name}</span>
            <small>{one.stands === "again" ? say("common.read_again") : one.mends}</small>
            {digits.length >= one.number && <i>{digits[one.number - 1]}</i>}
          </li>
        ))}
      </ol>
      <div className="digit-keys" role="group" aria-label={say("talk.digits_as_they_are_read")}>
        {["1", "0"].map((digit) => (
          <button
            key={digit}
            type="button"
            disabled={digits.length >= of}
            onClick={() => setDigits([...digits, digit])}
          >
            {digit}
          </button>
        ))}
        <button
          type="button"
          className="quiet"
          disabled={digits.length === 0}
          onClick={() => setDigits(digits.slice(0, -1))}
        >
          {say("talk.take_one_back")}
        </button>
        <Button type="primary" disabled={digits.length !== of} loading={keep.isPending} onClick={send}>
          {digits.length === of
            ? say("talk.keep", { digits: digits.join("") })
            : say("talk.of_digits", { digitsCount: digits.length, of })}
        </Button>
      </div>
      <ProblemNote error={keep.error} />
      {ladder.rows.length > 0 && (
        <ul className="history">
          {ladder.rows.map((one) => (
            <li key={one.at + one.digits}>
              <span>{one.digits}</span> {one.by}, {dayAndClock(one.at, timezone)}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
