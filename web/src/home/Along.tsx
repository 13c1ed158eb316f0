import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { api } from "../shared/api/calls";
import type { JobLine } from "../shared/api/types";
import { keysSeen } from "../shared/outbox/store";
import { useSignal } from "../shared/outbox/signal";
import { say } from "../words/say";
import "./Along.css";

const KEY = ["along"];
const DAY_MS = 86_400_000;
const NEAR_DAYS = 2;
/** The screen goes first. */
const AFTER_MS = 3_000;

/** All of a job that is needed without signal: shown, judged, its sun and its walls' sun. */
async function take(jobId: string): Promise<void> {
  await api.job(jobId);
  await api.sun(jobId);
  // Not every job has a wall drawn.
  await api.wallSun(jobId).catch(() => undefined);
  await api.hand(jobId);
}

function useAlong() {
  const client = useQueryClient();
  const there = useQuery({
    queryKey: KEY,
    queryFn: () => keysSeen("hand ").catch(() => [] as string[]),
    networkMode: "always",
  });
  const taking = useMutation({
    mutationFn: take,
    scope: { id: "along" },
    onSettled: () => client.invalidateQueries({ queryKey: KEY }),
  });
  return { ids: there.data, taking };
}

const isNear = (day: string) => Math.abs(Date.parse(day) - Date.now()) < NEAR_DAYS * DAY_MS;

/** Jobs of these days are taken along by themselves: whoever goes up a roof may not have opened them. */
export function NearAlong({ jobs }: { jobs: JobLine[] }) {
  const { ids, taking } = useAlong();
  const signal = useSignal();
  const next = ids === undefined ? undefined : jobs.find((job) => isNear(job.day) && !ids.includes(job.id));
  const { isPending, isError, mutate } = taking;
  useEffect(() => {
    // One after the other; where one fails the rest wait until the home is opened again.
    if (next === undefined || !signal || isPending || isError) return undefined;
    const timer = setTimeout(() => mutate(next.id), AFTER_MS);
    return () => clearTimeout(timer);
  }, [next, signal, isPending, isError, mutate]);
  return null;
}

/** Whether a job is on this device, to be worked on without signal; with a button where it is not. */
export function Along({ job }: { job: JobLine }) {
  const { ids, taking } = useAlong();
  const signal = useSignal();
  if (ids === undefined) return null;
  if (ids.includes(job.id)) return <p className="along">{say("home.on_this_device_too")}</p>;
  if (!signal) return <p className="along">{say("home.not_on_this_device")}</p>;
  return (
    <p className="along">
      <button
        type="button"
        className="quiet"
        aria-label={say("home.take_along", { job: job.name })}
        disabled={taking.isPending}
        onClick={() => taking.mutate(job.id)}
      >
        {taking.isPending ? say("home.taking_it_along") : say("home.take_along_2")}
      </button>
    </p>
  );
}
