import { useState } from "react";
import type { JobView, MadePiece } from "../../shared/api/types";
import { useEdit, useKeep } from "../../shared/api/useJobWrite";
import { SheetPick } from "../../shared/fields/SheetPick";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { strung } from "../../shared/lib/strung";
import { MakingSteps, howFar } from "../../shared/making/MakingSteps";
import { ModuleSerialList } from "../../shared/making/ModuleSerialList";
import { Mark } from "../../shared/marks/Mark";
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
  if (string === undefined) return <p className="nothing">No strings yet: add one under volts.</p>;
  const next = string.ends.find((one) => one.verdict !== "clear");
  const end = string.ends.find((one) => one.subject === picked) ?? next ?? string.ends[0];
  const poles = ["plus", "minus"] as const;
  return (
    <>
      <div className="lead-strings" role="group" aria-label="String">
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
              {one.ends.filter((made) => made.verdict === "clear").length} of {one.ends.length} ends
            </span>
          </button>
        ))}
      </div>
      <section className="leads" aria-label={`Leads of string ${string.name}`}>
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
          label="Plugs of the strings"
          now={plug?.id ?? null}
          nowLabel={plug == null ? "" : `${plug.maker} ${plug.model}`}
          none="no make chosen yet"
          put={(id) => edit.mutate({ do: "choose_plug", id: id ?? "" })}
        />
      </div>
      <ProblemNote error={edit.error} />
      {stage.plug.length > 0 ? (
        <ul className="plug-told" aria-label="How an end is made">
          {stage.plug.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      ) : (
        <p className="source">
          With its sheet, strip, pin, die and torque stand here, and what it bears is held against this string.
        </p>
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
