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
import "./talk.css";

const STAGE = 6;
const FACES = ["site", "ports", "pair", "ladder", "account", "after"] as const;
type Face = (typeof FACES)[number];
const GROUPS: readonly Group[] = [
  { title: "To be had before setting out", kinds: ["talk_ready"] },
  { title: "Signal at its place", kinds: ["signal_dbm"] },
  { title: "Inside, dead", kinds: ["board_in", "pins_seen", "bus_ohm"] },
  { title: "Outside, closing", kinds: ["end_resistor", "drain_wire", "entry_closed"] },
  { title: "Network and access", kinds: ["network_answers", "controller_up", "default_replaced"] },
  { title: "Pages and grid setting", kinds: ["page_saved", "grid_by_name"] },
  { title: "Meter and export", kinds: ["meter_load", "meter_reads", "export_limit"] },
  { title: "Signals of the operator", kinds: ["signal_before", "signal_at", "signal_after"] },
  { title: "Pairing", kinds: ["activation_in", "pairing_began", "report_count", "chain_count"] },
  { title: "Way to the portal", kinds: ["status_row", "account_step"] },
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
      title="Talk"
      about={talk.line}
      aside={talk.planned ? `${talk.school_said}${talk.way === "" ? "" : ` · way out: ${talk.way}`}` : ""}
      caution={[
        "Inside a compartment only with supply and DC OFF, locked and proved dead.",
        "Signal lines keep apart from power. Touch metal before a board.",
        "What is set here may let it feed: licensed work; the device's sheet and your local code win.",
      ].join(" ")}
      rail={
        <>
          <ol className="talk-groups">
            {talk.groups
              .filter((one) => one.asks.length > 0)
              .map((one) => (
                <li key={one.id} className={`gate-${one.gate.verdict}`}>
                  <b>{one.title}</b>
                  <span>
                    {one.done} of {one.asks.length}
                  </span>
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
        <section className="talk-begin" aria-label="Begin">
          <p>
            Nobody has planned yet how the devices of this house talk. A plan begins with the devices that this job has,
            and with what they must tell each other.
          </p>
          <Button type="primary" loading={edit.isPending} onClick={() => edit.mutate({ do: "begin_talk" })}>
            Begin with this job's devices
          </Button>
          <ProblemNote error={edit.error} />
          <Example begins="Each function gets its port and its pins; each device its way to the portal, rung by rung.">
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
