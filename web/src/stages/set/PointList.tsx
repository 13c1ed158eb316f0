import type { GridStage } from "../../shared/api/types";
import { Mark } from "../../shared/marks/Mark";
import { say } from "../../words/say";
import "./PointList.css";

type Point = GridStage["points"][number];
const SENT: Record<Point["sent"], string> = {
  "": "",
  by_hand: say("set.by_hand"),
  sent: say("set.sent"),
  refused: say("set.refused"),
  not_sent: say("set.not_sent"),
};

/** Every setting, the profile's beside the inverter's, point by point. */
export function PointList({ points }: { points: Point[] }) {
  if (points.length === 0) return null;
  return (
    <table className="points">
      <thead>
        <tr>
          <th>{say("set.setting")}</th>
          <th>{say("set.profile")}</th>
          <th>{say("common.inverter")}</th>
          <th>{say("set.agrees")}</th>
        </tr>
      </thead>
      <tbody>
        {points.map((point) => (
          <tr key={point.id} className={`point-${point.judgement.verdict}`}>
            <td>
              {point.title}
              {point.sent !== "" && <i className={`sent-${point.sent}`}> {SENT[point.sent]}</i>}
              {point.by_hand && <small>{point.where}</small>}
            </td>
            <td>{point.wanted_text}</td>
            <td>{point.got_text === "" ? say("common.not_read") : point.got_text}</td>
            <td>
              <Mark verdict={point.judgement.verdict} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
