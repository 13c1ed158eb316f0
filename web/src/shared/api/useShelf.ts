import { useQuery } from "@tanstack/react-query";
import { api } from "./calls";

/** Everything that can be chosen. */
export function useShelf() {
  return useQuery({ queryKey: ["shelf"], queryFn: api.shelf, staleTime: Infinity });
}
