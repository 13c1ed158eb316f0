import type { GridStage } from "../../shared/api/client";
import { Mark } from "../../shared/marks/Mark";

/** Every setting, the profile's beside the inverter's, point by point. */
export function PointList({ points }: { points: GridStage["points"] }) {
  if (points.length === 0) return null;
  return (
    <table className="points">
      <thead>
        <tr><th>Setting</th><th>Profile</th><th>Inverter</th><th>Agrees</th></tr>
      </thead>
      <tbody>
        {points.map((point) => (
          <tr key={point.id} className={`point-${point.judgement.verdict}`}>
            <td>{point.title}{point.by_hand && <i> by hand</i>}</td>
            <td>{point.wanted_text}</td>
            <td>{point.got_text === "" ? "not read" : point.got_text}</td>
            <td><Mark verdict={point.judgement.verdict} /></td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
