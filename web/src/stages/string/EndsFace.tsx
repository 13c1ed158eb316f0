import { useState } from "react";
import type { JobView, MadePiece } from "../../shared/api/types";
import { useEdit, useKeep } from "../../shared/api/useJobWrite";
import { SheetPick } from "../../shared/fields/SheetPick";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { strung } from "../../shared/lib/strung";
import { MakingSteps, howFar } from "../../shared/making/MakingSteps";
import { ModuleSerialList } from "../../shared/making/ModuleSerialList";
import { Mark } from "../../shared/marks/Mark";
import { say } from "../../words/say";
import "./EndsFace.css";

interface EndsFaceProps {
  jobId: string;
  view: JobView;
  selected: string;
  select: (name: string) => void;
  whyAll: boolean;
}

/** The leads of each string with the plugs at their ends: touch one, tick its steps as they are made. */
export function EndsFace({ jobId, view, selected, select, whyAll }: EndsFaceProps) {
  const { stage } = strung(view);
  const keep = useKeep(jobId);
  const edit = useEdit(jobId);
  const { plug } = view.plan.feed.dc;
  const [picked, setPicked] = useState<string | null>(null);
  const string = stage.strings.find((one) => one.name === selected) ?? stage.strings[0];
  if (string === undefined) return <p className="nothing">{say("string.no_strings_yet_add_one_under")}</p>;
  const next = string.ends.find((one) => one.verdict !== "clear");
  const end = string.ends.find((one) => one.subject === picked) ?? next ?? string.ends[0];
  const poles = ["plus", "minus"] as const;
  return (
    <>
      <div className="lead-strings" role="group" aria-label={say("common.string")}>
        {stage.strings.map((one) => (
          <button
            key={one.name}
            type="button"
            aria-pressed={one.name === string.name}
            onClick={() => {
              setPicked(null);
              select(one.name);
            }}
          >
            <b>{one.name}</b>
            <span>
              {say("string.of_ends", {
                clear: one.ends.filter((made) => made.verdict === "clear").length,
                endsCount: one.ends.length,
              })}
            </span>
          </button>
        ))}
      </div>
      <section className="leads" aria-label={say("string.leads_of_string", { string: string.name })}>
        {poles.map((pole) => (
          <div key={pole} className={`lead lead-${pole}`}>
            {string.ends
              .filter((one) => one.title.endsWith(pole))
              .map((one) => (
                <LeadEnd key={one.subject} end={one} chosen={one === end} touch={() => setPicked(one.subject)} />
              ))}
          </div>
        ))}
      </section>
      <div className="device-fields">
        <SheetPick
          kind="plugs"
          label={say("string.plugs_of_the_strings")}
          now={plug?.id ?? null}
          nowLabel={plug == null ? "" : `${plug.maker} ${plug.model}`}
          none={say("string.no_make_chosen_yet")}
          put={(id) => edit.mutate({ do: "choose_plug", id: id ?? "" })}
        />
      </div>
      <ProblemNote error={edit.error} />
      {stage.plug.length > 0 ? (
        <ul className="plug-told" aria-label={say("string.how_an_end_is_made")}>
          {stage.plug.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      ) : (
        <p className="source">{say("string.with_its_sheet_strip_pin_die")}</p>
      )}
      {end !== undefined && (
        <section className="branch-bench" aria-label={end.subject}>
          <header>
            <h2>
              {string.name}, {end.title}
            </h2>
            <p>{howFar(end)}</p>
          </header>
          <ProblemNote error={keep.error} />
          <MakingSteps jobId={jobId} piece={end} steps={stage.end_steps} keep={keep} />
        </section>
      )}
      <ModuleSerialList jobId={jobId} serials={stage.serials} whyAll={whyAll} />
    </>
  );
}

function LeadEnd({ end, chosen, touch }: { end: MadePiece; chosen: boolean; touch: () => void }) {
  const begun = end.done.length + end.wrong.length > 0;
  return (
    <button type="button" className="lead-end" aria-pressed={chosen} onClick={touch}>
      <span className="lead-name">{end.title}</span>
      <b>{howFar(end)}</b>
      {begun && <Mark verdict={end.verdict} word={false} />}
    </button>
  );
}
