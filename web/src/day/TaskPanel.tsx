import { Button, Input } from "antd";
import { useState } from "react";
import type { Schemas } from "../shared/api/types";
import { Pick } from "../shared/fields/Pick";
import { longDay } from "../shared/lib/figures";
import { clockOf } from "./clockOf";
import { say } from "../words/say";

interface TaskPanelProps {
  task: Schemas["TaskLine"];
  day: Schemas["DayView"];
  keep: (visit: number, at: string) => void;
  free: () => void;
}

/** One task: who, how long, why there; put at a time by typing it. */
export function TaskPanel({ task, day, keep, free }: TaskPanelProps) {
  const [at, setAt] = useState(task.start_min === null ? "" : clockOf(task.start_min));
  const [visit, setVisit] = useState(String(day.visits[task.visit ?? 0]?.number ?? 1));
  const breaks = day.broken.filter((one) => one.task === task.id || one.other === task.id);
  return (
    <section aria-label={say("day.this_task")} className="task-panel">
      <header className="rail-head">
        <h2>{task.label}</h2>
        <span>{task.minutes} min</span>
      </header>
      <p>
        {task.people.length === 0 ? say("day.it_binds_nobody") : task.people.join(", ")}
        {task.licensed && say("day.licensed")}
        {task.roof && say("day.on_the_roof_2")}
      </p>
      <p className="source">{task.why}</p>
      {breaks.map((one, index) => (
        <p key={index} className="reason reason-stop">
          {one.said}
        </p>
      ))}
      <form
        className="object-do look-file"
        onSubmit={(event) => {
          event.preventDefault();
          keep(Number(visit), at);
        }}
      >
        <label className="entry">
          <span className="entry-label">{say("day.begins_at")}</span>
          <Input value={at} onChange={(event) => setAt(event.target.value)} />
        </label>
        {day.visits.length > 1 && (
          <Pick
            label={say("common.on")}
            value={visit}
            options={day.visits.map((one) => [String(one.number), longDay(one.day)] as const)}
            put={setVisit}
          />
        )}
        <Button htmlType="submit" type="primary">
          {say("common.put_it_there")}
        </Button>
        {task.moved && <Button onClick={free}>{say("day.lay_it_as_it_fits")}</Button>}
      </form>
    </section>
  );
}
