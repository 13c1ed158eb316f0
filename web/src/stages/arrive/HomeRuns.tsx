import { Button, Input } from "antd";
import { useState } from "react";
import type { StringPlan } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { figure } from "../../shared/lib/figures";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { rich, say } from "../../words/say";
import "./HomeRuns.css";

/** Each string's way to the inverter, by which its cable is counted. */
export function HomeRuns({ jobId, strings }: { jobId: string; strings: StringPlan[] }) {
  return (
    <section className="home-runs" aria-label={say("arrive.home_runs")}>
      <h3>{say("arrive.home_runs_by_which_dc_cable")}</h3>
      {strings.map((string) => (
        <Run key={string.name} jobId={jobId} string={string} />
      ))}
    </section>
  );
}

/** Length and size of one string's home run, kept together. */
function Run({ jobId, string }: { jobId: string; string: StringPlan }) {
  const { name, home_run: pieces } = string;
  const [run] = pieces;
  const shown =
    run === undefined
      ? { length_m: "", section_mm2: "" }
      : { length_m: figure(run.length_m, "m"), section_mm2: figure(run.section_mm2, "mm²") };
  const [draft, setDraft] = useState<typeof shown | null>(null);
  const edit = useEdit(jobId);
  const entered = draft ?? shown;
  if (pieces.length > 1)
    return (
      <p className="in-pieces">
        {rich("arrive.change_the_pieces_in_feed", {
          name: <b>{name}</b>,
          pieces: pieces
            .map((piece) =>
              say("arrive.of", {
                length_m: figure(piece.length_m, "m"),
                section_mm2: figure(piece.section_mm2, "mm²"),
              }),
            )
            .join(" + "),
        })}
      </p>
    );
  return (
    <form
      aria-label={say("arrive.home_run", { name })}
      onSubmit={(event) => {
        event.preventDefault();
        edit.mutate({ do: "set_home_run", name, ...entered }, { onSuccess: () => setDraft(null) });
      }}
    >
      <b>{name}</b>
      <label className="entry">
        <span className="entry-label">{say("arrive.one_way")}</span>
        <Input
          value={entered.length_m}
          placeholder="18 m"
          onChange={(event) => setDraft({ ...entered, length_m: event.target.value })}
        />
      </label>
      <label className="entry">
        <span className="entry-label">{say("common.size")}</span>
        <Input
          value={entered.section_mm2}
          placeholder="4 mm²"
          onChange={(event) => setDraft({ ...entered, section_mm2: event.target.value })}
        />
      </label>
      <Button htmlType="submit" disabled={draft === null} loading={edit.isPending}>
        {say("common.keep")}
      </Button>
      <ProblemNote error={edit.error} />
    </form>
  );
}
