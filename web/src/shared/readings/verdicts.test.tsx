import { renderToStaticMarkup } from "react-dom/server";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { describe, expect, it } from "vitest";
import type { Judgement, Prompt, RecordedReading } from "../api/types";
import { AskLine } from "./AskLine";
import { BandPicture } from "./BandPicture";
import { Verdicts } from "./Verdicts";

const judged = (rule_id: string, verdict: Judgement["verdict"]): Judgement => ({
  rule_id,
  title: `Title ${rule_id}`,
  verdict,
  value: 1,
  limit: 2,
  margin: 1,
  margin_pct: 50,
  unit: "V",
  reason: `Reason of ${rule_id}.`,
  source: `Source of ${rule_id}`,
  needs: [],
});

const read = (id: string, text: string, more: Partial<RecordedReading> = {}): RecordedReading => ({
  id,
  value: 418,
  text,
  basis: "measured",
  taken_at: "2026-11-24T11:20:00+00:00",
  kept_at: "2026-11-24T11:20:10+00:00",
  by: "Ada Fenn",
  instrument: "",
  note: "",
  supersedes: null,
  superseded_by: null,
  is_past: false,
  retest: false,
  learner: false,
  ...more,
});

const prompt = (more: Partial<Prompt> = {}): Prompt => ({
  key: "open_circuit/A",
  stage: 4,
  kind: "open_circuit",
  subject: "A",
  title: "A · open circuit",
  unit: "V",
  caution: "Live in daylight.",
  optional: false,
  is_text: false,
  may_be_beyond: false,
  also_at: [],
  expected_low: 400,
  expected_high: 430,
  expected_text: "400 to 430 V",
  expected_because: "sun and cells",
  verdict: "clear",
  judgements: [judged("one", "clear"), judged("two", "clear")],
  reading: null,
  history: [],
  causes: [],
  look_next: "",
  not_told_apart: [],
  answers: [],
  choices: [],
  ...more,
});

const cause = (cause_id: string, fits: boolean, current: string): Prompt["causes"][number] => ({
  cause_id,
  title: `Cause ${cause_id}`,
  look_next: "Look there.",
  module_equivalents: 9,
  expected_v: 342.4,
  low_v: 330,
  high_v: 355,
  fits,
  off: 0.2,
  rank: 0.2,
  current,
});

const line = (ask: Prompt) =>
  renderToStaticMarkup(
    <QueryClientProvider client={new QueryClient()}>
      <AskLine jobId="J" ask={ask} timezone="Europe/London" whyAll open={() => undefined} />
    </QueryClientProvider>,
  );

describe("what a reading means", () => {
  it("tells what is not clear, and with everything asked for every source too", () => {
    const mixed = prompt({ verdict: "stop", judgements: [judged("one", "clear"), judged("two", "stop")] });
    const few = renderToStaticMarkup(<Verdicts ask={mixed} all={false} />);
    expect(few).toContain("Reason of two.");
    expect(few).not.toContain("Reason of one.");
    expect(few).not.toContain("Source of two");
    const all = renderToStaticMarkup(<Verdicts ask={mixed} all />);
    expect(all).toContain("Reason of one.");
    expect(all).toContain("Source of two");
    expect(all).toContain("Expected: sun and cells");
  });

  it("ranks causes, each with the volts and the current that it would show", () => {
    const short = prompt({
      verdict: "stop",
      judgements: [judged("two", "stop")],
      causes: [
        cause("missing_2", true, "full short-circuit current"),
        cause("bypass_1", true, "less than full current"),
      ],
      look_next: "Count the modules.",
      not_told_apart: ["Cause bypass_1"],
    });
    const page = renderToStaticMarkup(<Verdicts ask={short} all={false} />);
    expect(page).toContain("Most likely first");
    expect(page.replaceAll("\u00a0", " ")).toContain("would read 342 V, full short-circuit current");
    expect(page).toContain("less than full current");
    expect(page).toContain("cannot tell these apart");
    expect(page).toContain("Count the modules.");
    const none = prompt({
      ...short,
      causes: [cause("added_1", false, "full short-circuit current")],
      not_told_apart: [],
    });
    expect(renderToStaticMarkup(<Verdicts ask={none} all={false} />)).toContain("Nothing fits; nearest");
  });
});

describe("a reading on the rail", () => {
  it("keeps every earlier one to be seen, and says what became of each", () => {
    const now = read("3", "418 V");
    const history = [
      read("1", "481 V", { superseded_by: "2" }),
      read("2", "417 V", { superseded_by: "3", retest: true }),
      now,
      read("0", "350 V", { is_past: true }),
    ];
    const page = line(prompt({ reading: now, history }));
    expect(page).toContain("481 V");
    expect(page).toContain("(made again)");
    expect(page).toContain("(of what stood there before)");
    expect(page).toContain("Ada Fenn");
  });

  it("says what is expected before anything is read", () => {
    const page = line(prompt({ verdict: "waiting", judgements: [judged("one", "waiting")] }));
    expect(page).toContain("A · open circuit");
    expect(page.replaceAll("\u00a0", " ")).toContain("400 to 430 V");
    expect(page).toContain("waiting");
  });
});

describe("the picture of a band", () => {
  it("is drawn with and without a value, and not at all where nothing is expected", () => {
    const without = renderToStaticMarkup(<BandPicture ask={prompt()} value={null} verdict="waiting" />);
    const inside = renderToStaticMarkup(<BandPicture ask={prompt()} value={418} verdict="clear" />);
    const outside = renderToStaticMarkup(<BandPicture ask={prompt()} value={290} verdict="stop" />);
    expect(inside.length).toBeGreaterThan(without.length);
    expect(outside).not.toBe(inside);
    const plain = prompt({ expected_low: null, expected_high: null });
    expect(renderToStaticMarkup(<BandPicture ask={plain} value={1} verdict="clear" />)).toBe("");
  });
});
