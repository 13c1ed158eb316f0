import { Checkbox } from "antd";
import { useEdit } from "../shared/api/useJobWrite";
import { Field } from "../shared/fields/Field";
import { ProblemNote } from "../shared/judging/ProblemNote";
import type { StageProps } from "../shared/layout/StageFrame";
import { clockOf } from "./clockOf";
import { AddVisit, VisitFields } from "./VisitFields";

const TOOLS = [
  ["tester", "Testers"],
  ["torque", "Torque drivers"],
  ["ladder", "Ladders or scaffolds"],
] as const;
const GOODS = [
  ["inverter", "The inverter"],
  ["modules", "The modules"],
  ["hooks", "The hooks"],
  ["rails", "The rails"],
] as const;

/** What binds the days: visits, who may be on the roof, dark hours, sky, tools, goods that come later. */
export function DaySettings({ jobId, view }: Omit<StageProps, "whyAll">) {
  const { days, arrival } = view.plan;
  const edit = useEdit(jobId);
  // A field says its own refusal.
  const typed = useEdit(jobId);
  const dark = days.dark;
  const put = (roof: string[], more: Record<string, string> = {}) =>
    typed.mutateAsync({
      do: "set_days",
      roof,
      sky: String(days.sky),
      dark_begins: dark == null ? "" : clockOf(dark.begins_min),
      dark_ends: dark == null ? "" : clockOf(dark.ends_min),
      dark_longest_min: dark == null ? "" : String(dark.longest_min),
      ...more,
    });
  const putDark = (entered: string) => {
    const [begins = "", ends = ""] = entered.split(/\s*(?:–|-|to)\s*/);
    const longest = String(dark?.longest_min ?? FIRST_DARK_MIN);
    return put(days.roof, { dark_begins: begins, dark_ends: ends, dark_longest_min: longest });
  };
  return (
    <section aria-label="What binds the days">
      <header className="rail-head">
        <h2>Visits</h2>
        <span>{days.visits.length}</span>
      </header>
      {days.visits.map((one) => (
        <VisitFields key={one.number} jobId={jobId} visit={one} />
      ))}
      <AddVisit jobId={jobId} day={view.assessment.day} />
      <header className="rail-head">
        <h2>On the roof</h2>
      </header>
      {arrival.crew.map((one) => (
        <Checkbox
          key={one.name}
          checked={days.roof.includes(one.name)}
          onChange={(event) =>
            void put(event.target.checked ? [...days.roof, one.name] : days.roof.filter((name) => name !== one.name))
          }
        >
          {one.name}
        </Checkbox>
      ))}
      <header className="rail-head">
        <h2>What else binds</h2>
      </header>
      <Field label="Sky hoped for, 0 to 1" shown={String(days.sky)} commit={(sky) => put(days.roof, { sky })} />
      <div className="pair">
        <Field
          label="The house may be dark, as 10:00–13:00"
          shown={dark == null ? "" : `${clockOf(dark.begins_min)}–${clockOf(dark.ends_min)}`}
          commit={putDark}
        />
        {dark != null && (
          <Field
            label="Dark at most, min"
            shown={String(dark.longest_min)}
            commit={(dark_longest_min) => put(days.roof, { dark_longest_min })}
          />
        )}
      </div>
      {TOOLS.map(([tool, label]) => (
        <Field
          key={tool}
          label={label}
          shown={String(days.tools.find((one) => one.tool === tool)?.count ?? 1)}
          commit={(count) => typed.mutateAsync({ do: "set_tools", tool, count })}
        />
      ))}
      <Checkbox
        checked={days.lift}
        onChange={(event) => edit.mutate({ do: "set_tools", tool: "lift", count: event.target.checked ? "1" : "0" })}
      >
        Modules go up by a lift
      </Checkbox>
      <header className="rail-head">
        <h2>Comes later</h2>
      </header>
      {GOODS.map(([what, label]) => (
        <label key={what} className="entry">
          <span className="entry-label">{label}, on</span>
          <input
            className="plain-date"
            type="date"
            value={days.late.find((one) => one.what === what)?.day ?? ""}
            onChange={(event) =>
              edit.mutate({ do: "set_late_goods", what, day: event.target.value === "" ? null : event.target.value })
            }
          />
        </label>
      ))}
      <ProblemNote error={edit.error} />
    </section>
  );
}

// Until somebody agrees on another, as long as one may well be without a freezer.
const FIRST_DARK_MIN = 180;
