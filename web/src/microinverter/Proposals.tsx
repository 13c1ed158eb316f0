import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { api } from "../shared/api/calls";
import { useEdit } from "../shared/api/useJobWrite";
import { figure } from "../shared/lib/figures";
import { ProblemNote } from "../shared/judging/ProblemNote";
import "./Proposals.css";

interface ProposalsProps {
  jobId: string;
  revision: number;
  isEmpty: boolean;
  /** The trunk is put together link by link: it has connectors, no drops. */
  isLinked: boolean;
}

/** The ways to split the roof into branches that are worth a look, the best first. */
export function Proposals({ jobId, revision, isEmpty, isLinked }: ProposalsProps) {
  const [wanted, setWanted] = useState(isEmpty);
  const edit = useEdit(jobId);
  const found = useQuery({
    queryKey: ["branches", jobId, revision],
    queryFn: () => api.branches(jobId),
    enabled: wanted,
  });
  const offers = found.data?.offers ?? [];
  return (
    <section className="proposals" aria-label="Proposals">
      <h2 className="why-head">
        Ways to split the roof {!wanted && <Button onClick={() => setWanted(true)}>Show them</Button>}
      </h2>
      {wanted && found.isSuccess && offers.length === 0 && (
        <p className="nothing">Draw the modules of a plane first: below, as rows × columns.</p>
      )}
      {wanted && offers.length > 0 && (
        <>
          <p className="source">
            At most {found.data?.most.most} on a branch. Taking one gives every module its unit anew; what was read
            stays.
          </p>
          <ol className="offers-list">
            {offers.map((one, number) => (
              <li key={one.branches.map((names) => names.join(" ")).join("/")}>
                <span>
                  <b>{one.counts.join(" + ")}</b>
                  {one.phases.some((phase) => phase > 0) &&
                    ` on ${one.phases.map((phase) => `L${phase}`).join(", ")}`}. {one.line}
                  <small>
                    {" "}
                    {one.open_links > 0
                      ? "Its parts are counted when the way between the planes is measured"
                      : isLinked
                        ? `${one.segments} connectors, put together link by link`
                        : `${one.segments} drops, ${one.sealing_caps} sealing caps, ${one.extensions} extensions`}
                    {one.apart_a > 0 && `, phases ${figure(one.apart_a, "A")} apart`}
                  </small>
                </span>
                <Button
                  type={number === 0 ? "primary" : "default"}
                  loading={edit.isPending}
                  onClick={() => edit.mutate({ do: "take_branches", number })}
                >
                  Take it
                </Button>
              </li>
            ))}
          </ol>
        </>
      )}
      <ProblemNote error={edit.error ?? found.error} />
    </section>
  );
}
