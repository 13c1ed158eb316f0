import { useCallback, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { energyPathUrl } from "../../shared/api/urls";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProfilePick } from "../../shared/fields/ProfilePick";
import { Rail } from "../../shared/readings/Rail";
import { useFace } from "../../shared/layout/useFace";
import { StageFrame, type StageProps } from "../../shared/layout/StageFrame";
import { figure } from "../../shared/lib/figures";
import { BackupPanel } from "./BackupPanel";
import { DcPanel } from "./DcPanel";
import { DevicePanel } from "./DevicePanel";
import { Ends } from "./Ends";
import { EnergyPath } from "./EnergyPath";
import { JoinTo } from "./JoinTo";
import { LadderBench } from "./LadderBench";
import { OtherSources } from "./OtherSources";
import { RunPanel } from "./RunPanel";
import { SafetyPanel } from "./SafetyPanel";
import { StringRun } from "./StringRun";
import { Ways } from "./Ways";
import { SERVICES } from "./words";
import { rich, say } from "../../words/say";
import "./FeedStage.css";

const STAGE = 5;
const BENCHES = [
  ["ladder", say("feed.ladder_of_volts")],
  ["dc", say("feed.dc_switching")],
  ["ways", say("feed.ways")],
  ["ends", say("feed.ends_and_torque")],
  ["backup", say("feed.backup")],
  ["others", say("feed.other_sources")],
  ["safety", say("feed.supply_and_safety")],
] as const;
type Bench = (typeof BENCHES)[number][0];
const IDS = BENCHES.map(([id]) => id);
const GROUPS = [
  { title: say("feed.supply_made_dead"), kinds: ["dead_step"] },
  { title: say("feed.supply_voltage"), kinds: ["supply_voltage"] },
  { title: say("feed.switches_before_wiring"), kinds: ["line_side", "isolator_up"] },
  { title: say("feed.ends_torque_and_pull"), kinds: ["torque", "pull"] },
  { title: say("feed.loop_and_lids"), kinds: ["loop_impedance", "lid"] },
];

/** What is entered of a device itself. */
const FIELDS_OF = [
  ["supply", ["supply_service", "own_phase"]],
  ["board", ["breaker", "supply_breaker", "busbar"]],
] as const;
const OF_A_STRING = ["home_run", "home_run_of"];
const OF_A_RUN = ["outside", "run_figures", "board", "ac_isolator"];

/** Stage 5: the energy path, and the bench of what was touched on it. */
export default function FeedStage({ jobId, view, whyAll }: StageProps) {
  const { assessment, plan } = view;
  const { feed: stage } = assessment;
  const [bench, showBench] = useFace<Bench>(IDS, "ladder");
  // A run, a device or a string that was touched on the path.
  const [picked, pick] = useState("");
  const [asked] = useSearchParams();
  const opened = picked === "" ? (partOf(asked.get("field"), plan) ?? bench) : picked;
  const setOpened = (what: string) => {
    const id = IDS.find((one) => one === what);
    pick(id === undefined ? what : "");
    if (id !== undefined) showBench(id);
  };
  const [taking, setTaking] = useState<string | null>(null);
  const seen = useCallback(() => setTaking(null), []);
  return (
    <StageFrame
      title={say("feed.feed")}
      about={stage.line}
      aside={say("feed.at_full_export_rules", {
        service: SERVICES[stage.service] ?? stage.service,
        export_w: figure(stage.export_w, "W", 0),
        design_a: figure(stage.design_a, "A"),
        name: assessment.rule_pack.name,
      })}
      caution={[
        say("feed.supply_dead_locked_and_proved_dead"),
        say("feed.dc_is_live_whenever_the_sun"),
        say("common.licensed_work_your_local_code_wins_over"),
      ].join(" ")}
      rail={
        <Rail
          jobId={jobId}
          every={assessment.asks}
          stage={STAGE}
          timezone={plan.site.timezone}
          whyAll={whyAll}
          groups={GROUPS}
          wanted={taking}
          seen={seen}
        />
      }
    >
      <EnergyPath path={stage.path} chosen={opened} open={setOpened} />
      <nav className="benches" aria-label={say("feed.benches")}>
        {BENCHES.filter(([what]) => what !== "dc" || stage.dc_switching !== null).map(([what, title]) => (
          <button key={what} type="button" aria-pressed={opened === what} onClick={() => setOpened(what)}>
            {title}
          </button>
        ))}
      </nav>
      <Opened jobId={jobId} view={view} whyAll={whyAll} opened={opened} open={setOpened} take={setTaking} />
      <header className="why-head path-whole">
        <h2>{say("feed.the_way_as_a_whole")}</h2>
        <span className="path-files">
          {rich("feed.drawing_as_pdf_svg_dxf", {
            a: (words) => <a href={energyPathUrl(jobId, "pdf")}>{words}</a>,
            a2: (words) => <a href={energyPathUrl(jobId, "svg")}>{words}</a>,
            a3: (words) => <a href={energyPathUrl(jobId, "dxf")}>{words}</a>,
          })}
        </span>
      </header>
      <div className="profile-row">
        <ProfilePick jobId={jobId} now={plan.grid.profile} />
      </div>
      <JudgementList judgements={stage.judgements} allOpen={whyAll} />
    </StageFrame>
  );
}

