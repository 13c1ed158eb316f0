import symbols from "../../../../core/data/symbols.json";
import "./SymbolShape.css";

interface Stroke {
  kind: string;
  at: number[];
  text?: string;
}

const KNOWN = new Map(symbols.map((one) => [one.id, one]));
const DEGREE = Math.PI / 180;

/** A standard symbol about (x, y); scale: pixels for one of its units. */
export function SymbolShape({ name, x, y, scale }: { name: string; x: number; y: number; scale: number }) {
  return (
    <g className="symbol" transform={`translate(${x} ${y}) scale(${scale})`}>
      {KNOWN.get(name)?.strokes.map((stroke, index) => (
        <StrokeShape key={index} stroke={stroke} />
      ))}
    </g>
  );
}

function StrokeShape({ stroke: { kind, at, text } }: { stroke: Stroke }) {
  const [a = 0, b = 0, c = 0, d = 0, e = 0] = at;
  if (kind === "line") return <line x1={a} y1={b} x2={c} y2={d} />;
  if (kind === "circle") return <circle cx={a} cy={b} r={c} />;
  if (kind === "rect") return <rect x={a} y={b} width={c} height={d} />;
  if (kind === "text")
    return (
      <text x={a} y={b} style={{ fontSize: c }} textAnchor="middle">
        {text}
      </text>
    );
  const on = (angle: number) => `${a + c * Math.cos(angle * DEGREE)} ${b + c * Math.sin(angle * DEGREE)}`;
  return <path d={`M${on(d)}A${c} ${c} 0 0 1 ${on(e)}`} />;
}
