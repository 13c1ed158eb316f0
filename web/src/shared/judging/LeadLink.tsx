import { Link, useLocation, useParams } from "react-router";
import type { Judgement } from "../api/types";
import { leadAddress } from "../lib/stageSlugs";
import { useLead } from "./leads";
import { say } from "../../words/say";

/** One touch to where what a verdict waits for is entered; nothing where that is here. */
export function LeadLink({ judgement }: { judgement: Judgement }) {
  const { jobId = "" } = useParams();
  const { pathname, search } = useLocation();
  const lead = useLead(judgement);
  if (lead === undefined || jobId === "") return null;
  const to = leadAddress(jobId, lead);
  // Here already, and no field of its own to go to.
  if (lead.field === "" && to === `${pathname}${search}`) return null;
  return (
    <Link className="quiet" to={to} aria-label={say("shared.enter_it", { title: judgement.title })}>
      {say("shared.enter_it_2")}
    </Link>
  );
}
