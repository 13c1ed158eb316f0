import { Fragment, useState } from "react";
import type { Prompt, ProveStage, TestGroup, TestState } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { dayAndClock } from "../../shared/lib/figures";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Mark } from "../../shared/marks/Mark";
import { Pick } from "../../shared/fields/Pick";
import { TestBand } from "./TestBand";
import { TestMatrix } from "./TestMatrix";
import { together } from "./columns";
import { say } from "../../words/say";
import "./TestLedger.css";

interface LedgerProps {
  jobId: string;
  prove: ProveStage;
  asks: Prompt[];
  current: "short_circuit" | "operating";
  timezone: string;
  optimised: boolean;
  open: (key: string) => void;
}

const CURRENTS = [
  ["short_circuit", say("prove.short_circuit_current")],
  ["operating", say("prove.operating_current")],
] as const;

/** The record as it grows: a group for each string, run and device, a line for each test. */
export function TestLedger({ jobId, prove, asks, current, timezone, optimised, open }: LedgerProps) {
  const edit = useEdit(jobId);
  const [shown, setShown] = useState<string | null>(null);
  const first = prove.groups.find((group) => group.verdict !== "clear")?.title;
  const isOpen = (title: string) => (shown === null ? title === first : shown === title);
  const toggle = (title: string) => setShown(isOpen(title) ? "" : title);
  const byKey = new Map(asks.map((ask) => [ask.key, ask]));
  return (
    <section className="ledger" aria-label={say("prove.test_record")}>
      {!optimised && prove.groups.length > 0 && (
        <div className="ledger-tools">
          <Pick
            label={say("prove.measured_in_each_string")}
            value={current}
            options={CURRENTS}
            put={(chosen) => edit.mutate({ do: "choose_current", current: chosen })}
          />
          <ProblemNote error={edit.error} />
        </div>
      )}
      {together(prove.groups).map((groups) => {
        const isSet = groups.length > 1;
        return (
          <Fragment key={groups[0]?.title}>
            {isSet && <TestMatrix groups={groups} isOpen={isOpen} toggle={toggle} take={open} />}
            {groups.map((group) => (
              <section key={group.title} className={`ledger-group group-${group.verdict}`}>
                {!isSet && <GroupHead group={group} isOpen={isOpen(group.title)} toggle={toggle} />}
                {isOpen(group.title) && <Tests group={group} byKey={byKey} timezone={timezone} open={open} />}
              </section>
            ))}
          </Fragment>
        );
      })}
    </section>
  );
}

interface HeadProps {
  group: TestGroup;
  isOpen: boolean;
  toggle: (title: string) => void;
}

function GroupHead({ group, isOpen, toggle }: HeadProps) {
  return (
    <button type="button" className="ledger-head" aria-expanded={isOpen} onClick={() => toggle(group.title)}>
      <h2>{group.title}</h2>
      <ol className="pips" aria-hidden="true">
        {group.tests.map((test) => (
          <li key={test.key}>
            <Mark verdict={test.verdict} word={false} />
          </li>
        ))}
      </ol>
      <span>{say("prove.of", { clear: group.clear, testsCount: group.tests.length })}</span>
      <Mark verdict={group.verdict} />
    </button>
  );
}

interface TestsProps {
  group: TestGroup;
  byKey: Map<string, Prompt>;
  timezone: string;
  open: (key: string) => void;
}

function Tests({ group, byKey, timezone, open }: TestsProps) {
  return (
    <ul className="tests" aria-label={group.title}>
      {group.tests.map((test) => (
        <TestLine
          key={test.key}
          test={test}
          under={group.title}
          ask={byKey.get(test.key)}
          timezone={timezone}
          open={open}
        />
      ))}
    </ul>
  );
}

function TestLine({
  test,
  under,
  ask,
  timezone,
  open,
}: {
  test: TestState;
  /** What stands over it already, and is not said again. */
  under: string;
  ask: Prompt | undefined;
  timezone: string;
  open: (key: string) => void;
}) {
  const isRead = test.read_text !== "";
  const title = test.title.replace(`${under} · `, "");
  // Of a tick that is not set yet its mark says all.
  const isOpenTick = !isRead && test.verdict === "waiting" && (ask?.answers.length ?? 0) > 0;
  return (
    <li className={`test test-${test.verdict}`}>
      <button
        type="button"
        className="test-what"
        onClick={() => open(test.key)}
        aria-label={say("prove.take", { title: test.title })}
      >
        {title}
      </button>
      <span className="test-expect">{isOpenTick ? "" : test.expected_text}</span>
      <TestBand ask={ask} verdict={test.verdict} />
      <b className="test-read">{isRead ? test.read_text : isOpenTick ? "" : "—"}</b>
      <Mark verdict={test.verdict} />
      <p className="test-by">
        {test.verdict !== "clear" && !isOpenTick && (
          <span className={`reason reason-${test.verdict}`}>{test.line} </span>
        )}
        {test.at !== null && `${test.by}, ${dayAndClock(test.at, timezone)}`}
        {test.serial !== "" &&
          say("prove.serial", {
            instrument: test.instrument,
            serial: test.serial,
            due_on: test.due_on === null ? "" : say("prove.calibrated_until", { due_on: test.due_on }),
          })}
        {test.retests > 0 && say("prove.read_times", { retests: test.retests + 1 })}
      </p>
    </li>
  );
}