const part = (what: string, one: { name: string } | undefined) => one && `${what} ${one.name}`;

/** The device, run or string that has the field which a verdict led to. */
function partOf(field: string | null, { feed, strings }: StageProps["view"]["plan"]): string | undefined {
  if (field === null) return undefined;
  if (OF_A_STRING.includes(field)) return part("string", strings[0]);
  const run = part("run", feed.runs[0]);
  if (OF_A_RUN.includes(field)) return run;
  const kind = FIELDS_OF.find(([, fields]) => fields.some((one) => one === field))?.[0];
  const device = feed.devices.find((one) => one.kind === kind);
  // What is not there yet is put into a run.
  return kind && (part("device", device) ?? run);
}

interface OpenedProps extends StageProps {
  opened: string;
  open: (what: string) => void;
  take: (key: string) => void;
}

/** What was touched on the path, opened. */
function Opened({ jobId, view, whyAll, opened, open, take }: OpenedProps) {
  const { assessment, plan } = view;
  const { feed: stage } = assessment;
  const { feed } = plan;
  const [what, name] = [opened.split(" ", 1)[0], opened.slice(opened.indexOf(" ") + 1)];
  const run = feed.runs.find((one) => one.name === name);
  const runState = stage.runs.find((one) => one.name === name);
  const device = feed.devices.find((one) => one.name === name);
  const deviceState = stage.devices.find((one) => one.name === name);
  const string = plan.strings.find((one) => one.name === name);
  const stringState = stage.dc_runs.find((one) => one.string === name);
  if (what === "dc") return <DcPanel jobId={jobId} dc={feed.dc} stage={stage} whyAll={whyAll} />;
  if (what === "ways")
    return (
      <Ways
        jobId={jobId}
        ways={feed.containments}
        circuits={[...feed.runs.map((one) => one.name), ...stage.dc_runs.map((one) => one.name), "signal"]}
        states={stage.containments}
        whyAll={whyAll}
      />
    );
  if (what === "ends") return <Ends stage={stage} take={take} whyAll={whyAll} />;
  if (what === "backup")
    return (
      <BackupPanel
        jobId={jobId}
        backup={feed.backup ?? null}
        state={stage.backup}
        onRoof={plan.micro !== null}
        whyAll={whyAll}
      />
    );
  if (what === "safety") return <SafetyPanel jobId={jobId} facts={feed.safety} stage={stage} whyAll={whyAll} />;
  if (what === "others") return <OtherSources jobId={jobId} view={view} />;
  if (what === "earth")
    return (
      <p className="nothing">
        {rich("feed.the_earth_path_has_a_stage", { link: (words) => <Link to={`/jobs/${jobId}/earth`}>{words}</Link> })}
      </p>
    );
  if (what === "branch")
    return (
      <p className="nothing">
        {rich("feed.branches_trunk_and_map_have_a", {
          link: (words) => <Link to={`/jobs/${jobId}/string`}>{words}</Link>,
        })}
      </p>
    );
  if (what === "device" && device !== undefined && deviceState !== undefined)
    return (
      <DevicePanel
        key={opened}
        jobId={jobId}
        device={device}
        state={deviceState}
        feed={feed}
        open={open}
        whyAll={whyAll}
      />
    );
  if (what === "string" && string !== undefined && stringState !== undefined)
    return <StringRun key={opened} jobId={jobId} string={string} state={stringState} whyAll={whyAll} />;
  if (what === "run" && run !== undefined && runState !== undefined)
    return (
      <>
        <RunPanel key={opened} jobId={jobId} run={run} state={runState} feed={feed} open={open} whyAll={whyAll} />
        <LadderBench jobId={jobId} stage={stage} chosen={opened} open={open} />
      </>
    );
  const end = feed.devices.find((one) => one.kind === "inverter" || one.kind === "branches");
  const led = feed.runs.some((one) => one.start === end?.name || one.end === end?.name);
  return (
    <>
      <LadderBench jobId={jobId} stage={stage} chosen={opened} open={open} />
      {end !== undefined && !led && <JoinTo jobId={jobId} device={end} feed={feed} open={open} />}
    </>
  );
}
