import type { StringAssessment } from "../../shared/api/types";
import { figure } from "../../shared/lib/figures";

/** Every figure of the string touched, large enough for an arm's length. */
export function StringFigures({ string }: { string: StringAssessment }) {
  const { volts, expected, read_v: readV } = string;
  if (volts === null) return null;
  const figures: [string, string][] = [
    ["hot, at work", figure(volts.vmp_hot_v, "V", 0)],
    ["cold, at work", figure(volts.vmp_cold_v, "V", 0)],
    ["cold, open", volts.voc_cold_v === null ? "no figure" : figure(volts.voc_cold_v, "V", 0)],
    [
      "expect now",
      expected === null ? "not yet" : `${figure(expected.low_v, "", 0)} to ${figure(expected.high_v, "V", 0)}`,
    ],
    ["read", readV === null ? "not yet" : figure(readV, "V")],
  ];
  return (
    <dl className="string-figures" aria-label={`Figures of string ${string.name}`}>
      <div className="string-figures-name">
        <dt>string</dt>
        <dd>{string.name}</dd>
      </div>
      {figures.map(([name, value]) => (
        <div key={name}>
          <dt>{name}</dt>
          <dd>{value}</dd>
        </div>
      ))}
    </dl>
  );
}
