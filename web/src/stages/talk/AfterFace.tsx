import { Button, Input } from "antd";
import { useState } from "react";
import type { Schemas } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import type { TalkFaceProps } from "./props";
import { MAY_STAY } from "./words";
import { say } from "../../words/say";

type What = Schemas["LeaveTalkOpen"]["what"];

/** What may stay open with an owner and a date, and the days on which somebody looks again. */
export function AfterFace({ jobId, view, whyAll }: TalkFaceProps) {
  const { talk } = view.assessment;
  const left = view.plan.talk?.left_open ?? [];
  return (
    <>
      <section aria-label={say("talk.what_may_stay_open")}>
        <h2>{say("talk.what_may_stay_open")}</h2>
        <p className="source">{say("talk.only_these_four_each_with_somebody")}</p>
        <ul className="left-open">
          {MAY_STAY.map(([what, title]) => (
            <Open key={what} jobId={jobId} what={what} title={title} kept={left.find((one) => one.what === what)} />
          ))}
        </ul>
      </section>
      <section aria-label={say("talk.looked_at_again")}>
        <h2>{say("talk.looked_at_again")}</h2>
        <ul className="left-open">
          {talk.follow_up.map((one) => (
            <li key={one.day}>
              <b>{say("talk.day", { day: one.day })}</b> <span>{one.what}</span>
            </li>
          ))}
        </ul>
      </section>
      <h2 className="why-head">{say("talk.the_whole")}</h2>
      <JudgementList judgements={talk.judgements} allOpen={whyAll} />
    </>
  );
}

interface OpenProps {
  jobId: string;
  what: What;
  title: string;
  kept: Schemas["LeftOpen"] | undefined;
}

function Open({ jobId, what, title, kept }: OpenProps) {
  const [owner, setOwner] = useState("");
  const [due, setDue] = useState("");
  const edit = useEdit(jobId);
  return (
    <li>
      <b>{title}</b>
      {kept === undefined ? (
        <>
          <Input
            aria-label={say("talk.who_sees_to", { title })}
            placeholder={say("common.who_2")}
            value={owner}
            onChange={(e) => setOwner(e.target.value)}
          />
          <Input
            aria-label={say("talk.until_when", { title })}
            type="date"
            value={due}
            onChange={(e) => setDue(e.target.value)}
          />
          <Button
            disabled={owner.trim() === "" || due === ""}
            loading={edit.isPending}
            onClick={() => edit.mutate({ do: "leave_talk_open", what, owner, due })}
          >
            {say("talk.leave_it_open")}
          </Button>
        </>
      ) : (
        <>
          <span>{say("talk.by", { owner: kept.owner, due: kept.due })}</span>
          <Button onClick={() => edit.mutate({ do: "leave_talk_open", what, owner: "", due: "" })}>
            {say("talk.settled")}
          </Button>
        </>
      )}
      <ProblemNote error={edit.error} />
    </li>
  );
}
