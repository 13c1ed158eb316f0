import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { api } from "../shared/api/calls";
import { pressKey } from "../shared/lib/useKey";
import { DayLine } from "./DayLine";
import { useSession } from "../people/useSession";
import { NewJob } from "../shared/jobs/NewJob";
import { TakeIn } from "./TakeIn";
import "./Home.css";

/** The home: the jobs as days on one line; where each stands, what blocks it, what is next. */
export function Home({ name }: { name: string }) {
  const client = useQueryClient();
  const jobs = useQuery({ queryKey: ["jobs"], queryFn: api.jobs, staleTime: 0 });
  const { may } = useSession();
  const [beginning, setBeginning] = useState(false);
  const signOut = useMutation({
    mutationFn: api.signOut,
    onSuccess: () => {
      client.clear();
      window.location.assign("/");
    },
  });
  return (
    <div className="home">
      <header className="home-head">
        <h1>Long Noon</h1>
        <div className="home-do">
          {may("plan") && (
            <Button type="primary" onClick={() => setBeginning(true)}>
              Begin a job
            </Button>
          )}
          {may("take_in") && <TakeIn />}
          <Link to="/weeks" className="quiet">
            weeks
          </Link>
          <Link to="/bench" className="quiet">
            bench
          </Link>
          <Link to="/shelf" className="quiet">
            shelf
          </Link>
          {may("people") && (
            <Link to="/people" className="quiet">
              people
            </Link>
          )}
          <Link to="/account" className="quiet">
            account
          </Link>
          <button type="button" className="quiet" onClick={() => pressKey("l")}>
            light
          </button>
          <button type="button" className="quiet" onClick={() => signOut.mutate()}>
            sign out {name}
          </button>
        </div>
      </header>
      {jobs.isPending && <p className="nothing">Opening the jobs</p>}
      {jobs.isError && <p className="nothing">{jobs.error.message}</p>}
      {jobs.data?.length === 0 && <p className="nothing">No job yet. Begin one, or read a job file in.</p>}
      {jobs.data !== undefined && jobs.data.length > 0 && <DayLine jobs={jobs.data} />}
      <NewJob open={beginning} close={() => setBeginning(false)} />
    </div>
  );
}
