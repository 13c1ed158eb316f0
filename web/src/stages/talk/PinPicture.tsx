import { useState } from "react";
import type { Schemas } from "../../shared/api/types";
import { inksOf } from "./words";
import { say } from "../../words/say";

type Pin = Schemas["PinState"];
const PITCH = 58;
const R = 15;

/** The face of a plug from the wire side: each terminal with its number, signal and colour. */
export function PinPicture({ port }: { port: Schemas["PortState"] }) {
  const [flipped, setFlipped] = useState(false);
  const pins = flipped ? [...port.pins].reverse() : port.pins;
  const width = pins.length * PITCH + 20;
  const side = flipped ? say("talk.from_the_plug_side") : say("talk.from_the_wire_side");
  return (
    <div className="pins">
      <div>
        <svg viewBox={`0 0 ${width} 112`} style={{ maxWidth: `${width * 1.15}px` }} role="img" aria-label={told(port)}>
          <rect className="plug" x="2" y="2" width={width - 4} height="62" rx="10" />
          {pins.map((pin, at) => (
            <PinShape key={pin.number} pin={pin} x={10 + PITCH * (at + 0.5)} />
          ))}
        </svg>
        <p className="source">
          {port.name}, {side}.{" "}
          <button type="button" className="quiet" onClick={() => setFlipped(!flipped)}>
            {say("talk.look_from_the_other_side")}
          </button>
        </p>
      </div>
      <table className="parts">
        <thead>
          <tr>
            <th>{say("talk.pin")}</th>
            <th>{say("talk.carries")}</th>
            <th>{say("talk.core")}</th>
          </tr>
        </thead>
        <tbody>
          {port.pins.map((pin) => (
            <tr key={pin.number}>
              <td>{pin.number}</td>
              <td>{pin.carries === "" ? say("talk.stays_empty") : pin.carries}</td>
              <td>
                {pin.is_shield ? say("talk.shield") : pin.colour}
                {pin.twin && say("talk.both_wires_in_one_twin_ferrule")}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const told = (port: Schemas["PortState"]) =>
  port.pins
    .map((pin) =>
      say("talk.pin_2", {
        number: pin.number,
        carries: pin.carries === "" ? "empty" : pin.carries,
        colour: pin.colour,
      }).trim(),
    )
    .join(", ");

function PinShape({ pin, x }: { pin: Pin; x: number }) {
  const [first, second] = inksOf(pin.colour);
  const empty = pin.carries === "";
  return (
    <g>
      <circle
        className={empty ? "pin pin-empty" : "pin"}
        cx={x}
        cy={33}
        r={R}
        style={{ fill: empty ? undefined : first }}
      />
      {second !== undefined && <path d={`M${x - R} 33a${R} ${R} 0 0 0 ${2 * R} 0z`} style={{ fill: second }} />}
      {pin.twin && <circle className="pin-twin" cx={x} cy={33} r={R + 4} />}
      {pin.is_shield && <path className="pin-shield" d={`M${x - 9} 33h18M${x - 6} 38h12M${x - 3} 43h6`} />}
      <text className="tick strong" x={x} y={80} textAnchor="middle">
        {pin.number}
      </text>
      <text className="tick small" x={x} y={98} textAnchor="middle">
        {pin.carries.length > 9 ? `${pin.carries.slice(0, 8)}…` : pin.carries}
      </text>
    </g>
  );
}
