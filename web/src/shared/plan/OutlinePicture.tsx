import type { HangStage, Plane } from "../api/types";
import { say } from "../../words/say";
import "./OutlinePicture.css";

const WIDTH_PX = 520;
const MARGIN_PX = 6;

interface OutlinePictureProps {
  outline: NonNullable<Plane["outline"]>;
  modules: HangStage["edges"][number]["modules"];
}

/** A plane to scale, the eave below: its edges, its modules, what stands on it. */
export function OutlinePicture({ outline, modules }: OutlinePictureProps) {
  const pxPerMm = WIDTH_PX / outline.width_mm;
  const height = outline.height_mm * pxPerMm;
  const at = (rect: { x_mm: number; y_mm: number; width_mm: number; height_mm: number }) => ({
    x: rect.x_mm * pxPerMm,
    y: height - (rect.y_mm + rect.height_mm) * pxPerMm,
    width: rect.width_mm * pxPerMm,
    height: rect.height_mm * pxPerMm,
  });
  return (
    <svg
      className="outline-picture"
      viewBox={`${-MARGIN_PX} ${-MARGIN_PX} ${WIDTH_PX + 2 * MARGIN_PX} ${height + 2 * MARGIN_PX}`}
      role="img"
      aria-label={say("shared.the_plane_to_scale_its_eave")}
    >
      <rect className="outline-edge" x={0} y={0} width={WIDTH_PX} height={height} />
      {modules.map((rect) => (
        <rect key={`${rect.x_mm} ${rect.y_mm}`} className="outline-module" {...at(rect)} />
      ))}
      {outline.obstacles.map((one) => {
        const box = at(one);
        return (
          <g key={one.name}>
            <rect className="outline-obstacle" {...box} />
            <text x={box.x + box.width / 2} y={box.y + box.height / 2 + 5} textAnchor="middle">
              {one.name}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
