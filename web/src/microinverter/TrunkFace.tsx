import type { BranchState } from "../shared/api/types";
import { useEdit } from "../shared/api/useJobWrite";
import { figure } from "../shared/lib/figures";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { Pick } from "../shared/fields/Pick";
import { Field } from "../shared/fields/Field";
import { BranchPick } from "./BranchPick";
import type { RoofFaceProps } from "./props";
import { TrunkPicture } from "./TrunkPicture";
import { say } from "../words/say";
import "./microinverter.css";
import "./TrunkFace.css";

type Link = BranchState["trunk"]["links"][number];
const HOW = [
  ["", say("microinverter.as_the_roof_is_done")],
  ["pitch", say("microinverter.one_pitch_no_more")],
  ["drops", say("microinverter.its_own_drops_skipping")],
  ["extension", say("microinverter.an_extension")],
  ["joint", say("microinverter.cut_joined_in_a_box")],
] as const;

/** The trunk of a branch: drop by drop as it lies, what bridges each way, what to cut, what to bring. */
export function TrunkFace({ jobId, view, roof, branch, select }: RoofFaceProps) {
  const edit = useEdit(jobId);
  const typed = useEdit(jobId);
  const state = roof.branches.find((one) => one.name === branch);
  const planned = view.plan.micro?.branches.find((one) => one.name === branch);
  if (state === undefined || planned === undefined)
    return <p className="nothing">{say("microinverter.no_branch_yet_take_a_proposal")}</p>;
  const known = (after: string) => planned.links.find((one) => one.after === after);
  const linked = (link: Link, change: { how?: string; length_m?: string }) => {
    const now = known(link.start);
    const how = change.how ?? now?.how ?? "";
    return {
      do: "set_link",
      branch,
      after: link.start,
      how: how === "" ? null : (how as "pitch" | "drops" | "extension" | "joint"),
      length_m: change.length_m ?? (now?.length_m == null ? "" : String(now.length_m)),
    } as const;
  };
  // The ways that a hand may want to change: those that leave a row, and those longer than one pitch.
  const shown = state.trunk.links.filter(
    (one) =>
      one.jumps ||
      one.how === "links" ||
      one.segments + one.extensions > 1 ||
      one.distance_m === null ||
      known(one.start) !== undefined,
  );
  return (
    <>
      <BranchPick roof={roof} branch={branch} select={select} />
      <TrunkPicture state={state} joint={state.joint} />
      <p className="roof-hint">
        {say("microinverter.match_the_marks_of_both_halves", {
          joint: state.joint === "" ? say("microinverter.a_joint_box_that_is_still") : state.joint,
        })}
      </p>
      <h2 className="why-head">{say("microinverter.ways_that_are_no_plain_pitch")}</h2>
      {shown.length === 0 && <p className="nothing">{say("microinverter.none_every_unit_is_one_pitch")}</p>}
      {shown.map((link) => (
        <div key={`${branch} ${link.start}`} className="trunk-link">
          <span>
            <b>
              {link.start} → {link.end}
            </b>
            {link.distance_m === null
              ? say("common.not_measured")
              : `${figure(link.distance_m, "m", 2)}${link.measured ? say("microinverter.measured") : ""}`}
          </span>
          <span>
            {link.reach_m === null
              ? ""
              : link.how === "links"
                ? say("microinverter.reaches", {
                    links_mm: link.links_mm.map((mm) => figure(mm, "mm", 0)).join(" + "),
                    reach_m: figure(link.reach_m, "m", 2),
                  })
                : say("microinverter.pitches_reaches", {
                    segments: link.segments,
                    extensions:
                      link.extensions > 0 ? say("microinverter.extension", { extensions: link.extensions }) : "",
                    reach_m: figure(link.reach_m, "m", 2),
                  })}
          </span>
          <Field
            label={say("microinverter.measured_way")}
            shown={link.measured && link.distance_m !== null ? figure(link.distance_m, "m", 2) : ""}
            commit={(length_m) => typed.mutateAsync(linked(link, { length_m }))}
          />
          <Pick
            label={say("microinverter.bridged_by")}
            value={known(link.start)?.how ?? ""}
            options={HOW}
            put={(how) => edit.mutate(linked(link, { how }))}
          />
        </div>
      ))}
      <ProblemNote error={edit.error} />
      <h2 className="why-head">{say("microinverter.cut_list", { branch })}</h2>
      {view.plan.micro?.trunk.linked != null ? (
        <p className="nothing">{say("microinverter.nothing_is_cut_this_trunk_is")}</p>
      ) : state.trunk.cuts.length === 0 ? (
        <p className="nothing">{say("microinverter.the_cut_list_waits_for_every")}</p>
      ) : (
        <table className="parts">
          <thead>
            <tr>
              <th>{say("microinverter.piece")}</th>
              <th>{say("microinverter.drops")}</th>
              <th>{say("common.length")}</th>
              <th>{say("common.from")}</th>
              <th>{say("common.to")}</th>
            </tr>
          </thead>
          <tbody>
            {state.trunk.cuts.map((cut) => (
              <tr key={cut.number}>
                <td>
                  {branch}/{cut.number}
                </td>
                <td>{cut.drops}</td>
                <td>{figure(cut.length_m, "m", 2)}</td>
                <td>{cut.first}</td>
                <td>{cut.last}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <h2 className="why-head">{say("microinverter.parts_the_whole_roof")}</h2>
      <table className="parts">
        <thead>
          <tr>
            <th>{say("common.part")}</th>
            <th>{say("microinverter.count")}</th>
            <th>{say("microinverter.counted_by")}</th>
          </tr>
        </thead>
        <tbody>
          {roof.parts.map((part) => (
            <tr key={part.what}>
              <td>{part.what}</td>
              <td>{part.count === null ? say("microinverter.not_known") : figure(part.count, part.unit, 0)}</td>
              <td>{part.because}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <Leads roof={roof} branch={branch} />
    </>
  );
}

/** Which module goes to which input, and where a lead must be let in. */
function Leads({ roof, branch }: { roof: RoofFaceProps["roof"]; branch: string }) {
  const units = roof.units.filter((unit) => unit.branch === branch);
  return (
    <>
      <h2 className="why-head">{say("microinverter.modules_to_inputs", { branch })}</h2>
      <table className="parts">
        <thead>
          <tr>
            <th>{say("microinverter.unit")}</th>
            <th>{say("microinverter.input_1")}</th>
            <th>{say("microinverter.input_2_2")}</th>
          </tr>
        </thead>
        <tbody>
          {units.map((unit) => (
            <tr key={unit.name}>
              <td>{unit.name}</td>
              {[1, 2].map((input) => {
                const lead = unit.leads.find((one) => one.input === input);
                return (
                  <td key={input}>
                    {lead === undefined
                      ? input === 2 && unit.capped
                        ? say("microinverter.capped")
                        : ""
                      : `${lead.module}, ${figure(lead.distance_m, "m", 2)}${lead.extension ? say("microinverter.with_an_extension_lead") : ""}`}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
