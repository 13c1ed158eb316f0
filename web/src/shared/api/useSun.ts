import { useQuery } from "@tanstack/react-query";
import { sunOf } from "../outbox/outbox";
import { api } from "./calls";

const ASK_AGAIN_MS = 60_000;

/** The sun over a job's site today: by the sky that the job carries along, else by the server. */
export function useSun(id: string) {
  return useQuery({
    queryKey: ["sun", id],
    queryFn: async () => (await sunOf(id)) ?? api.sun(id),
    refetchInterval: ASK_AGAIN_MS,
  });
}
