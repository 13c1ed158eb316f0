import { Button, Input } from "antd";
import { useState } from "react";
import { api } from "../../shared/api/calls";
import type { Schemas } from "../../shared/api/types";
import { useJobWrite } from "../../shared/api/useJobWrite";
import { DraftField } from "../../shared/fields/DraftField";
import { FileButton } from "../../shared/fields/FileButton";
import { Pick } from "../../shared/fields/Pick";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import type { StageProps } from "../../shared/layout/StageFrame";
import { dayAndClock, figure, longDay, shortDay } from "../../shared/lib/figures";
import { Mark } from "../../shared/marks/Mark";
import { YieldPicture } from "./YieldPicture";
import { say } from "../../words/say";

const PER_CENT = 100;
const UNITS = [
  ["", say("leave.as_the_file_says")],
  ["kWh", "kWh"],
  ["Wh", "Wh"],
  ["MWh", say("leave.mwh")],
  ["W", "W"],
  ["kW", "kW"],
] as const;

/** The looks after the day: what is due, what the plant gave beside what it should, and why not. */
export function LaterFace({ jobId, view, whyAll }: StageProps) {
  const { leave } = view.assessment;
  const [latest, ...older] = leave.yields;
  const { timezone } = view.plan.site;
  return (
    <>
      <ol className="looks" aria-label={say("leave.looks_after_the_day")}>
        {leave.looks_due.map((one) => (
          <li key={one.id} className={one.seen === null ? "" : "look-seen"}>
            <Mark verdict={one.verdict} word={false} />
            <b>{one.title}</b>
            <span className="look-when">
              {one.seen !== null
                ? say("leave.made", { seen: shortDay(one.seen) })
                : one.due === null
                  ? say("leave.once_it_runs")
                  : say("leave.due", { late: one.late ? say("leave.since") : "", due: shortDay(one.due) })}
            </span>
            <small>{one.what}</small>
          </li>
        ))}
      </ol>
      {latest !== undefined && <Look look={latest} whyAll={whyAll} timezone={timezone} />}
      <LookForms jobId={jobId} view={view} />
      {leave.drift !== null && <JudgementList judgements={[leave.drift]} allOpen={whyAll} />}
      {latest === undefined && <p className="source">{say("leave.no_energy_was_read_yet_shares")}</p>}
      {older.map((one) => (
        <Look key={one.id} look={one} whyAll={whyAll} timezone={timezone} />
      ))}
    </>
  );
}

interface LookProps {
  look: Schemas["YieldState"];
  whyAll: boolean;
  timezone: string;
}

