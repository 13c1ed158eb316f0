import type { KeyboardEvent } from "react";
import type { FeedStage } from "../../shared/api/types";
import { wrapped } from "../../shared/draw/labels";
import { useWidth } from "../../shared/draw/useWidth";
import { MarkShape } from "../../shared/marks/Mark";
import { useNarrow } from "../../shared/lib/useNarrow";
import { corners, hangs, layOut, namedBelow, parts, type PathLayout } from "./pathPlaces";
import { SymbolShape } from "./SymbolShape";
import { say } from "../../words/say";
import "./EnergyPath.css";

type Path = FeedStage["path"];
type Place = Path["places"][number];
type Wire = Path["wires"][number];

const UNITS = 10;
const LINE_PX = 16;
const NAME_PX = 15;
const HIT_PX = 22;
/** A letter of a name at its widest, and the mark that stands before a name on its left. */
const LETTER_PX = 9;
const BESIDE_PX = 20;

interface EnergyPathProps {
  path: Path;
  chosen: string;
  open: (what: string) => void;
}

/** The energy path from roof to supply: touch a run or a device, and its bench opens. */
export function EnergyPath({ path, chosen, open }: EnergyPathProps) {
  const [ref, width] = useWidth(860);
  const down = useNarrow();
  const layout = layOut(path, width, down);
  return (
    <div ref={ref} className="picture energy-path">
      <svg width={width} height={layout.height} role="group" aria-label={say("feed.energy_path_from_roof_to_supply")}>
        {path.wires.map((wire) => (
          <WireShape key={wire.id} wire={wire} layout={layout} chosen={wire.opens === chosen} open={open} />
        ))}
        {path.places.map((place) => (
          <PlaceShape key={place.id} place={place} layout={layout} chosen={place.opens === chosen} open={open} />
        ))}
        {path.wires.map((wire) => (
          <WireLabel key={wire.id} wire={wire} layout={layout} />
        ))}
      </svg>
    </div>
  );
}

const asButton = (what: string, open: (what: string) => void) => ({
  role: "button",
  tabIndex: 0,
  onClick: () => open(what),
  onKeyDown: (event: KeyboardEvent) => {
    if (event.key === "Enter" || event.key === " ") {
      event.preventDefault();
      open(what);
    }
  },
});

interface PartProps {
  layout: PathLayout;
  chosen: boolean;
  open: (what: string) => void;
}

function WireShape({ wire, layout, chosen, open }: PartProps & { wire: Wire }) {
  const [from, to] = [layout.spots.get(wire.start), layout.spots.get(wire.end)];
  if (from === undefined || to === undefined) return null;
  const way = corners(layout, from, to, layout.hanging.has(wire.end));
  const [first = from, next = to] = way;
  const upright = Math.abs(first.x - next.x) < 1;
  const line = `M${way.map(({ x, y }) => `${x} ${y}`).join("L")}`;
  const label = wire.lines.join(" · ");
  return (
    <g
      className={`path-wire path-${wire.medium}${chosen ? " path-chosen" : ""}`}
      aria-label={`${wire.id}${label === "" ? "" : `, ${label}`}, ${wire.verdict}`}
      {...asButton(wire.opens, open)}
    >
      <rect
        className="path-hit"
        x={Math.min(first.x, next.x) - (upright ? HIT_PX : 0)}
        y={Math.min(first.y, next.y) - (upright ? 0 : HIT_PX)}
        width={Math.abs(first.x - next.x) + (upright ? 2 * HIT_PX : 0)}
        height={Math.abs(first.y - next.y) + (upright ? 0 : 2 * HIT_PX)}
      />
      <path className="path-touch" d={line} />
      <path className="path-line" d={line} />
    </g>
  );
}

