import { useInfiniteQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { api } from "../shared/api/calls";
import { auditUrl } from "../shared/api/urls";
import { Pick } from "../shared/fields/Pick";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { dayAndClock } from "../shared/lib/figures";
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
          Long Noon
        </Link>
        <h1>Audit{job === "" ? "" : " of this job"}</h1>
        <a className="quiet" href={auditUrl(job, person)} download>
          CSV
        </a>
      </header>
      <p className="source">
        Each line seals the one before it: a line that was changed or taken out is found by ./noon verify.
      </p>
      <div className="people-form">
        <Pick
          label="Who"
          value={person}
          options={[["", "everybody"] as const, ...people.map((one) => [String(one.number), one.name] as const)]}
          put={setPerson}
        />
        {job !== "" && (
          <Link className="quiet" to="/audit">
            every job
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
          Older lines
        </Button>
      )}
    </main>
  );
}
