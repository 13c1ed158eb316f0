import { renderToStaticMarkup } from "react-dom/server";
import { MemoryRouter } from "react-router";
import { describe, expect, it } from "vitest";
import type { Lock } from "../api/types";
import { stageAddress } from "../lib/stageSlugs";
import { Former } from "./Former";
import { GateLine } from "./GateLine";
import { Locks } from "./Locks";

const lock = (id: string, stage: number, verdict: Lock["verdict"] = "waiting"): Lock => ({
  id,
  stage,
  where: `Where ${id}`,
  key: "",
  rule_id: "rule",
  verdict,
  reason: `Reason ${id}.`,
  lift: "",
  hard: false,
});

const shown = (locks: Lock[], here = 8) =>
  renderToStaticMarkup(
    <MemoryRouter>
      <Locks jobId="J" locks={locks} here={here} />
    </MemoryRouter>,
  );

describe("locks", () => {
  it("tells what stops before what waits, each with where it is", () => {
    const page = shown([lock("a", 3), lock("b", 4, "stop"), lock("c", 5)]);
    expect(page.indexOf("Reason b.")).toBeLessThan(page.indexOf("Reason a."));
    for (const id of "abc") expect(page).toContain(`Where ${id}`);
    expect(page).toContain('aria-label="Locks"');
  });

  it("leads to another stage with one touch, and nowhere from the stage itself", () => {
    expect(shown([lock("a", 3)])).toContain("go there");
    expect(shown([lock("a", 8)])).not.toContain("go there");
    expect(shown([lock("a", 3)], 3)).not.toContain("go there");
  });

  it("shows the first and says how many more there are", () => {
    const many = Array.from({ length: 9 }, (_, at) => lock(`n${at}`, 3));
    const page = shown(many);
    expect(page).toContain("5 more");
    expect(page).toContain("Reason n3.");
    expect(page).not.toContain("Reason n4.");
    expect(shown(many.slice(0, 4))).not.toContain("more");
  });

  it("never drops a stop behind the fold while something that waits is shown", () => {
    const late = [...Array.from({ length: 8 }, (_, at) => lock(`w${at}`, 3)), lock("bad", 5, "stop")];
    expect(shown(late)).toContain("Reason bad.");
  });
});

describe("a gate", () => {
  it("has its verdict as a word, not as a colour alone", () => {
    for (const verdict of ["clear", "watch", "stop", "waiting"] as const) {
      const page = renderToStaticMarkup(<GateLine gate={{ verdict, line: "Said so." }} />);
      expect(page).toContain(`gate-${verdict}`);
      expect(page).toContain("Said so.");
      expect(page).toContain(verdict);
    }
  });
});

describe("what stood before", () => {
  it("is said to be so while the answer is on its way, and is plain once it is there", () => {
    const busy = renderToStaticMarkup(
      <Former is>
        <p>240 V</p>
      </Former>,
    );
    expect(busy).toContain("what was typed before");
    expect(busy).toContain('aria-busy="true"');
    const settled = renderToStaticMarkup(
      <Former is={false}>
        <p>240 V</p>
      </Former>,
    );
    expect(settled).not.toContain("typed before");
    expect(settled).toContain("240 V");
  });
});

describe("the address of a stage", () => {
  it("is by its slug", () => {
    expect(stageAddress("J", 8)).toBe("/jobs/J/wake");
    expect(stageAddress("J", 1)).toBe("/jobs/J/arrive");
    expect(stageAddress("J", 10)).toBe("/jobs/J/leave");
    expect(stageAddress("J", 6)).toBe("/jobs/J/talk");
  });
});
