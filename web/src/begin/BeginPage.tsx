import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api } from "../shared/api/calls";
import type { BegunView, Question } from "../shared/api/types";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { Mark } from "../shared/marks/Mark";
import { Ask } from "./Ask";
import type { Change } from "./answering";
import { LikeEarlier } from "./LikeEarlier";
import { say } from "../words/say";
import "./BeginPage.css";

/** An answer on its way, and the question it answers. */
interface Answering {
  of: Question["id"] | null;
  change: Change;
}

/** Beginning a job: one question at a time, each answer judged at once, nothing assumed. */
export default function BeginPage() {
  const { begunId = "" } = useParams();
  const client = useQueryClient();
  const navigate = useNavigate();
  const key = ["begun", begunId];
  const begun = useQuery({ queryKey: key, queryFn: () => api.begun(begunId), retry: false });
  // A question that is answered anew; else the first that is open.
  const [again, setAgain] = useState<Question["id"] | null>(null);
  const answer = useMutation({
    // One after the other, each on what the one before came to: two answers given quickly both count.
    scope: { id: begunId },
    mutationFn: ({ change }: Answering) => {
      const newest = client.getQueryData<BegunView>(key)?.answers;
      if (newest === undefined) throw new Error(say("begin.the_questions_are_not_open_any"));
      return api.answer(begunId, change(newest));
    },
    onSuccess: (view, { of }) => {
      client.setQueryData(key, view);
      // Another question may have been opened while this answer was on its way: it stays open.
      setAgain((open) => (open === of ? null : open));
    },
  });
  const leave = async (to: string) => {
    await client.invalidateQueries({ queryKey: ["begun-lines"] });
    await client.invalidateQueries({ queryKey: ["jobs"] });
    client.removeQueries({ queryKey: key });
    await navigate(to);
  };
  const make = useMutation({
    mutationFn: () => api.jobFromBegun(begunId),
    onSuccess: ({ id }) => leave(`/jobs/${id}/string`),
  });
  const putAway = useMutation({ mutationFn: () => api.putAway(begunId), onSuccess: () => leave("/") });
  if (begun.isPending) return <p className="nothing">{say("begin.opening_the_questions")}</p>;
  if (begun.isError) {
    return (
      <p className="nothing">
        {begun.error.message} <Link to="/">{say("common.to_the_jobs")}</Link>
      </p>
    );
  }
  const { answers, asked } = begun.data;
  const now = asked.questions.find((one) => one.id === (again ?? asked.now));
  const put = (change: Change) => answer.mutate({ of: now?.id ?? null, change });
  return (
    <div className="page begin">
      <header className="shelf-head">
        <Link to="/" className="brand">
          {say("common.long_noon")}
        </Link>
        <h1>{say("common.begin_a_job")}</h1>
        <p className="stage-about">{say("begin.one_question_at_a_time_each")}</p>
      </header>
      <main className="begin-body">
        <section className="begin-now" aria-label={say("begin.the_question")}>
          {now !== undefined && (
            <Ask
              key={now.id}
              question={now}
              asked={asked}
              answers={answers}
              put={put}
              skip={() => put((before) => ({ ...before, skipped: [...(before.skipped ?? []), now.id] }))}
            />
          )}
          {now?.id === "name" && answers.like === "" && <LikeEarlier put={put} />}
          <ProblemNote error={answer.error} />
          {now === undefined && asked.missing.length > 0 && (
            <p className="begin-open">{say("begin.still_open", { missing: asked.missing.join(", ") })}</p>
          )}
          {asked.missing.length === 0 && (
            <Button
              type={now === undefined ? "primary" : "default"}
              loading={make.isPending}
              onClick={() => make.mutate()}
            >
              {now === undefined ? say("begin.begin_the_job") : say("begin.begin_the_job_now_the_rest")}
            </Button>
          )}
          <ProblemNote error={make.error} />
          <Said asked={begun.data.asked} />
        </section>
        <section className="begin-told" aria-label={say("begin.what_was_answered")}>
          <p className="shelf-hint">{say("begin.what_you_answer_stands_here_and")}</p>
          {/* Every question keeps its row from the start: none moves under a thumb when an answer comes. */}
          <ol>
            {asked.questions.map((one) => (
              <Row key={one.id} question={one} isNow={one.id === now?.id} answer={() => setAgain(one.id)} />
            ))}
          </ol>
          {answers.typed.name !== "" && (
            <button type="button" className="quiet" onClick={() => putAway.mutate()}>
              {say("begin.begin_it_no_more")}
            </button>
          )}
          <ProblemNote error={putAway.error} />
        </section>
      </main>
    </div>
  );
}

/** A question with its answer, and the way back to it. */
function Row({ question, isNow, answer }: { question: Question; isNow: boolean; answer: () => void }) {
  const { asks, said, problem, state } = question;
  const stands = {
    open: isNow ? say("begin.asked_now") : say("begin.open"),
    skipped: say("begin.put_aside"),
    answered: said,
    wrong: problem,
  }[state];
  const isAnswered = state === "answered" || state === "wrong";
  return (
    <li className={`told-${state}`} aria-current={isNow ? "step" : undefined}>
      <span className="told-asks">{asks}</span>
      <b>{stands}</b>
      {!isNow && (
        <button
          type="button"
          className="quiet"
          aria-label={isAnswered ? say("begin.change", { asks }) : say("begin.answer", { asks })}
          onClick={answer}
        >
          {isAnswered ? say("common.change") : say("begin.answer_it")}
        </button>
      )}
    </li>
  );
}

/** What the answers say together, before anything was read. */
function Said({ asked }: { asked: BegunView["asked"] }) {
  if (asked.lines.length === 0 && asked.blocks.length === 0) return null;
  return (
    <div className="begin-said">
      <h2>{say("begin.what_they_say_together")}</h2>
      <ul>
        {asked.blocks.map((block) => (
          <li key={block}>
            <Mark verdict="stop" /> <span>{block}</span>
          </li>
        ))}
        {asked.lines.map((line) => (
          <li key={line.text}>
            <Mark verdict={line.verdict} /> <span>{line.text}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
