import { useNavigate } from "react-router";
import type { Schemas } from "../../shared/api/types";
import type { StageProps } from "../../shared/layout/StageFrame";
import { stageAddress } from "../../shared/lib/stageSlugs";
import { Mark } from "../../shared/marks/Mark";
import { say } from "../../words/say";

const STAGE = 10;

interface OpenFaceProps extends StageProps {
  show: (face: "labels" | "sign" | "later") => void;
}

/** Where in this stage a rule of it is mended. */
const faceOf = (rule: string): "labels" | "sign" | "later" => {
  if (rule.includes("label") || rule === "emergency_says") return "labels";
  return rule.startsWith("record_") || rule === "watches_taken_on" ? "sign" : "later";
};

/** Everything open, under who must act on it, with one touch to where it is mended. */
export function OpenFace({ jobId, view, show }: OpenFaceProps) {
  const { leave, open_points: every, stages, permissions } = view.assessment;
  const navigate = useNavigate();
  const go = (point: Schemas["OpenPoint"]) =>
    point.stage === STAGE ? show(faceOf(point.judgement.rule_id)) : void navigate(stageAddress(jobId, point.stage));
  const held = (line: Schemas["PointLine"]) =>
    line.holds.map((id) => permissions.find((one) => one.id === id && one.scope === "")?.title ?? id).join(", ");
  if (every.length === 0) return <p className="nothing">{say("leave.nothing_is_open")}</p>;
  return (
    <div className="open-groups">
      {leave.open.map((group) => (
        <section key={group.actor} aria-label={group.title}>
          <header className="rail-head">
            <h2>{group.title}</h2>
            <span>{group.points.length}</span>
          </header>
          <ul className="open-points">
            {group.points.map((line) => {
              const point = every[line.index];
              if (point === undefined) return null;
              const where = point.where === "" ? stages[point.stage - 1]?.title : point.where;
              return (
                <li key={line.index}>
                  <Mark verdict={point.judgement.verdict} word={false} />
                  <div>
                    <b>{where}</b> {point.judgement.title}. {point.judgement.reason}
                    {line.holds.length > 0 && <small>{say("leave.holds_up", { line: held(line) })}</small>}
                  </div>
                  <button
                    type="button"
                    className="lock-go"
                    aria-label={`${point.stage === STAGE ? say("leave.show") : say("common.go_there")}: ${where ?? ""}, ${point.judgement.title}`}
                    onClick={() => go(point)}
                  >
                    {point.stage === STAGE ? say("leave.show") : say("common.go_there")}
                  </button>
                </li>
              );
            })}
          </ul>
        </section>
      ))}
    </div>
  );
}
