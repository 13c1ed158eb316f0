import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { api } from "../api/calls";
import type { SheetOffer } from "../api/types";
import { useEdit } from "../api/useJobWrite";
import { ProblemNote } from "../judging/ProblemNote";
import { Mark } from "../marks/Mark";
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
        <b>{offer.label}</b>
        {offer.plane === "" ? "" : ` on ${offer.plane}`}: this job is judged by sheet {offer.was_revision}; the shelf
        has {offer.now_revision}.
      </p>
      <ul>
        {offer.figures
          .filter((one) => one.name !== "sheet_revision")
          .map((one) => (
            <li key={one.name}>
              <code>{one.name}</code> {one.was === "" ? "nothing" : one.was} → {one.now === "" ? "nothing" : one.now}
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
      {offer.verdicts.length === 0 && offer.refusal === "" && <p className="source">No verdict turns.</p>}
      {offer.refusal !== "" && <p className="reason reason-stop">It cannot be taken: {offer.refusal}</p>}
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
        Judge by the newer sheet
      </Button>
      <ProblemNote error={edit.error} />
    </section>
  );
}
