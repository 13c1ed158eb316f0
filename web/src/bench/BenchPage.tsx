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
import { rich, say } from "../words/say";

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
  ["modules_in_series", say("common.modules_in_series")],
  ["t_air_min_c", say("common.coldest_air")],
  ["t_air_max_c", say("common.hottest_air")],
];
const READ: [Field, string, string][] = [
  ["irradiance_w_per_m2", say("bench.irradiance_on_the_plane"), "640 W/m²"],
  ["t_module_c", say("bench.back_of_a_module"), "31 °C"],
  ["t_air_c", say("bench.or_air_in_the_shade"), "19 °C"],
  ["read_v", say("bench.open_circuit_voltage_read"), "382.4 V"],
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
  throw new Error(say("bench.nothing_on_the_shelf_goes_together"));
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
    climate_source: say("bench.typed_on_the_bench"),
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
  { value: "close", label: say("common.close_to_the_roof") },
  { value: "raised", label: say("common.raised_on_a_rack") },
  { value: "open", label: say("common.open_rack") },
  { value: "in_roof", label: say("bench.in_the_roof") },
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
          {say("common.long_noon")}
        </Link>
        <h1>{say("bench.bench")}</h1>
        <p className="stage-about">{say("bench.one_string_on_one_inverter_without")}</p>
      </header>
      <main className="bench-body">
        <section className="bench-typed">
          <SheetPick
            kind="modules"
            label={say("common.module")}
            now={typed.module === "" ? null : typed.module}
            nowLabel={typed.module}
            put={(id) => put("module", id ?? "")}
          />
          <SheetPick
            kind="inverters"
            label={say("common.inverter")}
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
              <span className="entry-label">{say("common.mounting")}</span>
              <Select
                aria-label={say("common.mounting")}
                value={typed.mounting}
                options={MOUNTINGS}
                onChange={(value: string) => put("mounting", value)}
              />
            </label>
          </div>
          <label className="entry">
            <span className="entry-label">{say("common.rule_pack")}</span>
            <Select
              aria-label={say("common.rule_pack")}
              value={typed.rule_pack}
              options={(shelf.data?.packs ?? []).map((one) => ({ value: one.id, label: one.label }))}
              onChange={(value: string) => put("rule_pack", value)}
            />
          </label>
          <h2>{say("bench.what_was_read")}</h2>
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
            {say("bench.begin_a_job_with_this")}
          </Button>
          <ProblemNote error={begin.error} />
        </section>
        <section className="bench-told">
          <ProblemNote error={judged.error ?? example.error} />
          {!ready && (
            <>
              <p className="shelf-hint">{say("bench.pick_a_module_and_an_inverter")}</p>
              <Button loading={example.isPending} onClick={() => example.mutate()}>
                {say("bench.try_it_with_invented_figures")}
              </Button>
            </>
          )}
          {isExample && (
            <p className="reason reason-watch">
              {say("bench.an_example_nobody_read_these_figures")}{" "}
              <button type="button" className="quiet" onClick={clear}>
                {say("bench.clear_the_bench")}
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
          <h2>{say("bench.the_reading")}</h2>
          <BandPicture ask={ask} value={ask.reading.value} verdict={ask.verdict} />
          <Verdicts ask={ask} all={false} />
          <p className="source">{say("common.expected", { expected_because: ask.expected_because })}</p>
        </>
      )}
      {ask.reading === null && ask.expected_text !== "" && (
        <p className="bench-line">{rich("bench.expect_now", { expected_text: <b>{ask.expected_text}</b> })}</p>
      )}
      <p className="caution">{say("bench.a_string_is_live_in_daylight")}</p>
      <JudgementList judgements={[...string.judgements, ...tracker.judgements, ...whole]} allOpen={false} />
    </>
  );
}
