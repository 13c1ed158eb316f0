import { useMutation, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "./calls";
import { Refusal } from "./transport";
import type { Edit, JobView } from "./types";
import { jobKey } from "./useJob";

const CONFLICT = 409;

/** A write that answers with the whole job; writes to one job go one after the other. */
export function useJobWrite<T>(id: string, write: (input: T, client: QueryClient) => Promise<JobView>) {
  const client = useQueryClient();
  return useMutation({
    scope: { id: `job-${id}` },
    mutationFn: (input: T) => write(input, client),
    onSuccess: (view) => {
      client.setQueryData(jobKey(id), view);
      // What changed here may be shown by the other inverters of the house too.
      for (const other of view.inverters) {
        if (other.id !== id) client.removeQueries({ queryKey: jobKey(other.id) });
      }
    },
    onError: (error) => {
      if (error instanceof Refusal && error.report.status === CONFLICT) {
        void client.invalidateQueries({ queryKey: jobKey(id) });
      }
    },
  });
}

export interface FieldChange {
  path: string;
  entered: string;
}

/** Change fields of the plan, against the revision shown last. */
export function useChange(id: string) {
  return useJobWrite<FieldChange[]>(id, async (changes, client) => {
    const shown = client.getQueryData<JobView>(jobKey(id)) ?? (await api.job(id));
    return api.change(id, shown.revision, changes);
  });
}

/** Edit what the job is made of, against the revision shown last. */
export function useEdit(id: string) {
  return useJobWrite<Edit>(id, async (edit, client) => {
    const shown = client.getQueryData<JobView>(jobKey(id)) ?? (await api.job(id));
    return api.edit(id, shown.revision, edit);
  });
}

/**
 * Edits of a drawing, with the one its picture does not show yet. A touch must build on the one before it, so
 * the edit counts from the press itself, not from when the write is known to be under way, until the plan
 * shown has it or it is refused.
 */
export function useDrawnEdit(id: string, shownRevision: number) {
  const edit = useEdit(id);
  const [last, setLast] = useState<{ edit: Edit; revision: number } | null>(null);
  const mutate = (input: Edit) => {
    setLast({ edit: input, revision: Infinity });
    edit.mutate(input, {
      onSuccess: ({ revision }) => setLast({ edit: input, revision }),
      onError: () => setLast(null),
    });
  };
  return { mutate, error: edit.error, awaited: last !== null && shownRevision < last.revision ? last.edit : undefined };
}
