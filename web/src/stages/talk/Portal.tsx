import { Button } from "antd";
import { useState } from "react";
import { useStop } from "../../shared/api/stopping";
import { Working } from "../../shared/fields/Working";
import { api } from "../../shared/api/calls";
import type { Schemas } from "../../shared/api/types";
import { useJobWrite } from "../../shared/api/useJobWrite";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { say } from "../../words/say";

/** The portal itself: the plant given to it, and what it has heard since. */
export function Portal({ jobId, account }: { jobId: string; account: Schemas["AccountPlan"] }) {
  const [said, setSaid] = useState("");
  const register = useJobWrite<null>(jobId, () => api.registerPlant(jobId));
  const { begun, stop } = useStop();
  const look = useJobWrite<null>(jobId, () => api.lookAtPortal(jobId, begun()));
  if (account.host === "") return null;
  const busy = register.isPending || look.isPending;
  return (
    <section aria-label={say("talk.portal")}>
      <h2>{account.portal}</h2>
      <div className="object-do">
        <Button
          loading={register.isPending}
          disabled={busy}
          onClick={() =>
            register.mutate(null, { onSuccess: () => setSaid(say("talk.took_the_plant", { portal: account.portal })) })
          }
        >
          {say("talk.enter_the_plant_there")}
        </Button>
        <Button
          loading={look.isPending}
          disabled={busy}
          onClick={() =>
            look.mutate(null, { onSuccess: () => setSaid(say("talk.was_looked_at", { portal: account.portal })) })
          }
        >
          {say("talk.see_what_it_has_heard")}
        </Button>
        <Working is={look.isPending} doing={say("talk.asking_the_portal")} stop={stop} />
      </div>
      {said !== "" && register.error === null && look.error === null && (
        <p className="map-said" role="status">
          {said}
        </p>
      )}
      <ProblemNote error={register.error ?? look.error} />
    </section>
  );
}
