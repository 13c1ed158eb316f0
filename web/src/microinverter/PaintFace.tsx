import { Button } from "antd";
import { useState } from "react";
import type { Edit, UnitState } from "../shared/api/types";
import { useDrawnEdit } from "../shared/api/useJobWrite";
import { JudgementList } from "../shared/judging/JudgementList";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { RoofScale } from "./RoofScale";
import { AddPlane } from "../shared/plan/AddPlane";
import { PlaneEditor } from "../shared/plan/PlaneEditor";
import { BranchBench } from "./BranchBench";
import { BranchPick } from "./BranchPick";
import type { RoofFaceProps } from "./props";
import { Proposals } from "./Proposals";
import { RoofChoices } from "./RoofChoices";
import { say } from "../words/say";

/** Branches painted on the roof by tap, drag or keys, with what that does to current, rise and room. */
export function PaintFace({ jobId, view, whyAll, roof, branch, select }: RoofFaceProps) {
  const edit = useDrawnEdit(jobId, view.revision);
  const [draft, setDraft] = useState<string[] | null>(null);
  const { micro } = view.plan;
  const state = roof.branches.find((one) => one.name === branch);
  const own = draft ?? awaited(edit.awaited, branch) ?? state?.units ?? [];
  const paint = (units: string[]) => edit.mutate({ do: "paint_branch", name: branch, units });
  const touch = (unit: UnitState) => {
    if (branch === "" || draft !== null) return;
    const at = own.indexOf(unit.name);
    paint(at === -1 ? [...own, unit.name] : at === own.length - 1 ? own.slice(0, at) : own.slice(0, at + 1));
  };
  const trunks = roof.branches.map((one) => ({
    name: one.name,
    units: one.name === branch ? own : one.units.filter((name) => !own.includes(name)),
    strong: one.name === branch,
  }));
  return (
    <>
      <div className="roof-tools">
        <BranchPick roof={roof} branch={branch} select={select} />
        <div className="roof-do">
          <Button disabled={own.length < 2} onClick={() => paint([...own].reverse())}>
            {say("microinverter.feed_from_its_other_end", { branch })}
          </Button>
          <Button disabled={own.length === 0} onClick={() => paint([])}>
            {say("microinverter.empty", { branch })}
          </Button>
          <Button onClick={() => edit.mutate({ do: "add_branch" })}>{say("microinverter.add_a_branch")}</Button>
          <Button disabled={branch === ""} onClick={() => edit.mutate({ do: "remove_branch", name: branch })}>
            {say("microinverter.remove", { branch })}
          </Button>
        </div>
      </div>
      {branch !== "" && <p className="roof-hint">{say("microinverter.paint_from_its_fed_end_tap", { branch })}</p>}
      <ProblemNote error={edit.error} />
      <RoofScale
        stage={roof}
        chosen={null}
        trunks={trunks}
        touch={touch}
        pass={(unit) =>
          setDraft((before) => ((before ?? own).includes(unit.name) ? before : [...(before ?? own), unit.name]))
        }
        lift={() => {
          if (draft !== null) paint(draft);
          setDraft(null);
        }}
        shown={(unit) => {
          if (unit === null) return { head: "", foot: say("microinverter.no_unit"), verdict: null, tone: "free" };
          const at = own.indexOf(unit.name);
          const other = at === -1 && unit.branch !== branch ? unit.branch : "";
          return at !== -1
            ? { head: `${branch}.${at + 1}`, foot: unit.name, verdict: null, tone: "own" }
            : {
                head: other === "" ? unit.name : `${other}.${unit.number}`,
                foot: other === "" ? say("microinverter.no_branch") : unit.name,
                verdict: null,
                tone: other === "" ? "free" : "other",
              };
        }}
      />
      {state !== undefined && <BranchBench key={state.name} jobId={jobId} view={view} state={state} />}
      <Proposals
        jobId={jobId}
        revision={view.revision}
        isEmpty={roof.units.length === 0}
        isLinked={micro?.trunk.linked != null}
      />
      {state !== undefined && (
        <>
          <h2 className="why-head">{say("microinverter.why_branch", { state: state.name })}</h2>
          <JudgementList judgements={state.judgements} allOpen={whyAll} />
        </>
      )}
      <h2 className="why-head">{say("microinverter.the_roof_as_a_whole")}</h2>
      <JudgementList judgements={roof.judgements} allOpen={whyAll} />
      {micro !== null && (
        <RoofChoices
          jobId={jobId}
          gaps={micro.gaps}
          earth={micro.earth ?? null}
          order={micro.order}
          label={micro.label}
          three_phase={micro.three_phase}
          isSingle={micro.unit.service === "single"}
        />
      )}
      <h2 className="why-head">{say("common.planes")}</h2>
      {view.plan.planes.map((plane, index) => (
        <PlaneEditor
          key={plane.name}
          jobId={jobId}
          plane={plane}
          index={index}
          types={micro?.types ?? null}
          tape={view.assessment.hang.tape}
          edges={view.assessment.hang.edges}
          whyAll={whyAll}
        />
      ))}
      <AddPlane jobId={jobId} />
    </>
  );
}

/** The branch as it will be once the edit under way is answered: the next touch must build on it. */
function awaited(edit: Edit | undefined, branch: string): string[] | null {
  return edit?.do === "paint_branch" && edit.name === branch ? edit.units : null;
}
