import type { ModulePlace, StringAssessment } from "../../shared/api/types";
import { linear } from "../../shared/draw/scale";
import { useWidth } from "../../shared/draw/useWidth";
import { say } from "../../words/say";
import "./EarthPicture.css";
import "./string.css";

const HEIGHT_PX = 118;
const CELL_Y_PX = 34;
const CELL_PX = 40;
const LEAD_PX = 34;

interface EarthPictureProps {
  string: StringAssessment;
  earth: NonNullable<StringAssessment["earth"]>;
  places: ModulePlace[];
}

const onRoof = (place: ModulePlace | undefined) =>
  place === undefined
    ? ""
    : say("string.look_on_row_number", { plane: place.plane, row: place.row, column: place.column });

/** The string from minus to plus with the place where it touches earth. */
export function EarthPicture({ string, earth, places }: EarthPictureProps) {
  const [ref, width] = useWidth(860);
  const count = string.modules_in_series;
  const x = linear([0, count], [LEAD_PX, width - LEAD_PX]);
  const at = x(earth.place);
  const beside = earth.between.filter((number) => number >= 1 && number <= count);
  return (
    <figure className="earth-fault">
      <div ref={ref}>
        <svg
          width={width}
          height={HEIGHT_PX}
          role="img"
          aria-label={say("string.fault_to_earth_near_module_of", {
            beside: beside.join(" and "),
            string: string.name,
          })}
        >
          <line className="dc-lead" x1={6} x2={width - 6} y1={CELL_Y_PX + CELL_PX / 2} y2={CELL_Y_PX + CELL_PX / 2} />
          <text className="pole" x={4} y={CELL_Y_PX - 8}>
            −
          </text>
          <text className="pole" x={width - 16} y={CELL_Y_PX - 8}>
            +
          </text>
          {Array.from({ length: count }, (_, index) => index + 1).map((number) => (
            <g key={number}>
              <rect
                className={earth.between.includes(number) ? "cell cell-fault" : "cell"}
                x={x(number - 1) + 2}
                y={CELL_Y_PX}
                width={x(1) - x(0) - 4}
                height={CELL_PX}
              />
              <text className="tick strong" x={x(number - 0.5)} y={CELL_Y_PX + 25} textAnchor="middle">
                {number}
              </text>
            </g>
          ))}
          <path
            className="earth-line"
            d={`M${at} ${CELL_Y_PX + CELL_PX}V${CELL_Y_PX + CELL_PX + 18}M${at - 14} ${CELL_Y_PX + CELL_PX + 18}H${at + 14}M${at - 9} ${CELL_Y_PX + CELL_PX + 24}H${at + 9}M${at - 4} ${CELL_Y_PX + CELL_PX + 30}H${at + 4}`}
          />
        </svg>
      </div>
      <figcaption>
        {string.earth_line}
        {beside[0] === undefined ? "" : onRoof(places[beside[0] - 1])}
      </figcaption>
    </figure>
  );
}
