import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api } from "../api/calls";
import { Refusal } from "../api/transport";
import { tryReading } from "../outbox/outbox";
import type { Prompt, ReadingIn } from "../api/types";

/** After so long without an answer it is said that there is none. */
const LATE_MS = 1000;
const BUSY = 503;
const MOST_TRIES = 3;
const AGAIN_MS = 250;

export interface Tried {
  /** What the core says of exactly what stands in the field; null while it says nothing of it. */
  judged: Prompt | null;
  /** The answer is on its way; late: for longer than a second. */
  isAsking: boolean;
  isLate: boolean;
  error: Error | null;
  /** Waits for the answer on its way: whether there is one within a second. */
  settled: () => Promise<boolean>;
}

const after = (ms: number) => new Promise<boolean>((resolve) => setTimeout(() => resolve(false), ms));

/** The verdict on what is being typed, and on nothing that was typed before. */
export function useTried(jobId: string, askKey: string, reading: ReadingIn): Tried {
  const isEmpty = reading.entered.trim() === "";
  const { data, error, isPending, refetch } = useQuery({
    queryKey: ["try", jobId, askKey, reading.entered, reading.taken_at, reading.supersedes],
    queryFn: async () => (await tryReading(jobId, reading)) ?? api.tryReading(jobId, reading),
    enabled: !isEmpty,
    gcTime: 0,
    // A server that is busy for a moment is asked again; one that does not answer is not waited for.
    retry: (tries, failed) => tries < MOST_TRIES && failed instanceof Refusal && failed.report.status === BUSY,
    retryDelay: AGAIN_MS,
  });
  const isAsking = !isEmpty && isPending;
  const [lateFor, setLateFor] = useState<string | null>(null);
  useEffect(() => {
    if (!isAsking) return undefined;
    const timer = setTimeout(() => setLateFor(reading.entered), LATE_MS);
    return () => clearTimeout(timer);
  }, [isAsking, reading.entered]);
  const arrives = () => refetch({ cancelRefetch: false }).then((answer) => answer.data !== undefined);
  const settled = () => Promise.race([arrives(), after(LATE_MS)]);
  return {
    judged: isEmpty ? null : (data ?? null),
    isAsking,
    isLate: isAsking && lateFor === reading.entered,
    error,
    settled,
  };
}
