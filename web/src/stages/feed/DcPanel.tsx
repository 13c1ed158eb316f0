import { useQuery } from "@tanstack/react-query";
import { api } from "../../shared/api/calls";
import type { Edit, FeedPlan, FeedStage } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { figure } from "../../shared/lib/figures";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Pick } from "../../shared/fields/Pick";
import { SheetPick } from "../../shared/fields/SheetPick";
import { DraftField } from "../../shared/fields/DraftField";
import { KeepRow } from "../../shared/fields/KeepRow";
import { pickedSheet, useDraft } from "../../shared/fields/useDraft";
import { SURGES } from "./words";
import { rich, say } from "../../words/say";
import "./DcPanel.css";

type Put = Extract<Edit, { do: "choose_dc" }>;

interface DcPanelProps {
  jobId: string;
  dc: FeedPlan["dc"];
  stage: FeedStage;
  whyAll: boolean;
}

/** The ways to part the DC side at the roof's end, side by side, and the decision with its reason. */
export function DcPanel({ jobId, dc, stage, whyAll }: DcPanelProps) {
  const session = useQuery({ queryKey: ["session"], queryFn: api.session, staleTime: Infinity });
  const person = session.data?.name ?? "";
  const { entered, changed, put, drop } = useDraft<Put>({
    do: "choose_dc",
    school: dc.school,
    isolator: null,
    safety: null,
    surge: dc.surge,
    reason: dc.reason,
    by: dc.by === "" ? person : dc.by,
  });
  const edit = useEdit(jobId);
  const state = stage.dc_switching;
  const withManual = entered.school === "manual" || entered.school === "both";
  const withSafety = entered.school === "automatic" || entered.school === "both";
  return (
    <section className="device-panel" aria-label={say("feed.dc_switching")}>
      <header>
        <h2>{say("feed.what_parts_the_dc_side_near")}</h2>
        <span>{state?.line}</span>
      </header>
      <div className="size-steps schools" role="radiogroup" aria-label={say("feed.dc_switching")}>
        {stage.dc_schools.map((one) => (
          <button
            key={one.school}
            type="button"
            role="radio"
            aria-checked={entered.school === one.school}
            className="size-step"
            onClick={() => put({ school: one.school as Put["school"] })}
          >
            <span className="size-name">{one.title}</span>
            <span>{rich("feed.added_terminations", { terminations: <b>{figure(one.terminations, "", 0)}</b> })}</span>
            <span>{one.parts}</span>
            <span>
              <b>{say("feed.stays_live")}</b> {one.live}
            </span>
            <span className="buys">{one.caution}</span>
          </button>
        ))}
      </div>
      <form
        className="device-fields"
        onSubmit={(event) => {
          event.preventDefault();
          edit.mutate(entered, { onSuccess: drop });
        }}
      >
        {withManual && (
          <SheetPick
            kind="isolators"
            label={say("common.dc_isolator")}
            now={pickedSheet(entered.isolator, dc.isolator?.id)}
            nowLabel={dc.isolator?.model ?? ""}
            none={say("feed.no_sheet_yet")}
            put={(id) => put({ isolator: id ?? "" })}
          />
        )}
        {withSafety && (
          <SheetPick
            kind="safety_switches"
            label={say("feed.safety_switch")}
            now={pickedSheet(entered.safety, dc.safety?.id)}
            nowLabel={dc.safety?.model ?? ""}
            none={say("feed.no_sheet_yet")}
            put={(id) => put({ safety: id ?? "" })}
          />
        )}
        <Pick
          label={say("feed.surge_devices_dc")}
          value={entered.surge}
          options={SURGES}
          put={(surge) => put({ surge })}
        />
        <DraftField label={say("feed.decided_by")} value={entered.by} put={(by) => put({ by })} />
        <div className="wide">
          <DraftField
            label={say("feed.because")}
            value={entered.reason}
            placeholder={say("feed.what_decided_it_for_the_record")}
            put={(reason) => put({ reason })}
          />
        </div>
        <KeepRow changed={changed} saving={edit.isPending} drop={drop} />
      </form>
      <ProblemNote error={edit.error} />
      <JudgementList judgements={state?.judgements ?? []} allOpen={whyAll} />
    </section>
  );
}
