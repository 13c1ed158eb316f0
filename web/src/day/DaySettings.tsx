import { Checkbox } from "antd";
import { useEdit } from "../shared/api/useJobWrite";
import { Field } from "../shared/fields/Field";
import { ProblemNote } from "../shared/judging/ProblemNote";
import type { StageProps } from "../shared/layout/StageFrame";
import { clockOf } from "./clockOf";
import { AddVisit, VisitFields } from "./VisitFields";
import { say } from "../words/say";

const TOOLS = [
  ["tester", say("common.testers")],
  ["torque", say("day.torque_drivers")],
  ["ladder", say("day.ladders_or_scaffolds")],
] as const;
const GOODS = [
  ["inverter", say("day.the_inverter")],
  ["modules", say("day.the_modules")],
  ["hooks", say("day.the_hooks")],
  ["rails", say("day.the_rails")],
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
    <section aria-label={say("day.what_binds_the_days")}>
      <header className="rail-head">
        <h2>{say("day.visits")}</h2>
        <span>{days.visits.length}</span>
      </header>
      {days.visits.map((one) => (
        <VisitFields key={one.number} jobId={jobId} visit={one} />
      ))}
      <AddVisit jobId={jobId} day={view.assessment.day} />
      <header className="rail-head">
        <h2>{say("day.on_the_roof")}</h2>
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
        <h2>{say("day.what_else_binds")}</h2>
      </header>
      <Field
        label={say("day.sky_hoped_for_0_to_1")}
        shown={String(days.sky)}
        commit={(sky) => put(days.roof, { sky })}
      />
      <div className="pair">
        <Field
          label={say("day.the_house_may_be_dark_as")}
          shown={dark == null ? "" : `${clockOf(dark.begins_min)}–${clockOf(dark.ends_min)}`}
          commit={putDark}
        />
        {dark != null && (
          <Field
            label={say("day.dark_at_most_min")}
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
        {say("day.modules_go_up_by_a_lift")}
      </Checkbox>
      <header className="rail-head">
        <h2>{say("day.comes_later")}</h2>
      </header>
      {GOODS.map(([what, label]) => (
        <label key={what} className="entry">
          <span className="entry-label">{say("day.on", { label })}</span>
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
