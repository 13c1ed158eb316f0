import { useMutation, useQuery } from "@tanstack/react-query";
import { Button, Input, Select } from "antd";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { EMPTY_ANSWERS, beginAddress } from "../shared/jobs/answers";
import { api } from "../shared/api/calls";
import type { Answers, BenchIn, BenchVerdict } from "../shared/api/types";
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
/** What is tried without a shelf of one's own: the first sheets that are there, and figures that nobody read. */
async function invented(): Promise<BenchIn> {
  const [modules, inverters] = await Promise.all([api.sheets("modules", ""), api.sheets("inverters", "")]);
  const read = Object.fromEntries(READ.map(([field, , example]) => [field, example]));
  const module = modules.sheets[0]?.id ?? "";
  for (const { id } of inverters.sheets) {
    const made = { ...EMPTY, ...read, module, inverter: id };
    // The first that the rule pack takes: one of another continent says so, and is no example.
    if (await api.bench(made).then(yes, no)) return made;
  }
  throw new Error("Nothing on the shelf goes together: add a module and an inverter to it.");
}

/** What lies on the bench as answers of a job: its one string as the roof's, what was read with it. */
const fromBench = (bench: BenchIn): Answers => ({
  ...EMPTY_ANSWERS,
  typed: {
    ...EMPTY_ANSWERS.typed,
    module: bench.module,
    inverter: bench.inverter,
    rule_pack: bench.rule_pack,
    t_air_min_c: bench.t_air_min_c,
    t_air_max_c: bench.t_air_max_c,
    climate_source: "typed on the bench",
    roof: bench.modules_in_series,
    strung: "1",
    mounting: bench.mounting,
  },
  way: "wall",
  read: {
    irradiance_w_per_m2: bench.irradiance_w_per_m2,
    t_module_c: bench.t_module_c,
    t_air_c: bench.t_air_c,
    read_v: bench.read_v,
  },
});

const yes = () => true;
const no = () => false;

const MOUNTINGS = [
  { value: "close", label: "close to the roof" },
  { value: "raised", label: "raised on a rack" },
  { value: "open", label: "open rack" },
  { value: "in_roof", label: "in the roof" },
];

/** A module, an inverter, a count and a reading: the verdict within a minute, no job needed. */
export default function BenchPage() {
  const [typed, setTyped] = useState<BenchIn>(EMPTY);
  const [isExample, setIsExample] = useState(false);
  const example = useMutation({
    mutationFn: invented,
    onSuccess: (made) => {
      setTyped(made);
      setIsExample(true);
    },
  });
  const navigate = useNavigate();
  const begin = useMutation({
    mutationFn: async () => {
      const address = beginAddress();
      await api.answer(address.slice(address.lastIndexOf("/") + 1), fromBench(typed));
      return address;
    },
    onSuccess: (address) => navigate(address),
  });
  const shelf = useShelf();
  const ready = typed.module !== "" && typed.inverter !== "";
  const judged = useQuery({
    queryKey: ["bench", typed],
    queryFn: () => api.bench(typed),
    enabled: ready,
    retry: false,
  });
  const put = (field: keyof BenchIn, value: string) => setTyped({ ...typed, [field]: value });
  const clear = () => {
    setTyped(EMPTY);
    setIsExample(false);
  };
  return (
    <div className="page bench">
      <header className="shelf-head">
        <Link to="/" className="brand">
          Long Noon
        </Link>
        <h1>Bench</h1>
        <p className="stage-about">One string on one inverter, without a job</p>
      </header>
      <main className="bench-body">
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
          <Button
            disabled={!ready || isExample || judged.data === undefined}
            loading={begin.isPending}
            onClick={() => begin.mutate()}
          >
            Begin a job with this
          </Button>
          <ProblemNote error={begin.error} />
        </section>
        <section className="bench-told">
          <ProblemNote error={judged.error ?? example.error} />
          {!ready && (
            <>
              <p className="shelf-hint">
                Pick a module and an inverter. Everything else may be typed in any order; units and decimal commas are
                taken.
              </p>
              <Button loading={example.isPending} onClick={() => example.mutate()}>
                Try it with invented figures
              </Button>
            </>
          )}
          {isExample && (
            <p className="reason reason-watch">
              An example: nobody read these figures.{" "}
              <button type="button" className="quiet" onClick={clear}>
                clear the bench
              </button>
            </p>
          )}
          {judged.data !== undefined && <Told verdict={judged.data} />}
        </section>
      </main>
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
