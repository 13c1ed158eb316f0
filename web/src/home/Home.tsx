import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api } from "../shared/api/calls";
import { useOutbox } from "../shared/outbox/useOutbox";
import { pressKey } from "../shared/lib/useKey";
import { NearAlong } from "./Along";
import { DayLine } from "./DayLine";
import { useSession } from "../people/useSession";
import { beginAddress } from "../shared/jobs/answers";
import { Begun } from "./Begun";
import { TakeIn } from "./TakeIn";
import { say } from "../words/say";
import "./Home.css";

/** The home: the jobs as days on one line; where each stands, what blocks it, what is next. */
export function Home({ name }: { name: string }) {
  const client = useQueryClient();
  const jobs = useQuery({ queryKey: ["jobs"], queryFn: api.jobs, staleTime: 0 });
  const { may } = useSession();
  const here = useOutbox().filter((one) => one.person === name).length;
  const [leaving, setLeaving] = useState(false);
  const navigate = useNavigate();
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
        <h1>{say("common.long_noon")}</h1>
        <div className="home-do">
          {may("plan") && (
            <Button type="primary" onClick={() => void navigate(beginAddress())}>
              {say("common.begin_a_job")}
            </Button>
          )}
          {may("take_in") && <TakeIn />}
          <Link to="/weeks" className="quiet">
            {say("home.weeks")}
          </Link>
          <Link to="/bench" className="quiet">
            {say("home.bench")}
          </Link>
          <Link to="/shelf" className="quiet">
            {say("home.shelf")}
          </Link>
          {may("people") && (
            <Link to="/people" className="quiet">
              {say("home.people")}
            </Link>
          )}
          <Link to="/account" className="quiet">
            {say("home.account")}
          </Link>
          <button type="button" className="quiet" onClick={() => pressKey("l")}>
            {say("common.light")}
          </button>
          <button type="button" className="quiet" onClick={() => (here > 0 ? setLeaving(true) : signOut.mutate())}>
            {say("home.sign_out", { name })}
          </button>
        </div>
        {leaving && (
          <p className="reason reason-watch" role="alert">
            {say("home.readings_are_on_this_device_only", { here, name })}{" "}
            <button type="button" className="quiet" onClick={() => signOut.mutate()}>
              {say("home.sign_out_all_the_same")}
            </button>{" "}
            <button type="button" className="quiet" onClick={() => setLeaving(false)}>
              {say("home.stay")}
            </button>
          </p>
        )}
      </header>
      <main>
        {may("plan") && <Begun />}
        {jobs.isPending && <p className="nothing">{say("home.opening_the_jobs")}</p>}
        {jobs.isError && <p className="nothing">{jobs.error.message}</p>}
        {jobs.data?.length === 0 && <p className="nothing">{say("home.no_job_yet_begin_one_or")}</p>}
        {jobs.data !== undefined && jobs.data.length > 0 && <DayLine jobs={jobs.data} />}
        {jobs.data !== undefined && <NearAlong jobs={jobs.data} />}
      </main>
    </div>
  );
}
