import { Button, Input } from "antd";
import { useState } from "react";
import type { JobView } from "../shared/api/types";
import { useEdit } from "../shared/api/useJobWrite";
import { DraftField } from "../shared/fields/DraftField";
import { Field } from "../shared/fields/Field";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { longDay } from "../shared/lib/figures";
import { clockOf } from "./clockOf";
import { say } from "../words/say";

type Visit = NonNullable<JobView["plan"]["days"]["visits"]>[number];
const SKIES = ["wind", "rain"] as const;

/** One visit: its day and hours, the way there, wind and rain that somebody expects. */
export function VisitFields({ jobId, visit }: { jobId: string; visit: Visit }) {
  const edit = useEdit(jobId);
  // A field says its own refusal.
  const typed = useEdit(jobId);
  const hours = {
    day: visit.day,
    begins: clockOf(visit.begins_min),
    ends: clockOf(visit.ends_min),
    rest_min: String(visit.rest_min),
    travel_min: String(visit.travel_min),
  };
  const put = (more: Partial<typeof hours>) =>
    typed.mutateAsync({ do: "put_visit", number: visit.number, ...hours, ...more });
  const skyOf = (what: (typeof SKIES)[number]) => {
    const found = visit.sky.find((one) => one.what === what);
    return found === undefined ? "" : `${clockOf(found.begins_min)}–${clockOf(found.ends_min)}`;
  };
  const putSky = (what: (typeof SKIES)[number], entered: string) => {
    const [begins = "", ends = ""] = entered.split(/\s*(?:–|-|to)\s*/);
    return typed.mutateAsync({ do: "set_sky", number: visit.number, what, begins, ends });
  };
  return (
    <details className="visit-fields">
      <summary>{say("day.to", { day: longDay(visit.day), begins: hours.begins, ends: hours.ends })}</summary>
      <label className="entry">
        <span className="entry-label">{say("common.day")}</span>
        <Input
          type="date"
          value={visit.day}
          onChange={(event) => edit.mutate({ do: "move_visit", number: visit.number, day: event.target.value })}
        />
      </label>
      <div className="pair">
        <Field label={say("common.from")} shown={hours.begins} commit={(begins) => put({ begins })} />
        <Field label={say("common.to")} shown={hours.ends} commit={(ends) => put({ ends })} />
      </div>
      <div className="pair">
        <Field label={say("day.break_min")} shown={hours.rest_min} commit={(rest_min) => put({ rest_min })} />
        <Field label={say("day.way_there_min")} shown={hours.travel_min} commit={(travel_min) => put({ travel_min })} />
      </div>
      {SKIES.map((what) => (
        <Field
          key={what}
          label={what === "wind" ? say("day.wind_as_13_00_16_00") : say("day.rain_as_13_00_16_00")}
          shown={skyOf(what)}
          commit={(entered) => putSky(what, entered)}
        />
      ))}
      <ProblemNote error={edit.error} />
      <Button onClick={() => edit.mutate({ do: "remove_visit", number: visit.number })}>
        {say("common.take_it_out")}
      </Button>
    </details>
  );
}

/** A further visit, by its day and hours. */
export function AddVisit({ jobId, day: first }: { jobId: string; day: string }) {
  const edit = useEdit(jobId);
  const [day, setDay] = useState(first);
  const [begins, setBegins] = useState("07:30");
  const [ends, setEnds] = useState("16:30");
  return (
    <form
      aria-label={say("day.a_further_visit")}
      onSubmit={(event) => {
        event.preventDefault();
        edit.mutate({ do: "put_visit", number: null, day, begins, ends, rest_min: "30", travel_min: "0" });
      }}
    >
      <label className="entry">
        <span className="entry-label">{say("day.a_visit_on")}</span>
        <Input type="date" value={day} onChange={(event) => setDay(event.target.value)} />
      </label>
      <div className="pair">
        <DraftField label={say("common.from")} value={begins} put={setBegins} />
        <DraftField label={say("common.to")} value={ends} put={setEnds} />
      </div>
      <ProblemNote error={edit.error} />
      <Button htmlType="submit" loading={edit.isPending}>
        {say("day.plan_it")}
      </Button>
    </form>
  );
}
