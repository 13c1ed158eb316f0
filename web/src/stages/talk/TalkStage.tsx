import { Button } from "antd";
import { useCallback, useState } from "react";
import { useEdit } from "../../shared/api/useJobWrite";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Example } from "../../shared/layout/Example";
import { Faces } from "../../shared/layout/Faces";
import { useFace } from "../../shared/layout/useFace";
import { StageFrame, type StageProps } from "../../shared/layout/StageFrame";
import { Rail, type Group } from "../../shared/readings/Rail";
import { AccountFace } from "./AccountFace";
import { AfterFace } from "./AfterFace";
import { LadderFace } from "./LadderFace";
import { PairFace } from "./PairFace";
import { PinPicture } from "./PinPicture";
import { PortsFace } from "./PortsFace";
import { SiteFace } from "./SiteFace";
import { WayPicture } from "./WayPicture";
import { say } from "../../words/say";
import "./talk.css";

const STAGE = 6;
const FACES = ["site", "ports", "pair", "ladder", "account", "after"] as const;
type Face = (typeof FACES)[number];
const GROUPS: readonly Group[] = [
  { title: say("talk.to_be_had_before_setting_out"), kinds: ["talk_ready"] },
  { title: say("talk.signal_at_its_place"), kinds: ["signal_dbm"] },
  { title: say("talk.inside_dead"), kinds: ["board_in", "pins_seen", "bus_ohm"] },
  { title: say("talk.outside_closing"), kinds: ["end_resistor", "drain_wire", "entry_closed"] },
  { title: say("talk.network_and_access"), kinds: ["network_answers", "controller_up", "default_replaced"] },
  { title: say("talk.pages_and_grid_setting"), kinds: ["page_saved", "grid_by_name"] },
  { title: say("talk.meter_and_export"), kinds: ["meter_load", "meter_reads", "export_limit"] },
  { title: say("talk.signals_of_the_operator"), kinds: ["signal_before", "signal_at", "signal_after"] },
  { title: say("talk.pairing"), kinds: ["activation_in", "pairing_began", "report_count", "chain_count"] },
  { title: say("talk.way_to_the_portal"), kinds: ["status_row", "account_step"] },
];

/** Stage 6: how the devices talk to each other, and the way out of the house. */
export default function TalkStage({ jobId, view, whyAll }: StageProps) {
  const { assessment, plan } = view;
  const { talk } = assessment;
  const [face, setFace] = useFace<Face>(FACES, "site");
  const [wanted, setWanted] = useState<string | null>(null);
  const seen = useCallback(() => setWanted(null), []);
  const edit = useEdit(jobId);
  const own = { jobId, view, whyAll, take: setWanted };
  return (
    <StageFrame
      title={say("talk.talk")}
      about={talk.line}
      aside={
        talk.planned ? `${talk.school_said}${talk.way === "" ? "" : say("talk.way_out_2", { way: talk.way })}` : ""
      }
      caution={[
        say("talk.inside_a_compartment_only_with_supply"),
        say("talk.signal_lines_keep_apart_from_power"),
        say("talk.what_is_set_here_may_let"),
      ].join(" ")}
      rail={
        <>
          <ol className="talk-groups">
            {talk.groups
              .filter((one) => one.asks.length > 0)
              .map((one) => (
                <li key={one.id} className={`gate-${one.gate.verdict}`}>
                  <b>{one.title}</b>
                  <span>{say("talk.of_3", { done: one.done, asksCount: one.asks.length })}</span>
                  <small>{one.gate.line}</small>
                </li>
              ))}
          </ol>
          <Rail
            jobId={jobId}
            every={assessment.asks}
            stage={STAGE}
            timezone={plan.site.timezone}
            whyAll={whyAll}
            groups={GROUPS}
            wanted={wanted}
            seen={seen}
          />
        </>
      }
    >
      <div className="faces">
        <Faces faces={FACES} face={face} show={setFace} />
      </div>
      {!talk.planned && (
        <section className="talk-begin" aria-label={say("talk.begin")}>
          <p>{say("talk.nobody_has_planned_yet_how_the")}</p>
          <Button type="primary" loading={edit.isPending} onClick={() => edit.mutate({ do: "begin_talk" })}>
            {say("talk.begin_with_this_jobs_devices")}
          </Button>
          <ProblemNote error={edit.error} />
          <Example begins={say("talk.each_function_gets_its_port_and")}>
            {({ assessment: { talk: shown } }) => (
              <>
                <WayPicture talk={shown} />
                {shown.devices
                  .flatMap((one) => one.ports)
                  .filter((port) => port.pins.length > 0)
                  .slice(0, 1)
                  .map((port) => (
                    <PinPicture key={port.key} port={port} />
                  ))}
              </>
            )}
          </Example>
        </section>
      )}
      {face === "site" && <SiteFace {...own} />}
      {face === "ports" && <PortsFace {...own} />}
      {face === "pair" && <PairFace {...own} />}
      {face === "ladder" && <LadderFace {...own} />}
      {face === "account" && <AccountFace {...own} />}
      {face === "after" && <AfterFace {...own} />}
    </StageFrame>
  );
}
