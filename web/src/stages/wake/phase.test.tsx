import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { MemoryRouter } from "react-router";
import { describe, expect, it } from "vitest";
import type { Assessment, Lock, WakePhase, WakeStep } from "../../shared/api/types";
import { MayBeDone } from "./MayBeDone";
import { PhaseFace } from "./PhaseFace";
import { StepCard } from "./StepCard";
import { SwitchShape } from "./SwitchShape";
import { SwitchStrip } from "./SwitchStrip";

const page = (inner: ReactNode) =>
  renderToStaticMarkup(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>{inner}</MemoryRouter>
    </QueryClientProvider>,
  );

const lock = (id: string, more: Partial<Lock> = {}): Lock => ({
  id,
  stage: 9,
  where: "Set",
  key: "",
  rule_id: "device_answer",
  verdict: "waiting",
  reason: `Waiting for ${id}.`,
  lift: "",
  hard: false,
  ...more,
});

const step = (id: string, more: Partial<WakeStep> = {}): WakeStep => ({
  id,
  key: `wake_step/dc_first on ${id}`,
  number: 1,
  title: `Step ${id}`,
  caution: "",
  expect: "It is seen.",
  otherwise: "Leave it OFF.",
  lights: [],
  switch: null,
  to: null,
  standing: "now",
  at: null,
  by: "",
  gate: { verdict: "clear", line: "Now." },
  permission: "awake",
  locks: [],
  hard: false,
  only_waits: false,
  due_at: null,
  late_at: null,
  wait_text: "",
  overrides: [],
  ...more,
});

const card = (one: WakeStep, busy = false) =>
  page(<StepCard jobId="J" step={one} busy={busy} answer={() => undefined} />);

const BUTTON = /<button[^>]*>(?:(?!<\/button>).)*<\/button>/g;
/** The button that says the step is done. */
const done = (markup: string) => (markup.match(BUTTON) ?? []).find((one) => /So it is|as expected<|It is O/.test(one));
const isShut = (markup: string) => (done(markup) ?? "").includes("disabled");

describe("the step at hand", () => {
  it("may be said done when nothing keeps it", () => {
    expect(isShut(card(step("breaker_on", { switch: "breaker", to: "ON" })))).toBe(false);
    expect(card(step("breaker_on", { switch: "breaker", to: "ON" }))).toContain("It is ON, as expected");
    expect(card(step("clear"))).toContain("So it is");
  });

  it("is shut while anything locks it, and every lock is told with the way to it", () => {
    const locked = step("ac_on", {
      to: "ON",
      standing: "locked",
      gate: { verdict: "waiting", line: "Waiting." },
      locks: [lock("profile"), lock("settings")],
    });
    const markup = card(locked);
    expect(isShut(markup)).toBe(true);
    expect(markup).toContain("Waiting for profile.");
    expect(markup).toContain("Waiting for settings.");
    expect(markup.match(/go there/g)).toHaveLength(2);
  });

  it("is shut by an alarm that stops, while not as expected may always be said", () => {
    const stopped = step("feeding", {
      standing: "locked",
      gate: { verdict: "stop", line: "Earth fault." },
      locks: [lock("alarm", { verdict: "stop", stage: 8, reason: "Earth fault." })],
    });
    const markup = card(stopped);
    expect(isShut(markup)).toBe(true);
    const other = (markup.match(BUTTON) ?? []).find((one) => one.includes("Not as expected")) ?? "";
    expect(other).not.toContain("disabled");
    expect(markup).toContain("Earth fault.");
  });

  it("is open while only the clock keeps it: the wait is told, the core refuses what is early", () => {
    const waits = step("watch", {
      standing: "locked",
      gate: { verdict: "waiting", line: "The wait is not over." },
      only_waits: true,
      due_at: "2999-01-01T00:00:00+00:00",
      wait_text: "60 s",
      locks: [lock("wait", { stage: 8 })],
    });
    const markup = card(waits);
    expect(isShut(markup)).toBe(false);
    expect(markup).toContain("60 s from the step before");
  });

  it("names who lifted what, and what to do when it did not go as expected", () => {
    const lifted = step("dc_on", {
      overrides: [
        {
          id: "o",
          at: "2026-11-24T11:20:00+00:00",
          by: "Ada Fenn",
          licence: "FENN-0417",
          key: "dc_first on dc_on",
          reason: "seen on the display",
          lifted: "DC switch ON: too dark",
          lock: "8 daylight",
          from_file: false,
        },
      ],
      standing: "failed",
    });
    const markup = card(lifted);
    expect(markup).toContain("Lifted by Ada Fenn, licence FENN-0417: seen on the display");
    expect(markup).toContain("Not as expected. Leave it OFF.");
  });
});

describe("a phase", () => {
  const phase = (steps: WakeStep[]): WakePhase => ({
    sequence: "dc_first",
    phase: "on",
    title: "Switching on",
    steps,
    done: steps.filter((one) => one.standing === "done").length,
    verdict: "waiting",
    line: "Next.",
  });
  const at = "2026-11-24T11:20:00+00:00";

  it("lays open the step that is next and counts what is done", () => {
    const markup = page(
      <PhaseFace
        jobId="J"
        timezone="Europe/London"
        phase={phase([step("clear", { standing: "done", at, by: "Ada Fenn" }), step("plugs_in"), step("dc_on")])}
      />,
    );
    expect(markup).toContain("1 of 3 done");
    expect(markup.match(/step-card/g)).toHaveLength(1);
    expect(markup).toContain("Ada Fenn");
    expect(markup).toContain("not any more");
  });

  it("lets a switch be said OFF out of its turn, and nothing else", () => {
    const markup = page(
      <PhaseFace
        jobId="J"
        timezone="Europe/London"
        phase={phase([
          step("first"),
          step("off", { to: "OFF", standing: "later" }),
          step("look", { standing: "later" }),
        ])}
      />,
    );
    expect(markup.match(/it is OFF/g)).toHaveLength(1);
  });
});

describe("what may be done now", () => {
  const assessment = {
    locks: [lock("a"), lock("b", { verdict: "stop" })],
    permissions: [
      { id: "open", title: "Open a compartment", scope: "", verdict: "clear", line: "", locks: [], passed: 3 },
      { id: "ac", title: "AC side ON", scope: "", verdict: "stop", line: "", locks: ["a", "b"], passed: 0 },
      { id: "ac", title: "AC side ON", scope: "B1", verdict: "stop", line: "", locks: [], passed: 0 },
    ],
  } as unknown as Assessment;

  it("has one line for each permission of the plant, with how many locks it has", () => {
    const markup = page(<MayBeDone jobId="J" assessment={assessment} />);
    expect(markup.match(/may-head/g)).toHaveLength(2);
    expect(markup).toContain("Open a compartment");
    expect(markup).toMatch(/may-count">2</);
    const given = (markup.match(BUTTON) ?? []).find((one) => one.includes("Open a compartment")) ?? "";
    expect(given).toContain("disabled");
  });
});

describe("switches", () => {
  it("stand ON, OFF or not said, each with a shape and a word of its own", () => {
    const shapes = (["ON", "OFF", null] as const).map((one) => renderToStaticMarkup(<SwitchShape position={one} />));
    expect(new Set(shapes).size).toBe(3);
    const strip = page(
      <SwitchStrip
        jobId="J"
        switches={[
          { switch: "dc", title: "DC switch", position: "OFF" },
          { switch: "ac", title: "AC isolator", position: null },
        ]}
      />,
    );
    expect(strip).toContain("not said");
    expect(strip).toContain("DC switch");
    expect(strip).toContain("OFF");
  });
});
