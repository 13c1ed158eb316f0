import { useQuery } from "@tanstack/react-query";
import { api } from "./calls";

export const jobKey = (id: string) => ["job", id] as const;

/** The job with its assessment, as last given by the server. */
export function useJob(id: string) {
  return useQuery({ queryKey: jobKey(id), queryFn: () => api.job(id) });
}
