import { useQuery } from "@tanstack/react-query";
import { withWaiting } from "../outbox/outbox";
import { api } from "./calls";

export const jobKey = (id: string) => ["job", id] as const;

/** The job with its assessment, as last given by the server, with what waits here made on it. */
export function useJob(id: string) {
  return useQuery({ queryKey: jobKey(id), queryFn: async () => withWaiting(id, await api.job(id)) });
}
