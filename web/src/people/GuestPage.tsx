import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { api } from "../shared/api/calls";
import { guestFileUrl, guestPageUrl } from "../shared/api/urls";
import { rich, say } from "../words/say";
import "../stages/leave/LeaveStage.css";
import "./people.css";

/** What a guest sees: one record, page by page, until the day on which the link ends. */
export default function GuestPage() {
  const { ticket = "" } = useParams();
  const found = useQuery({ queryKey: ["guest", ticket], queryFn: () => api.guestRecord(ticket), retry: false });
  const [asked, setAsked] = useState(1);
  const [last, setLast] = useState(Infinity);
  const pages = Array.from({ length: Math.min(asked, last) }, (_, index) => index + 1);
  return (
    <main className="people">
      <header className="shelf-head">
        <span className="brand">{say("common.long_noon")}</span>
        <h1>{found.data?.name ?? say("people.a_record")}</h1>
      </header>
      {found.isError && <p className="nothing">{say("people.this_link_shows_nothing_it_ended")}</p>}
      {found.data !== undefined && (
        <>
          <p>
            {rich("people.the_record_as_it_stands_shown", {
              place: found.data.place,
              crew: found.data.crew,
              ends_on: found.data.ends_on,
              a: (words) => <a href={guestFileUrl(ticket)}>{words}</a>,
            })}
          </p>
          <div className="dossier">
            {pages.map((page) => (
              <img
                key={page}
                src={guestPageUrl(ticket, page)}
                alt={say("common.page_of_the_record", { page })}
                onLoad={() => setAsked(Math.max(asked, page + 1))}
                onError={() => setLast(page - 1)}
              />
            ))}
          </div>
        </>
      )}
    </main>
  );
}
