import { Button, Input, Select } from "antd";
import { useState } from "react";
import type { Arrival } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { useShelf } from "../../shared/api/useShelf";
import { Photos } from "../../shared/evidence/Photos";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { say } from "../../words/say";

const FIELDS = [
  ["operator", say("common.network_operator"), ""],
  ["reference", say("arrive.reference"), ""],
  ["granted_on", say("arrive.granted_on"), "2026-11-24"],
  ["export_w", say("arrive.export_granted_empty_not_limited"), "5 kW"],
] as const;

/** The network operator's permit, and its document. */
export function PermitForm({ jobId, permit }: { jobId: string; permit: Arrival["permit"] }) {
  const shown = {
    operator: permit?.operator ?? "",
    reference: permit?.reference ?? "",
    granted_on: permit?.granted_on ?? "",
    export_w: permit?.export_w == null ? "" : `${permit.export_w} W`,
    profile: permit?.profile ?? "",
  };
  const [draft, setDraft] = useState<typeof shown | null>(null);
  const edit = useEdit(jobId);
  const shelf = useShelf();
  const codes = (shelf.data?.profiles ?? []).map((one) => ({ value: one.id, label: one.label }));
  const entered = draft ?? shown;
  return (
    <form
      aria-label={say("arrive.permit")}
      onSubmit={(event) => {
        event.preventDefault();
        edit.mutate({ do: "set_permit", ...entered }, { onSuccess: () => setDraft(null) });
      }}
    >
      <h2 className="why-head">{say("arrive.permit_of_the_network_operator")}</h2>
      <div className="plane-fields">
        {FIELDS.map(([name, label, example]) => (
          <label key={name} className="entry">
            <span className="entry-label">{label}</span>
            <Input
              value={entered[name]}
              placeholder={example}
              onChange={(event) => setDraft({ ...entered, [name]: event.target.value })}
            />
          </label>
        ))}
        <label className="entry">
          <span className="entry-label">{say("arrive.grid_code_and_variant_it_demands")}</span>
          <Select
            aria-label={say("arrive.grid_code_and_variant_it_demands")}
            value={entered.profile}
            options={[{ value: "", label: say("arrive.the_permit_does_not_say") }, ...codes]}
            onChange={(profile: string) => setDraft({ ...entered, profile })}
          />
        </label>
        <Button htmlType="submit" className="plane-off" disabled={draft === null} loading={edit.isPending}>
          {say("common.keep")}
        </Button>
      </div>
      <ProblemNote error={edit.error} />
      <Photos jobId={jobId} step="permit" title={say("arrive.the_permit")} documents />
    </form>
  );
}
