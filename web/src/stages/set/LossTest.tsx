import { Button } from "antd";
import type { GridStage } from "../../shared/api/types";
import { useKeep } from "../../shared/api/useJobWrite";
import { Countdown } from "../../shared/layout/Countdown";
import { clock } from "../../shared/lib/figures";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { say } from "../../words/say";
import "./LossTest.css";

const FIRST = "opened";

/** The loss-of-supply test: one touch at each moment, its clock from the moment itself. */
export function LossTest({
  jobId,
  moments,
  timezone,
}: {
  jobId: string;
  moments: GridStage["loss"];
  timezone: string;
}) {
  const keep = useKeep(jobId);
  const seen = (moment: string, entered: "1" | "-1") =>
    keep.mutate({
      kind: "loss_moment",
      subject: moment,
      entered,
      taken_at: null,
      supersedes: null,
      instrument: "",
      note: "",
    });
  if (moments.length === 0) return <p className="nothing">{say("set.choose_the_grid_profile_first_it")}</p>;
  const isOver = moments.every((one) => one.at !== null);
  return (
    <section className="loss" aria-label={say("set.loss_of_supply")}>
      <h2>{say("set.loss_of_supply")}</h2>
      <p className="caution">{say("set.open_the_supply_at_the_isolator")}</p>
      <ol className="loss-moments">
        {moments.map((one) => (
          <li key={one.moment} className={one.is_next ? "loss-next" : undefined}>
            <b>{one.title}</b>
            <span>{one.due_text}</span>
            {one.at !== null && <span className="loss-at">{clock(one.at, timezone)}</span>}
            {one.is_next && one.due_at !== null && <Countdown until={one.due_at} />}
            {one.is_next && (
              <div className="two-ways">
                <Button type="primary" disabled={keep.isPending} onClick={() => seen(one.moment, "1")}>
                  {say("set.now")}
                </Button>
                {one.due_text !== "" && (
                  <Button disabled={keep.isPending} onClick={() => seen(one.moment, "-1")}>
                    {say("set.it_did_not_come")}
                  </Button>
                )}
              </div>
            )}
          </li>
        ))}
      </ol>
      {(isOver || moments[0]?.at !== null) && (
        <button type="button" className="quiet" onClick={() => seen(FIRST, "1")}>
          {say("set.begin_again_supply_opened_now")}
        </button>
      )}
      <ProblemNote error={keep.error} />
    </section>
  );
}
