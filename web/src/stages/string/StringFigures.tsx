import type { StringAssessment } from "../../shared/api/types";
import { figure } from "../../shared/lib/figures";
import { say } from "../../words/say";

/** Every figure of the string touched, large enough for an arm's length. */
export function StringFigures({ string }: { string: StringAssessment }) {
  const { volts, expected, read_v: readV } = string;
  if (volts === null) return null;
  const figures: [string, string][] = [
    [say("string.hot_at_work"), figure(volts.vmp_hot_v, "V", 0)],
    [say("string.cold_at_work"), figure(volts.vmp_cold_v, "V", 0)],
    [say("string.cold_open"), volts.voc_cold_v === null ? say("string.no_figure") : figure(volts.voc_cold_v, "V", 0)],
    [
      say("common.expect_now"),
      expected === null
        ? say("string.not_yet")
        : say("string.to", { low_v: figure(expected.low_v, "", 0), high_v: figure(expected.high_v, "V", 0) }),
    ],
    ["read", readV === null ? say("string.not_yet") : figure(readV, "V")],
  ];
  return (
    <dl className="string-figures" aria-label={say("string.figures_of_string", { string: string.name })}>
      <div className="string-figures-name">
        <dt>{say("string.string_2")}</dt>
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
