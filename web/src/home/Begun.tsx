import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api } from "../shared/api/calls";
import { say } from "../words/say";
import "./Begun.css";

/** The jobs that are being begun: what is still open of each, and one touch to go on. */
export function Begun() {
  const begun = useQuery({ queryKey: ["begun-lines"], queryFn: api.begunLines, staleTime: 0 });
  const lines = begun.data ?? [];
  if (lines.length === 0) return null;
  return (
    <ul className="begun" aria-label={say("home.begun_and_no_job_yet")}>
      {lines.map((one) => (
        <li key={one.id}>
          <Link to={`/begin/${one.id}`}>
            <b>{one.name}</b>
            <span>
              {one.place === "" ? "" : `${one.place} · `}
              {one.open.length === 0
                ? say("home.ready_to_begin")
                : say("home.still_open", { open: one.open.join(", ") })}
            </span>
          </Link>
        </li>
      ))}
    </ul>
  );
}
