import { Button, Checkbox } from "antd";
import { useState, type ReactNode } from "react";
import type { GoodsIn, JobView, LoadInLine } from "../../shared/api/types";
import { useCount, useEdit } from "../../shared/api/useJobWrite";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Mark } from "../../shared/marks/Mark";
import { GoodsPile } from "./GoodsPile";
import { HomeRuns } from "./HomeRuns";
import { LoadInRow } from "./LoadInRow";
import { say } from "../../words/say";
import "./LoadIn.css";

/** The load-in sheet: what the job needs, counted from the plan, against what is here. */
export function LoadIn({ jobId, view }: { jobId: string; view: JobView }) {
  const { lines } = view.assessment.arrive;
  const { arrival, strings } = view.plan;
  const edit = useEdit(jobId);
  const count = useCount(jobId);
  const typed = useCount(jobId);
  const groups = [...new Set(lines.map((line) => line.group))];
  return (
    <>
      <Checkbox
        checked={arrival.first_visit}
        onChange={(event) => edit.mutate({ do: "set_first_visit", first_visit: event.target.checked })}
      >
        {say("arrive.first_visit_the_inverter_comes_later")}
      </Checkbox>
      <ProblemNote error={count.error ?? edit.error} />
      <GoodsPile groups={groups} lines={lines} />
      {groups.map((group) => (
        <Group
          key={group}
          jobId={jobId}
          title={group}
          lines={lines.filter((line) => line.group === group)}
          count={(counted) => count.mutate(counted)}
          typed={typed.mutateAsync}
        >
          {group === "cable" && <HomeRuns jobId={jobId} strings={strings} />}
        </Group>
      ))}
      {arrival.substitutes.length > 0 && (
        <section>
          <h2 className="why-head">{say("arrive.came_instead")}</h2>
          <ul className="replaced">
            {arrival.substitutes.map((one) => (
              <li key={one.was + one.now}>
                {say("arrive.for_the_plan_was_judged_again", { now: one.now, was: one.was })}
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

interface GroupProps {
  jobId: string;
  title: string;
  lines: LoadInLine[];
  count: (counted: GoodsIn[]) => void;
  typed: (counted: GoodsIn[]) => Promise<unknown>;
  children: ReactNode;
}

/** One group of lines, with one touch for those that are simply all there. */
function Group({ jobId, title, lines, count, typed, children }: GroupProps) {
  const rest = lines.filter((line) => line.found === null && line.needed !== null);
  const isAll = lines.every((line) => line.judgement.verdict === "clear");
  // What was all here when the sheet was opened is told in one line; what is counted now stays in sight.
  const [isOpen, setIsOpen] = useState(!isAll);
  return (
    <section className="load-in" id={`goods-${title}`} aria-label={title}>
      <header>
        <h2>{title}</h2>
        {isAll && (
          <button type="button" className="load-in-all" aria-expanded={isOpen} onClick={() => setIsOpen(!isOpen)}>
            <Mark verdict="clear" />{" "}
            {isOpen ? say("common.put_away") : say("arrive.all_here", { linesCount: lines.length })}
          </button>
        )}
        {rest.length > 0 && (
          <Button
            onClick={() =>
              count(rest.map((line) => ({ line: line.id, found: String(line.needed), damaged: "", note: "" })))
            }
          >
            {rest.length === lines.length ? say("arrive.all_here_2") : say("arrive.the_rest_is_here")}
          </Button>
        )}
      </header>
      {(isOpen || !isAll) && (
        <ul>
          {lines.map((line) => (
            <LoadInRow key={line.id} jobId={jobId} line={line} count={count} typed={typed} />
          ))}
        </ul>
      )}
      {children}
    </section>
  );
}
