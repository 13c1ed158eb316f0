import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { api } from "../api/calls";
import type { SheetOffer } from "../api/types";
import { useEdit } from "../api/useJobWrite";
import { ProblemNote } from "../judging/ProblemNote";
import { Mark } from "../marks/Mark";
import { rich, say } from "../../words/say";
import "./Offers.css";

/** Newer sheets than those that the job is judged by, and what each would change; never taken by itself. */
export function Offers({ jobId, revision }: { jobId: string; revision: number }) {
  const offers = useQuery({ queryKey: ["offers", jobId, revision], queryFn: () => api.offers(jobId) });
  return (
    <>
      {offers.data?.map((offer) => (
        <Offer key={offer.kind + offer.plane} jobId={jobId} offer={offer} />
      ))}
    </>
  );
}

function Offer({ jobId, offer }: { jobId: string; offer: SheetOffer }) {
  const edit = useEdit(jobId);
  return (
    <section className="offer">
      <p>
        {rich("shared.this_job_is_judged_by_sheet", {
          label: <b>{offer.label}</b>,
          plane: offer.plane === "" ? "" : say("shared.on", { plane: offer.plane }),
          was_revision: offer.was_revision,
          now_revision: offer.now_revision,
        })}
      </p>
      <ul>
        {offer.figures
          .filter((one) => one.name !== "sheet_revision")
          .map((one) => (
            <li key={one.name}>
              <code>{one.name}</code> {one.was === "" ? say("common.nothing") : one.was} →{" "}
              {one.now === "" ? say("common.nothing") : one.now}
            </li>
          ))}
        {offer.verdicts.map((one) => (
          <li key={one.where + one.title}>
            {one.where}, {one.title}:{" "}
            {one.was !== null && (
              <>
                <Mark verdict={one.was} /> →{" "}
              </>
            )}
            <Mark verdict={one.now} />
          </li>
        ))}
      </ul>
      {offer.verdicts.length === 0 && offer.refusal === "" && (
        <p className="source">{say("shared.no_verdict_turns")}</p>
      )}
      {offer.refusal !== "" && (
        <p className="reason reason-stop">{say("shared.it_cannot_be_taken", { refusal: offer.refusal })}</p>
      )}
      <Button
        disabled={offer.refusal !== ""}
        loading={edit.isPending}
        onClick={() =>
          edit.mutate({
            do: "take_sheet",
            kind: offer.kind as "modules" | "inverters" | "optimisers",
            id: offer.id,
            plane: offer.plane,
          })
        }
      >
        {say("shared.judge_by_the_newer_sheet")}
      </Button>
      <ProblemNote error={edit.error} />
    </section>
  );
}
