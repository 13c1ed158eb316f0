import { Button } from "antd";
import { useState } from "react";
import { useStop } from "../../shared/api/stopping";
import { Working } from "../../shared/fields/Working";
import { api } from "../../shared/api/calls";
import type { Schemas } from "../../shared/api/types";
import { useJobWrite } from "../../shared/api/useJobWrite";
import { ProblemNote } from "../../shared/judging/ProblemNote";

/** The portal itself: the plant given to it, and what it has heard since. */
export function Portal({ jobId, account }: { jobId: string; account: Schemas["AccountPlan"] }) {
  const [said, setSaid] = useState("");
  const register = useJobWrite<null>(jobId, () => api.registerPlant(jobId));
  const { begun, stop } = useStop();
  const look = useJobWrite<null>(jobId, () => api.lookAtPortal(jobId, begun()));
  if (account.host === "") return null;
  const busy = register.isPending || look.isPending;
  return (
    <section aria-label="Portal">
      <h2>{account.portal}</h2>
      <div className="object-do">
        <Button
          loading={register.isPending}
          disabled={busy}
          onClick={() => register.mutate(null, { onSuccess: () => setSaid(`${account.portal} took the plant.`) })}
        >
          Enter the plant there
        </Button>
        <Button
          loading={look.isPending}
          disabled={busy}
          onClick={() => look.mutate(null, { onSuccess: () => setSaid(`${account.portal} was looked at.`) })}
        >
          See what it has heard
        </Button>
        <Working is={look.isPending} doing="Asking the portal" stop={stop} />
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
