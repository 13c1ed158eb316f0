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
import { dayAndClock, figure, longDay } from "../../shared/lib/figures";
import { Mark } from "../../shared/marks/Mark";
import { YieldPicture } from "./YieldPicture";

const PER_CENT = 100;
const UNITS = [
  ["", "as the file says"],
  ["kWh", "kWh"],
  ["Wh", "Wh"],
  ["MWh", "MWh"],
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
      <ol className="looks" aria-label="Looks after the day">
        {leave.looks_due.map((one) => (
          <li key={one.id} className={one.seen === null ? "" : "look-seen"}>
            <Mark verdict={one.verdict} word={false} />
            <b>{one.title}</b>
            <span className="look-when">
              {one.seen !== null
                ? `made ${one.seen}`
                : one.due === null
                  ? "once it runs"
                  : `due ${one.late ? "since " : ""}${one.due}`}
            </span>
            <small>{one.what}</small>
          </li>
        ))}
      </ol>
      {latest !== undefined && <Look look={latest} whyAll={whyAll} timezone={timezone} />}
      <LookForms jobId={jobId} view={view} />
      {leave.drift !== null && <JudgementList judgements={[leave.drift]} allOpen={whyAll} />}
      {latest === undefined && (
        <p className="source">
          No energy was read yet. Shares between strings need no weather; the whole is held against the light of those
          days, each loss named.
        </p>
      )}
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
  const days = look.first_day === look.last_day ? longDay(look.first_day) : `${look.first_day} to ${look.last_day}`;
  return (
    <section className="look" aria-label={`Look at ${days}`}>
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
              <th>Part</th>
              <th>Energy</th>
              <th>Share</th>
              <th>As planned</th>
              <th>Verdict</th>
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
        <ol className="yield-reasons" aria-label="Why, likeliest first">
          {look.reasons.map((one) => (
            <li key={`${one.id}-${one.title}`}>
              <b>{one.title}.</b> {one.because} <span>Read next: {one.read_next}</span>
            </li>
          ))}
        </ol>
      )}
      {look.faults.map((one) => (
        <p key={one} className="source">
          In the file: {one}
        </p>
      ))}
      <JudgementList judgements={look.judgements} allOpen={whyAll} />
      <p className="source">Losses: {look.losses.map((one) => `${one.name} ${figure(one.pct, "%")}`).join(", ")}.</p>
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
    <section className="look-forms" aria-label="Take a look">
      <header className="rail-head">
        <h2>Take a look</h2>
      </header>
      <div className="device-fields">
        <DraftField label="How clear the sky was, 0 to 1" value={share} put={setShare} placeholder="0.7" />
        <DraftField label="Mean air of the days, °C" value={air} put={setAir} placeholder="12" />
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
          <span className="entry-label">Day</span>
          <Input type="date" value={day} onChange={(event) => setDay(event.target.value)} />
        </label>
        <Pick label="Of" value={part} options={parts.map((one) => [one, one] as const)} put={setPart} />
        <DraftField label="Energy, kWh" value={entered} put={setEntered} placeholder="18.4" />
        <Button
          disabled={entered.trim() === ""}
          onClick={() => {
            setDays(every);
            setEntered("");
          }}
        >
          and another
        </Button>
        <Button type="primary" htmlType="submit" loading={typed.isPending} disabled={every.length === 0}>
          Keep the look
        </Button>
      </form>
      {days.length > 0 && (
        <p className="source">{days.map((one) => `${one.day} ${one.part}: ${one.entered}`).join(" · ")}</p>
      )}
      <ProblemNote error={typed.error} />
      <div className="object-do look-file">
        <Pick label="Unit of the file" value={unit} options={UNITS} put={setUnit} />
        <FileButton
          label="Table of energy"
          accept=".csv,.txt,text/csv"
          busy={file.isPending}
          take={(one) => file.mutate(one)}
        >
          From a portal’s CSV
        </FileButton>
        <Button loading={counter.isPending} onClick={() => counter.mutate(null)}>
          Read the inverter’s counter
        </Button>
      </div>
      <ProblemNote error={file.error ?? counter.error} />
    </section>
  );
}
