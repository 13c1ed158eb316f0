import { NavLink } from "react-router";
import type { JobView } from "../shared/api/types";
import { Mark } from "../shared/marks/Mark";
import { say } from "../words/say";
import "./Inverters.css";

/** The inverters of a house with several: each has its own stages, this one is looked at. */
export function Inverters({ view, stage }: { view: JobView; stage: string }) {
  if (view.inverters.length === 0) return null;
  return (
    <nav className="inverters" aria-label={say("app.inverters_of_this_house")}>
      {view.inverters.map((one) => (
        <NavLink key={one.id} to={`/jobs/${one.id}/${stage}`}>
          <Mark verdict={one.verdict} word={false} />
          <b>{one.name}</b>
          <span>{one.label}</span>
        </NavLink>
      ))}
    </nav>
  );
}
