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
      if (newest === undefined) throw new Error("The questions are not open any more.");
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
  if (begun.isPending) return <p className="nothing">Opening the questions</p>;
  if (begun.isError) {
    return (
      <p className="nothing">
        {begun.error.message} <Link to="/">To the jobs</Link>
      </p>
    );
  }
  const { answers, asked } = begun.data;
  const now = asked.questions.find((one) => one.id === (again ?? asked.now));
  const put = (change: Change) => answer.mutate({ of: now?.id ?? null, change });
  const told = asked.questions.filter((one) => one.id !== now?.id && one.state !== "open");
  return (
    <div className="page begin">
      <header className="shelf-head">
        <Link to="/" className="brand">
          Long Noon
        </Link>
        <h1>Begin a job</h1>
        <p className="stage-about">One question at a time; each can be put aside</p>
      </header>
      <main className="begin-body">
        <section className="begin-now" aria-label="The question">
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
            <p className="begin-open">Still open: {asked.missing.join(", ")}.</p>
          )}
          {asked.missing.length === 0 && (
            <Button
              type={now === undefined ? "primary" : "default"}
              loading={make.isPending}
              onClick={() => make.mutate()}
            >
              {now === undefined ? "Begin the job" : "Begin the job now, the rest later"}
            </Button>
          )}
          <ProblemNote error={make.error} />
          <Said asked={begun.data.asked} />
        </section>
        <section className="begin-told" aria-label="What was answered">
          {told.length === 0 && <p className="shelf-hint">What you answer stands here, and can be changed.</p>}
          <ol>
            {told.map((one) => (
              <li key={one.id} className={`told-${one.state}`}>
                <span className="told-asks">{one.asks}</span>
                <b>{one.state === "answered" ? one.said : one.state === "wrong" ? one.problem : "put aside"}</b>
                <button
                  type="button"
                  className="quiet"
                  aria-label={`change: ${one.asks}`}
                  onClick={() => setAgain(one.id)}
                >
                  {one.state === "skipped" ? "answer it" : "change"}
                </button>
              </li>
            ))}
          </ol>
          {answers.typed.name !== "" && (
            <button type="button" className="quiet" onClick={() => putAway.mutate()}>
              begin it no more
            </button>
          )}
          <ProblemNote error={putAway.error} />
        </section>
      </main>
    </div>
  );
}

/** What the answers say together, before anything was read. */
function Said({ asked }: { asked: BegunView["asked"] }) {
  if (asked.lines.length === 0 && asked.blocks.length === 0) return null;
  return (
    <div className="begin-said">
      <h2>What they say together</h2>
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
