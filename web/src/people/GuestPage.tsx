import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { api } from "../shared/api/calls";
import { guestFileUrl, guestPageUrl } from "../shared/api/urls";
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
        <span className="brand">Long Noon</span>
        <h1>{found.data?.name ?? "A record"}</h1>
      </header>
      {found.isError && <p className="nothing">This link shows nothing: it ended, or was never given.</p>}
      {found.data !== undefined && (
        <>
          <p>
            {found.data.place}. The record as it stands, shown by {found.data.crew}; this link ends with{" "}
            {found.data.ends_on}. <a href={guestFileUrl(ticket)}>As PDF</a>
          </p>
          <div className="dossier">
            {pages.map((page) => (
              <img
                key={page}
                src={guestPageUrl(ticket, page)}
                alt={`Page ${page} of the record`}
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
