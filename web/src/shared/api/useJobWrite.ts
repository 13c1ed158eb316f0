import { useMutation, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "./calls";
import { shownAs } from "../hand/held";
import { changePlan, flushed, keepPhoto, keepRead, refreshed } from "../outbox/outbox";
import { putSeenLater, type ClearSky, type FieldChange, type Photo, type PlanPress } from "../outbox/store";
import { hasSignal } from "../outbox/signal";
import { Refusal } from "./transport";
import type { Edit, GoodsIn, JobView, ReadingIn } from "./types";
import { jobKey } from "./useJob";
import { say } from "../../words/say";

const CONFLICT = 409;

/** A write that the server answers with the whole job; what waits goes before it. */
export function useJobWrite<T>(id: string, write: (input: T, client: QueryClient) => Promise<JobView>) {
  return useKept<T>(id, async (input, client) => {
    await flushed(id);
    const view = await write(input, client);
    void refreshed(id);
    return view;
  });
}

/** What is done with a job and gives what is shown of it then; one goes after the other. */
function useKept<T>(id: string, write: (input: T, client: QueryClient) => Promise<Partial<JobView>>) {
  const client = useQueryClient();
  return useMutation({
    scope: { id: `job-${id}` },
    mutationFn: async (input: T) => {
      const changed = await write(input, client);
      // What was asked for before this does not know of it.
      void client.cancelQueries({ queryKey: jobKey(id) });
      const before = client.getQueryData<JobView>(jobKey(id)) as JobView;
      const view = client.setQueryData<JobView>(jobKey(id), { ...before, ...changed }) as JobView;
      shownAs(id, changed, view);
      return view;
    },
    onSuccess: (view) => {
      putSeenLater(`job ${id}`, view);
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

const shownOf = async (client: QueryClient, id: string) =>
  client.getQueryData<JobView>(jobKey(id)) ?? (await api.job(id));

/** Changes the plan: judged here where the core is, else against the revision shown last. */
async function planned(id: string, client: QueryClient, press: PlanPress) {
  const here = await changePlan(id, press);
  if (here !== undefined) return here;
  const { revision } = await shownOf(client, id);
  const answer = "edit" in press ? api.edit(id, revision, press.edit) : api.change(id, revision, press.changes);
  const view = await answer;
  void refreshed(id);
  return view;
}

/** Change fields of the plan. */
export function useChange(id: string) {
  return useKept<FieldChange[]>(id, (changes, client) => planned(id, client, { changes }));
}

/** Edit what the job is made of. */
export function useEdit(id: string) {
  return useKept<Edit>(id, (edit, client) => planned(id, client, { edit }));
}

/** Keep a reading, on the server or on this device until there is signal. */
export function useKeep(id: string) {
  return useKept<ReadingIn>(id, async (reading, client) => {
    const asks = client.getQueryData<JobView>(jobKey(id))?.assessment.asks ?? [];
    const ask = asks.find((one) => one.kind === reading.kind && one.subject === reading.subject);
    const answer = ask?.answers[reading.entered === "1" ? 0 : 1];
    const title = ask?.title ?? `${reading.kind.replaceAll("_", " ")}, ${reading.subject}`;
    return keepRead(id, { reading }, `${title}: ${answer ?? `${reading.entered} ${ask?.unit ?? ""}`.trim()}`);
  });
}

/** Keep the clear-sky figure of a plane in the place of a reading. */
export function useKeepClearSky(id: string) {
  return useKept<ClearSky>(id, (wanted) =>
    keepRead(id, { clear_sky: wanted }, say("shared.the_clear_sky_figure_of", { plane: wanted.plane })),
  );
}

/** So many lines go one by one, each with its identity; more of them together, where there is signal. */
const FEW_LINES = 3;

/** Count lines of the load-in sheet: on the server, and without signal on this device. */
export function useCount(id: string) {
  return useKept<GoodsIn[]>(id, async (counted) => {
    if (counted.length > FEW_LINES && hasSignal()) {
      await flushed(id);
      const view = await api.countGoods(id, counted);
      void refreshed(id);
      return view;
    }
    let view: Partial<JobView> = {};
    for (const { line, found, damaged, note } of counted) {
      const more = { subject: line, note, taken_at: null, instrument: "", supersedes: null };
      const here = { ...more, kind: "goods_found" as const, entered: found };
      view = { ...view, ...(await keepRead(id, { reading: here }, say("shared.here", { line, found }))) };
      if (damaged.trim() === "") continue;
      const broken = { ...more, kind: "goods_damaged" as const, entered: damaged };
      view = { ...view, ...(await keepRead(id, { reading: broken }, say("shared.damaged", { line, damaged }))) };
    }
    return view;
  });
}

/** Keep a picture of a step, on the server or on this device until there is signal. */
export function useKeepPhoto(id: string) {
  return useKept<Photo>(id, (photo) => keepPhoto(id, photo, say("shared.picture", { photo: photo.name })));
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
