import { useQuery } from "@tanstack/react-query";
import { api } from "../shared/api/calls";
import type { Doing } from "../shared/api/types";

/** Who is signed in, and whether they may do a thing. */
export function useSession() {
  const session = useQuery({ queryKey: ["session"], queryFn: api.session, staleTime: Infinity });
  return {
    session: session.data,
    may: (doing: Doing) => session.data?.may.includes(doing) ?? false,
  };
}
