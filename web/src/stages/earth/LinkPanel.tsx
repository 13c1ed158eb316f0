import { Button, Input } from "antd";
import { useState } from "react";
import type { EarthLink, EarthLinkState, Earthing, Edit } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { Photos } from "../../shared/evidence/Photos";
import { figure } from "../../shared/lib/figures";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Pick } from "../../shared/fields/Pick";
import { HOWS } from "./words";
import { say } from "../../words/say";

type Put = Extract<Edit, { do: "put_link" }>;

interface LinkPanelProps {
  jobId: string;
  link: EarthLink;
  state: EarthLinkState;
  nodes: Earthing["nodes"];
  renamed: (name: string) => void;
  whyAll: boolean;
}

const text = (value: number | null | undefined, unit: string) => (value == null ? "" : figure(value, unit));

function asEntered(link: EarthLink): Put {
  return {
    do: "put_link",
    was: link.name,
    name: link.name,
    start: link.start,
    end: link.end,
    how: link.how,
    length_m: text(link.length_m, "m"),
    section_mm2: text(link.section_mm2, "mm²"),
    joints: String(link.joints),
    stud_mm: text(link.stud_mm, "mm"),
  };
}

/** One step of the path: what runs there, its lug, its size against what it must be. */
export function LinkPanel({ jobId, link, state, nodes, renamed, whyAll }: LinkPanelProps) {
  const [draft, setDraft] = useState<Put | null>(null);
  const edit = useEdit(jobId);
  const entered = draft ?? asEntered(link);
  const put = (change: Partial<Put>) => setDraft({ ...entered, ...change });
  const names = nodes.map((node) => [node.name, node.name] as const);
  const bites = entered.how === "washer" || entered.how === "clamp";
  const said = asEntered(link);
  return (
    <section className="device-panel" aria-label={link.name}>
      <header>
        <h2>{link.name}</h2>
        <span>
          {state.least_mm2 === null
            ? say("earth.bites_through")
            : say("earth.at_least", { least_mm2: figure(state.least_mm2, "mm²") })}
          {state.lug !== "" && ` · ${state.lug}`}
        </span>
      </header>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          edit.mutate(entered, {
            onSuccess: () => {
              renamed(entered.name);
              setDraft(null);
            },
          });
        }}
      >
        <div className="device-fields">
          <Pick label={say("common.from")} value={entered.start} options={names} put={(start) => put({ start })} />
          <Pick label={say("common.to")} value={entered.end} options={names} put={(end) => put({ end })} />
          <Pick label={say("earth.how")} value={entered.how} options={HOWS} put={(how) => put({ how })} />
          {!bites && (
            <label className="entry">
              <span className="entry-label">{say("common.length")}</span>
              <Input value={entered.length_m} onChange={(event) => put({ length_m: event.target.value })} />
            </label>
          )}
          {!bites && (
            <label className="entry">
              <span className="entry-label">{say("common.size")}</span>
              <Input value={entered.section_mm2} onChange={(event) => put({ section_mm2: event.target.value })} />
            </label>
          )}
          {!bites && (
            <label className="entry">
              <span className="entry-label">{say("earth.joints_on_the_way")}</span>
              <Input value={entered.joints} onChange={(event) => put({ joints: event.target.value })} />
            </label>
          )}
          {!bites && (
            <label className="entry">
              <span className="entry-label">{say("earth.stud_of_the_terminal_m")}</span>
              <Input
                value={entered.stud_mm}
                placeholder="8 mm"
                onChange={(event) => put({ stud_mm: event.target.value })}
              />
            </label>
          )}
          <div className="object-do">
            <Button htmlType="submit" type="primary" disabled={draft === null} loading={edit.isPending}>
              {say("common.keep")}
            </Button>
            {draft !== null && (
              <Button onClick={() => setDraft(null)}>
                {say("earth.back_to", {
                  section_mm2: said.section_mm2 === "" ? say("earth.before") : said.section_mm2,
                })}
              </Button>
            )}
            <Button onClick={() => edit.mutate({ do: "remove_link", name: link.name })}>{say("common.remove")}</Button>
          </div>
        </div>
      </form>
      <ProblemNote error={edit.error} />
      <JudgementList judgements={state.judgements} allOpen={whyAll} />
      <Photos jobId={jobId} step={`continuity/${link.name}`} title={link.name} />
    </section>
  );
}
