import { say } from "../../words/say";

import "./BodyPicture.css";

/** What a length of a body means: where it is measured, by the field's own name. */
interface Length {
  from: readonly [number, number];
  to: readonly [number, number];
}

const BOX = { x: 120, y: 70, width: 120, height: 150 };
const HOLES = { x: 150, y: 95, width: 60, height: 60 };
const GROUND_PX = 290;
const RIGHT_PX = BOX.x + BOX.width;
const LOW_PX = BOX.y + BOX.height;
const MIDDLE_PX = BOX.x + BOX.width / 2;
const HALF_PX = BOX.y + BOX.height / 2;

const LENGTHS: Record<string, Length> = {
  width_mm: { from: [BOX.x, LOW_PX + 12], to: [RIGHT_PX, LOW_PX + 12] },
  height_mm: { from: [RIGHT_PX + 12, BOX.y], to: [RIGHT_PX + 12, LOW_PX] },
  clearance_left_mm: { from: [30, HALF_PX], to: [BOX.x, HALF_PX] },
  clearance_right_mm: { from: [RIGHT_PX, HALF_PX], to: [330, HALF_PX] },
  clearance_top_mm: { from: [MIDDLE_PX, 20], to: [MIDDLE_PX, BOX.y] },
  clearance_bottom_mm: { from: [MIDDLE_PX, LOW_PX], to: [MIDDLE_PX, 268] },
  floor_low_mm: { from: [BOX.x + 14, LOW_PX], to: [BOX.x + 14, GROUND_PX] },
  display_below_top_mm: { from: [RIGHT_PX - 16, BOX.y], to: [RIGHT_PX - 16, HALF_PX + 30] },
  pattern_w_mm: { from: [HOLES.x, HOLES.y + 22], to: [HOLES.x + HOLES.width, HOLES.y + 22] },
  pattern_h_mm: { from: [HOLES.x + 30, HOLES.y], to: [HOLES.x + 30, HOLES.y + HOLES.height] },
  top_row_below_top_mm: { from: [HOLES.x - 12, BOX.y], to: [HOLES.x - 12, HOLES.y] },
  top_row_above_pivot_mm: { from: [HOLES.x - 12, HOLES.y], to: [HOLES.x - 12, LOW_PX] },
  // From the side: the wall, the body before it.
  depth_mm: { from: [400, LOW_PX + 12], to: [452, LOW_PX + 12] },
  clearance_front_mm: { from: [452, HALF_PX], to: [530, HALF_PX] },
  cg_from_wall_mm: { from: [400, HALF_PX + 24], to: [426, HALF_PX + 24] },
};

/** A body on its wall from the front and from the side, with the length that is being typed. */
export function BodyPicture({ field, label }: { field: string; label: string }) {
  const length = LENGTHS[field];
  return (
    <svg className="body-picture" viewBox="0 0 550 310" aria-hidden>
      <path className="body-ground" d={`M10 ${GROUND_PX}H540M400 10V${GROUND_PX}`} />
      <rect className="body-box" {...BOX} />
      <rect className="body-box" x={400} y={BOX.y} width={52} height={BOX.height} />
      {[0, 1].flatMap((across) =>
        [0, 1].map((down) => (
          <circle
            key={`${across} ${down}`}
            className="body-hole"
            cx={HOLES.x + across * HOLES.width}
            cy={HOLES.y + down * HOLES.height}
            r={4}
          />
        )),
      )}
      <circle className="body-hole" cx={426} cy={HALF_PX + 24} r={5} />
      <text x={BOX.x} y={304}>
        {say("shared.from_the_front")}
      </text>
      <text x={404} y={304}>
        {say("common.from_the_side")}
      </text>
      {length !== undefined && (
        <>
          <path className="body-length" d={`M${length.from.join(" ")}L${length.to.join(" ")}`} />
          <text className="body-told" x={10} y={14}>
            {label}
          </text>
        </>
      )}
    </svg>
  );
}
