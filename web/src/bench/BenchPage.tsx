import { useQuery } from "@tanstack/react-query";
import { Button, Input, Select } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { NewJob } from "../shared/jobs/NewJob";
import { api } from "../shared/api/calls";
import type { BenchIn, BenchVerdict } from "../shared/api/types";
import { useShelf } from "../shared/api/useShelf";
import { JudgementList } from "../shared/judging/JudgementList";
import { ProblemNote } from "../shared/judging/ProblemNote";
import { Mark } from "../shared/marks/Mark";
import { BandPicture } from "../shared/readings/BandPicture";
import { Verdicts } from "../shared/readings/Verdicts";
import { SheetPick } from "../shared/fields/SheetPick";
import { WindowPicture } from "../shared/draw/WindowPicture";
import "./BenchPage.css";

type Field = Exclude<keyof BenchIn, "mounting" | "module" | "inverter" | "rule_pack">;

const EMPTY: BenchIn = {
  module: "",
  inverter: "",
  rule_pack: "generic-iec",
  modules_in_series: "10",
  mounting: "close",
  t_air_min_c: "−10 °C",
  t_air_max_c: "32 °C",
  irradiance_w_per_m2: "",
  t_module_c: "",
  t_air_c: "",
  read_v: "",
};
const PLANNED: [Field, string][] = [
  ["modules_in_series", "Modules in series"],
  ["t_air_min_c", "Coldest air"],
  ["t_air_max_c", "Hottest air"],
];
const READ: [Field, string, string][] = [
  ["irradiance_w_per_m2", "Irradiance on the plane", "640 W/m²"],
  ["t_module_c", "Back of a module", "31 °C"],
  ["t_air_c", "or air in the shade", "19 °C"],
  ["read_v", "Open-circuit voltage read", "382.4 V"],
];
const MOUNTINGS = [
  { value: "close", label: "close to the roof" },
  { value: "raised", label: "raised on a rack" },
  { value: "open", label: "open rack" },
  { value: "in_roof", label: "in the roof" },
];

/** A module, an inverter, a count and a reading: the verdict within a minute, no job needed. */
export default function BenchPage() {
  const [typed, setTyped] = useState<BenchIn>(EMPTY);
  const [saving, setSaving] = useState(false);
  const shelf = useShelf();
  const ready = typed.module !== "" && typed.inverter !== "";
  const judged = useQuery({
    queryKey: ["bench", typed],
    queryFn: () => api.bench(typed),
    enabled: ready,
    retry: false,
  });
  const put = (field: keyof BenchIn, value: string) => setTyped({ ...typed, [field]: value });
  return (
    <div className="page bench">
      <header className="shelf-head">
        <Link to="/" className="brand">
          Long Noon
        </Link>
        <h1>Bench</h1>
        <p className="stage-about">One string on one inverter, without a job</p>
      </header>
      <div className="bench-body">
        <section className="bench-typed">
          <SheetPick
            kind="modules"
            label="Module"
            now={typed.module === "" ? null : typed.module}
            nowLabel={typed.module}
            put={(id) => put("module", id ?? "")}
          />
          <SheetPick
            kind="inverters"
            label="Inverter"
            now={typed.inverter === "" ? null : typed.inverter}
            nowLabel={typed.inverter}
            put={(id) => put("inverter", id ?? "")}
          />
          <div className="pair">
            {PLANNED.map(([field, label]) => (
              <label className="entry" key={field}>
                <span className="entry-label">{label}</span>
                <Input value={typed[field]} onChange={(event) => put(field, event.target.value)} />
              </label>
            ))}
            <label className="entry">
              <span className="entry-label">Mounting</span>
              <Select
                aria-label="Mounting"
                value={typed.mounting}
                options={MOUNTINGS}
                onChange={(value: string) => put("mounting", value)}
              />
            </label>
          </div>
          <label className="entry">
            <span className="entry-label">Rule pack</span>
            <Select
              aria-label="Rule pack"
              value={typed.rule_pack}
              options={(shelf.data?.packs ?? []).map((one) => ({ value: one.id, label: one.label }))}
              onChange={(value: string) => put("rule_pack", value)}
            />
          </label>
          <h2>What was read</h2>
          <div className="pair">
            {READ.map(([field, label, example]) => (
              <label className="entry" key={field}>
                <span className="entry-label">{label}</span>
                <Input
                  value={typed[field]}
                  placeholder={example}
                  onChange={(event) => put(field, event.target.value)}
                />
              </label>
            ))}
          </div>
          <Button disabled={!ready || judged.data === undefined} onClick={() => setSaving(true)}>
            Begin a job with this
          </Button>
          <NewJob open={saving} close={() => setSaving(false)} bench={typed} />
        </section>
        <section className="bench-told">
          <ProblemNote error={judged.error} />
          {!ready && (
            <p className="shelf-hint">
              Pick a module and an inverter. Everything else may be typed in any order; units and decimal commas are
              taken.
            </p>
          )}
          {judged.data !== undefined && <Told verdict={judged.data} />}
        </section>
      </div>
    </div>
  );
}

function Told({ verdict }: { verdict: BenchVerdict }) {
  const { string, tracker, ask, window, whole } = verdict;
  return (
    <>
      <p className="bench-line">
        <Mark verdict={string.verdict} /> {string.line}
      </p>
      <WindowPicture limits={window} strings={[string]} selected={string.name} select={() => undefined} />
      {ask.reading !== null && (
        <>
          <h2>The reading</h2>
          <BandPicture ask={ask} value={ask.reading.value} verdict={ask.verdict} />
          <Verdicts ask={ask} all={false} />
          <p className="source">Expected: {ask.expected_because}</p>
        </>
      )}
      {ask.reading === null && ask.expected_text !== "" && (
        <p className="bench-line">
          Expect now <b>{ask.expected_text}</b>
        </p>
      )}
      <p className="caution">
        A string is live in daylight. Plugs apart, DC switch OFF, insulated probes. The bench shows volts and current
        only: polarity, connectors and the switch are looked at on the roof. Licensed work; your local code wins.
      </p>
      <JudgementList judgements={[...string.judgements, ...tracker.judgements, ...whole]} allOpen={false} />
    </>
  );
}
