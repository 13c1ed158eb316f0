import { useQuery } from "@tanstack/react-query";
import { api } from "../shared/api/calls";
import { Mark } from "../shared/marks/Mark";
import { say } from "../words/say";
import "./Standing.css";

const LOOK_EVERY_MS = 300_000;

/** What those at work should know of the machine that keeps their jobs: nothing, on a good day. */
export function Standing() {
  const standing = useQuery({ queryKey: ["standing"], queryFn: api.standing, refetchInterval: LOOK_EVERY_MS });
  if (standing.data === undefined || standing.data.length === 0) return null;
  return (
    <div className="standing" role="status" aria-label={say("app.this_installation")}>
      {standing.data.map((said) => (
        <p key={said}>
          <Mark verdict="watch" /> {said}
        </p>
      ))}
    </div>
  );
}
