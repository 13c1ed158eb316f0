import type { BranchState } from "../shared/api/types";
import { useEdit } from "../shared/api/useJobWrite";
import { figure } from "../shared/lib/figures";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { Pick } from "../shared/fields/Pick";
import { Field } from "../shared/fields/Field";
import { BranchPick } from "./BranchPick";
import type { RoofFaceProps } from "./props";
import { TrunkPicture } from "./TrunkPicture";
import "./microinverter.css";
import "./TrunkFace.css";

type Link = BranchState["trunk"]["links"][number];
const HOW = [
  ["", "as the roof is done"],
  ["pitch", "one pitch, no more"],
  ["drops", "its own drops, skipping"],
  ["extension", "an extension"],
  ["joint", "cut, joined in a box"],
] as const;

/** The trunk of a branch: drop by drop as it lies, what bridges each way, what to cut, what to bring. */
export function TrunkFace({ jobId, view, roof, branch, select }: RoofFaceProps) {
  const edit = useEdit(jobId);
  const typed = useEdit(jobId);
  const state = roof.branches.find((one) => one.name === branch);
  const planned = view.plan.micro?.branches.find((one) => one.name === branch);
  if (state === undefined || planned === undefined)
    return <p className="nothing">No branch yet: take a proposal, or paint one.</p>;
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
        Match the marks of both halves at every join, from the box to the end cap. The home run ends in{" "}
        {state.joint === "" ? "a joint box that is still to be planned" : state.joint}; DC and AC plugs never meet.
      </p>
      <h2 className="why-head">Ways that are no plain pitch</h2>
      {shown.length === 0 && <p className="nothing">None: every unit is one pitch from the next.</p>}
      {shown.map((link) => (
        <div key={`${branch} ${link.start}`} className="trunk-link">
          <span>
            <b>
              {link.start} → {link.end}
            </b>
            {link.distance_m === null
              ? "not measured"
              : `${figure(link.distance_m, "m", 2)}${link.measured ? ", measured" : ""}`}
          </span>
          <span>
            {link.reach_m === null
              ? ""
              : link.how === "links"
                ? `${link.links_mm.map((mm) => figure(mm, "mm", 0)).join(" + ")}, reaches ${figure(link.reach_m, "m", 2)}`
                : `${link.segments} ${link.segments === 1 ? "pitch" : "pitches"}${link.extensions > 0 ? ` + ${link.extensions} extension` : ""}, reaches ${figure(link.reach_m, "m", 2)}`}
          </span>
          <Field
            label="Measured way"
            shown={link.measured && link.distance_m !== null ? figure(link.distance_m, "m", 2) : ""}
            commit={(length_m) => typed.mutateAsync(linked(link, { length_m }))}
          />
          <Pick
            label="Bridged by"
            value={known(link.start)?.how ?? ""}
            options={HOW}
            put={(how) => edit.mutate(linked(link, { how }))}
          />
        </div>
      ))}
      <ProblemNote error={edit.error} />
      <h2 className="why-head">Cut list, {branch}</h2>
      {view.plan.micro?.trunk.linked != null ? (
        <p className="nothing">Nothing is cut: this trunk is put together from links, counted below.</p>
      ) : state.trunk.cuts.length === 0 ? (
        <p className="nothing">The cut list waits for every way of the trunk.</p>
      ) : (
        <table className="parts">
          <thead>
            <tr>
              <th>Piece</th>
              <th>Drops</th>
              <th>Length</th>
              <th>From</th>
              <th>To</th>
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
      <h2 className="why-head">Parts, the whole roof</h2>
      <table className="parts">
        <thead>
          <tr>
            <th>Part</th>
            <th>Count</th>
            <th>Counted by</th>
          </tr>
        </thead>
        <tbody>
          {roof.parts.map((part) => (
            <tr key={part.what}>
              <td>{part.what}</td>
              <td>{part.count === null ? "not known" : figure(part.count, part.unit, 0)}</td>
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
      <h2 className="why-head">Modules to inputs, {branch}</h2>
      <table className="parts">
        <thead>
          <tr>
            <th>Unit</th>
            <th>Input 1</th>
            <th>Input 2</th>
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
                        ? "capped"
                        : ""
                      : `${lead.module}, ${figure(lead.distance_m, "m", 2)}${lead.extension ? ", with an extension lead" : ""}`}
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
