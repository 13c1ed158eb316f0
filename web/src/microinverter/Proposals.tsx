import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { memo, useState } from "react";
import { api } from "../shared/api/calls";
import { useEdit } from "../shared/api/useJobWrite";
import { figure } from "../shared/lib/figures";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { say } from "../words/say";
import "./Proposals.css";

interface ProposalsProps {
  jobId: string;
  revision: number;
  isEmpty: boolean;
  /** The trunk is put together link by link: it has connectors, no drops. */
  isLinked: boolean;
}

/** The ways to split the roof into branches that are worth a look, the best first. */
export const Proposals = memo(function Proposals({ jobId, revision, isEmpty, isLinked }: ProposalsProps) {
  const [wanted, setWanted] = useState(isEmpty);
  const edit = useEdit(jobId);
  const found = useQuery({
    queryKey: ["branches", jobId, revision],
    queryFn: () => api.branches(jobId),
    enabled: wanted,
  });
  const offers = found.data?.offers ?? [];
  return (
    <section className="proposals" aria-label={say("microinverter.proposals")}>
      <h2 className="why-head">
        {say("microinverter.ways_to_split_the_roof")}{" "}
        {!wanted && <Button onClick={() => setWanted(true)}>{say("microinverter.show_them")}</Button>}
      </h2>
      {wanted && found.isSuccess && offers.length === 0 && (
        <p className="nothing">{say("microinverter.draw_the_modules_of_a_plane")}</p>
      )}
      {wanted && offers.length > 0 && (
        <>
          <p className="source">{say("microinverter.at_most_on_a_branch_taking", { most: found.data?.most.most })}</p>
          <ol className="offers-list">
            {offers.map((one, number) => (
              <li key={one.branches.map((names) => names.join(" ")).join("/")}>
                <span>
                  <b>{one.counts.join(" + ")}</b>
                  {one.phases.some((phase) => phase > 0) &&
                    say("microinverter.on_2", { phases: one.phases.map((phase) => `L${phase}`).join(", ") })}
                  . {one.line}
                  <small>
                    {" "}
                    {one.open_links > 0
                      ? say("microinverter.its_parts_are_counted_when_the")
                      : isLinked
                        ? say("microinverter.connectors_put_together_link_by_link", { segments: one.segments })
                        : say("microinverter.drops_sealing_caps_extensions", {
                            segments: one.segments,
                            sealing_caps: one.sealing_caps,
                            extensions: one.extensions,
                          })}
                    {one.apart_a > 0 && say("microinverter.phases_apart", { apart_a: figure(one.apart_a, "A") })}
                  </small>
                </span>
                <Button
                  type={number === 0 ? "primary" : "default"}
                  loading={edit.isPending}
                  onClick={() => edit.mutate({ do: "take_branches", number })}
                >
                  {say("common.take_it")}
                </Button>
              </li>
            ))}
          </ol>
        </>
      )}
      <ProblemNote error={edit.error ?? found.error} />
    </section>
  );
});
