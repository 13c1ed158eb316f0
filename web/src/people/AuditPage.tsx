import { useInfiniteQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { api } from "../shared/api/calls";
import { auditUrl } from "../shared/api/urls";
import { Pick } from "../shared/fields/Pick";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { dayAndClock } from "../shared/lib/figures";
import { say } from "../words/say";
import "./people.css";

const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** The audit: who did what and when, the latest first; of one job or one person where wanted. */
export default function AuditPage() {
  const [asked] = useSearchParams();
  const job = asked.get("job") ?? "";
  const [person, setPerson] = useState("");
  const audit = useInfiniteQuery({
    queryKey: ["audit", job, person],
    queryFn: ({ pageParam }) => api.audit(job, person, pageParam),
    initialPageParam: 0,
    getNextPageParam: (last) => (last.more ? (last.lines.at(-1)?.number ?? null) : null),
    staleTime: 0,
  });
  const lines = audit.data?.pages.flatMap((page) => page.lines) ?? [];
  const people = audit.data?.pages[0]?.people ?? [];
  return (
    <main className="people">
      <header className="shelf-head">
        <Link to="/" className="brand">
          {say("common.long_noon")}
        </Link>
        <h1>{say("people.audit", { job: job === "" ? "" : say("people.of_this_job") })}</h1>
        <a className="quiet" href={auditUrl(job, person)} download>
          {say("people.csv")}
        </a>
      </header>
      <p className="source">{say("people.each_line_seals_the_one_before")}</p>
      <div className="people-form">
        <Pick
          label={say("common.who")}
          value={person}
          options={[
            ["", say("people.everybody")] as const,
            ...people.map((one) => [String(one.number), one.name] as const),
          ]}
          put={setPerson}
        />
        {job !== "" && (
          <Link className="quiet" to="/audit">
            {say("people.every_job")}
          </Link>
        )}
      </div>
      <ProblemNote error={audit.error} />
      <ol className="audit-lines">
        {lines.map((one) => (
          <li key={one.number}>
            <time>{dayAndClock(one.at, HERE)}</time>
            <b>{one.by}</b>
            <span>{one.what}</span>
            <span className="audit-detail">{one.detail}</span>
          </li>
        ))}
      </ol>
      {audit.hasNextPage && (
        <Button loading={audit.isFetchingNextPage} onClick={() => void audit.fetchNextPage()}>
          {say("people.older_lines")}
        </Button>
      )}
    </main>
  );
}