/** What a wire is, over everything else. */
function WireLabel({ wire, layout }: { wire: Wire; layout: PathLayout }) {
  const [from, to] = [layout.spots.get(wire.start), layout.spots.get(wire.end)];
  if (from === undefined || to === undefined || wire.lines.length === 0) return null;
  const bends = corners(layout, from, to, layout.hanging.has(wire.end));
  // On a straight wire it stands in the middle, before an elbow on the first piece.
  const isLevel = Math.abs(from.y - to.y) < 1;
  const [first = from, next = to] = isLevel ? [bends[0], bends.at(-1)] : bends;
  const middle = { x: (first.x + next.x) / 2, y: (first.y + next.y) / 2 };
  const upright = Math.abs(first.x - next.x) < 1;
  const last = wire.lines.length - 1;
  return (
    <g className="wire-label" aria-hidden="true">
      {wire.lines.map((text, index) => (
        <text
          key={text}
          x={upright ? first.x + 9 : middle.x}
          y={
            upright ? middle.y + 4 + (index - last / 2) * (LINE_PX - 1) : middle.y - 8 - (last - index) * (LINE_PX - 2)
          }
          textAnchor={upright ? "start" : "middle"}
        >
          {text}
        </text>
      ))}
      <MarkShape
        verdict={wire.verdict}
        x={upright ? first.x - 11 : middle.x}
        y={upright ? middle.y : middle.y + 11}
        size={10}
      />
    </g>
  );
}

/** How far the words beside a symbol may run: to the next symbol on its right; without one as far as they do. */
function roomBeside({ spots, halfPx, crowded }: PathLayout, id: string): number {
  const at = spots.get(id);
  if (at === undefined || crowded.has(id)) return Infinity;
  const others = [...spots.values()].filter((one) => one.x > at.x && Math.abs(one.y - at.y) < 2 * halfPx);
  const nextX = Math.min(Infinity, ...others.map((one) => one.x - halfPx - BESIDE_PX));
  return nextX - at.x - halfPx - BESIDE_PX;
}

function PlaceShape({ place, layout, chosen, open }: PartProps & { place: Place }) {
  const at = layout.spots.get(place.id);
  if (at === undefined) return null;
  const { halfPx: half, down } = layout;
  const beside = down && place.symbol !== "array" && !hangs(place);
  const texts = beside
    ? wrapped([place.name, ...place.lines], roomBeside(layout, place.id), LETTER_PX)
    : [place.name, ...place.lines];
  const names = wrapped([place.name], beside ? roomBeside(layout, place.id) : Infinity, LETTER_PX).length;
  const longestPx = Math.max(...texts.map((text) => text.length)) * LETTER_PX;
  const left = layout.crowded.has(place.id) && at.x - half - BESIDE_PX > longestPx;
  const besideX = left ? at.x - half - BESIDE_PX : at.x + half + 14;
  const parted = !down && parts(place, layout.crowded.has(place.id));
  const above = texts.length - 1 - Number(parted);
  const below = at.y + half + 17;
  const top = namedBelow(place) ? below : at.y - half - NAME_PX - above * (LINE_PX - 1);
  // On a phone a side wire runs level through the middle: the name stays above it.
  const lineY = (index: number) => {
    if (beside && names > 1) return at.y + 5 + (index - (texts.length - 1) / 2) * (LINE_PX - 1);
    if (beside) return at.y + (index === 0 ? -7 : 4 + index * LINE_PX);
    return parted && index > above ? below : top + index * (LINE_PX - 1);
  };
  return (
    <g
      className={`path-place${chosen ? " path-chosen" : ""}`}
      aria-label={[place.name, ...place.lines, place.verdict].join(", ")}
      aria-pressed={chosen}
      {...asButton(place.opens, open)}
    >
      {!beside && (
        <rect
          className="path-hit"
          x={at.x - half - HIT_PX / 2}
          y={at.y - half - NAME_PX - texts.length * LINE_PX}
          width={2 * half + HIT_PX}
          height={2 * half + NAME_PX + (texts.length + 1) * LINE_PX}
        />
      )}
      <rect className="path-box" x={at.x - half - 4} y={at.y - half - 4} width={2 * half + 8} height={2 * half + 8} />
      <g aria-hidden="true">
        <SymbolShape name={place.symbol} x={at.x} y={at.y} scale={half / UNITS} />
      </g>
      {texts.map((text, index) => (
        <text
          key={`${index} ${text}`}
          aria-hidden="true"
          className={index < names ? "path-name" : undefined}
          x={beside ? besideX : at.x}
          y={lineY(index)}
          textAnchor={beside ? (left ? "end" : "start") : "middle"}
        >
          {text}
        </text>
      ))}
      <MarkShape
        verdict={place.verdict}
        x={down ? at.x - half - 9 : at.x + half + 8}
        y={down ? at.y - half + 3 : at.y + half - 2}
        size={12}
      />
    </g>
  );
}