function Look({ look, whyAll, timezone }: LookProps) {
  const days =
    look.first_day === look.last_day
      ? longDay(look.first_day)
      : say("leave.to", { first_day: shortDay(look.first_day), last_day: shortDay(look.last_day) });
  return (
    <section className="look" aria-label={say("leave.look_at", { days })}>
      <header className="rail-head">
        <h2>{days}</h2>
        <span>
          {look.by}, {dayAndClock(look.at, timezone)}
        </span>
      </header>
      <YieldPicture look={look} />
      <p className="source">{look.band_said}</p>
      {look.parts.length > 0 && (
        <table className="yield-parts">
          <thead>
            <tr>
              <th>{say("common.part")}</th>
              <th>{say("leave.energy")}</th>
              <th>{say("leave.share")}</th>
              <th>{say("leave.as_planned")}</th>
              <th>{say("leave.verdict")}</th>
            </tr>
          </thead>
          <tbody>
            {look.parts.map((one) => (
              <tr key={one.part}>
                <td>{one.part}</td>
                <td>{figure(one.kwh, "kWh")}</td>
                <td>{figure(one.share * PER_CENT, "%")}</td>
                <td>{one.expected_share === null ? "–" : figure(one.expected_share * PER_CENT, "%")}</td>
                <td>
                  <Mark verdict={one.verdict} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {look.reasons.length > 0 && (
        <ol className="yield-reasons" aria-label={say("leave.why_likeliest_first")}>
          {look.reasons.map((one) => (
            <li key={`${one.id}-${one.title}`}>
              <b>{one.title}.</b> {one.because} <span>{say("leave.read_next", { read_next: one.read_next })}</span>
            </li>
          ))}
        </ol>
      )}
      {look.faults.map((one) => (
        <p key={one} className="source">
          {say("leave.in_the_file", { one })}
        </p>
      ))}
      <JudgementList judgements={look.judgements} allOpen={whyAll} />
      <p className="source">
        {say("leave.losses", { losses: look.losses.map((one) => `${one.name} ${figure(one.pct, "%")}`).join(", ") })}
      </p>
    </section>
  );
}

/** Energy typed, read from the device, or taken from a portal's file. */
function LookForms({ jobId, view }: { jobId: string; view: StageProps["view"] }) {
  const { parts } = view.assessment.leave;
  const [day, setDay] = useState(view.assessment.day);
  const [part, setPart] = useState("plant");
  const [entered, setEntered] = useState("");
  const [days, setDays] = useState<Schemas["DayIn"][]>([]);
  const [share, setShare] = useState("");
  const [air, setAir] = useState("");
  const [unit, setUnit] = useState<(typeof UNITS)[number][0]>("");
  const said = { share, t_air_c: air, note: "" };
  const typed = useJobWrite<Schemas["DayIn"][]>(jobId, (every) => api.keepYield(jobId, { days: every, ...said }));
  const file = useJobWrite<File>(jobId, (one) => api.keepYieldFile(jobId, one, { unit, ...said }));
  const counter = useJobWrite<null>(jobId, () => api.keepYieldCounter(jobId, said));
  const every = entered.trim() === "" ? days : [...days, { day, part, entered }];
  return (
    <section className="look-forms" aria-label={say("leave.take_a_look")}>
      <header className="rail-head">
        <h2>{say("leave.take_a_look")}</h2>
      </header>
      <div className="device-fields">
        <DraftField label={say("leave.how_clear_the_sky_was_0")} value={share} put={setShare} placeholder="0.7" />
        <DraftField label={say("leave.mean_air_of_the_days_c")} value={air} put={setAir} placeholder="12" />
      </div>
      <form
        className="device-fields"
        onSubmit={(event) => {
          event.preventDefault();
          typed.mutate(every, {
            onSuccess: () => {
              setDays([]);
              setEntered("");
            },
          });
        }}
      >
        <label className="entry">
          <span className="entry-label">{say("common.day")}</span>
          <Input type="date" value={day} onChange={(event) => setDay(event.target.value)} />
        </label>
        <Pick label={say("leave.of")} value={part} options={parts.map((one) => [one, one] as const)} put={setPart} />
        <DraftField label={say("leave.energy_kwh")} value={entered} put={setEntered} placeholder="18.4" />
        <Button
          disabled={entered.trim() === ""}
          onClick={() => {
            setDays(every);
            setEntered("");
          }}
        >
          {say("leave.and_another")}
        </Button>
        <Button type="primary" htmlType="submit" loading={typed.isPending} disabled={every.length === 0}>
          {say("leave.keep_the_look")}
        </Button>
      </form>
      {days.length > 0 && (
        <p className="source">{days.map((one) => `${shortDay(one.day)} ${one.part}: ${one.entered}`).join(" · ")}</p>
      )}
      <ProblemNote error={typed.error} />
      <div className="object-do look-file">
        <Pick label={say("leave.unit_of_the_file")} value={unit} options={UNITS} put={setUnit} />
        <FileButton
          label={say("leave.table_of_energy")}
          accept=".csv,.txt,text/csv"
          busy={file.isPending}
          take={(one) => file.mutate(one)}
        >
          {say("leave.from_a_portals_csv")}
        </FileButton>
        <Button loading={counter.isPending} onClick={() => counter.mutate(null)}>
          {say("leave.read_the_inverters_counter")}
        </Button>
      </div>
      <ProblemNote error={file.error ?? counter.error} />
    </section>
  );
}
