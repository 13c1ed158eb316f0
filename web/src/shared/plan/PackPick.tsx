import { useQuery } from "@tanstack/react-query";
import { Select } from "antd";
import { api } from "../api/calls";
import type { JobView } from "../api/types";
import { useEdit } from "../api/useJobWrite";
import { useShelf } from "../api/useShelf";
import { ProblemNote } from "../judging/ProblemNote";
import { PackFigures } from "../fields/PackFigures";
import { say } from "../../words/say";

/** The rule pack of a job, and any of its figures replaced for this job with a reason. */
export function PackPick({ jobId, view }: { jobId: string; view: JobView }) {
  const shelf = useShelf();
  const edit = useEdit(jobId);
  const replace = useEdit(jobId);
  const { rule_pack: pack } = view.assessment;
  const figures = useQuery({
    queryKey: ["figures", jobId, view.revision],
    queryFn: () => api.figures(jobId),
  });
  return (
    <>
      <h3>{say("shared.rules")}</h3>
      <label className="entry">
        <span className="entry-label">{say("common.rule_pack")}</span>
        <Select
          aria-label={say("common.rule_pack")}
          value={pack.id}
          options={(shelf.data?.packs ?? []).map((one) => ({ value: one.id, label: `${one.label} · ${one.detail}` }))}
          onChange={(id: string) => edit.mutate({ do: "take_pack", id })}
        />
      </label>
      <p className="sheet">
        {pack.edition}. {pack.note}
      </p>
      {pack.replaced.length > 0 && (
        <ul className="replaced">
          {pack.replaced.map((one) => (
            <li key={one.path}>
              {one.title}: {one.was} → <b>{one.now}</b>, {one.reason}{" "}
              <button
                type="button"
                className="quiet"
                onClick={() => edit.mutate({ do: "restore_figure", path: one.path })}
              >
                {say("common.put_back")}
              </button>
            </li>
          ))}
        </ul>
      )}
      <ProblemNote error={edit.error} />
      <details>
        <summary>{say("shared.replace_a_figure_for_this_job")}</summary>
        <PackFigures
          figures={figures.data?.figures ?? []}
          replace={(path, entered, reason) => replace.mutateAsync({ do: "replace_figure", path, entered, reason })}
        />
      </details>
    </>
  );
}
