import { useQuery } from "@tanstack/react-query";
import { api } from "./calls";

const ASK_AGAIN_MS = 60_000;

/** The sun over a job's site today. */
export function useSun(id: string) {
  return useQuery({ queryKey: ["sun", id], queryFn: () => api.sun(id), refetchInterval: ASK_AGAIN_MS });
}
