import { useRef, useState, type PointerEvent } from "react";
import { say } from "../../words/say";

const WIDE = 1000;
const HIGH = 400;

interface SignaturePadProps {
  drawn: string;
  put: (drawn: string) => void;
  name: string;
}

/** A field to sign in with a finger or pen: lines as they are drawn. */
export function SignaturePad({ drawn, put, name }: SignaturePadProps) {
  const pad = useRef<SVGSVGElement>(null);
  const [down, setDown] = useState(false);
  const at = (event: PointerEvent) => {
    const box = pad.current?.getBoundingClientRect();
    if (box === undefined) return "";
    const within = (part: number, most: number) => Math.min(most - 1, Math.max(0, Math.round(part * most)));
    const x = within((event.clientX - box.left) / box.width, WIDE);
    const y = within((event.clientY - box.top) / box.height, HIGH);
    return `${x} ${y}`;
  };
  return (
    <div className="pad">
      <svg
        ref={pad}
        role="img"
        aria-label={say("leave.field_for_the_signature_of", { name })}
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setDown(true);
          put(`${drawn === "" ? "" : `${drawn} `}M${at(event)}`);
        }}
        onPointerMove={(event) => {
          if (down) put(`${drawn} L${at(event)}`);
        }}
        onPointerUp={() => setDown(false)}
      >
        <line x1="40" y1="330" x2="960" y2="330" className="pad-line" />
        <path d={drawn} className="pad-drawn" />
      </svg>
      <button type="button" className="quiet" disabled={drawn === ""} onClick={() => put("")}>
        {say("leave.wipe")}
      </button>
    </div>
  );
}
