import { Button } from "antd";
import { useState } from "react";
import type { Schemas } from "../../shared/api/types";
import { useEdit } from "../../shared/api/useJobWrite";
import { JudgementList } from "../../shared/judging/JudgementList";
import { ProblemNote } from "../../shared/judging/ProblemNote";
import { Mark } from "../../shared/marks/Mark";
import { PinPicture } from "./PinPicture";
import { PortShape } from "./PortShape";
import { WirePanel } from "./WirePanel";
import type { TalkFaceProps } from "./props";
import { say } from "../../words/say";

type Wire = Schemas["WireState"];

/** The housings seen from below: a function is put on a port by drag, by touch or by keys. */
export function PortsFace({ jobId, view, whyAll, take }: TalkFaceProps) {
  const { talk } = view.assessment;
  const [held, setHeld] = useState<string | null>(null);
  const [opened, setOpened] = useState<string | null>(null);
  const [made, setMade] = useState(false);
  const edit = useEdit(jobId);
  const place = (wire: string, device: string, port: string) => {
    setHeld(null);
    edit.mutate({ do: "place_talk_wire", wire, device, port }, { onSuccess: () => setOpened(`${device} · ${port}`) });
  };
  const wire = talk.wires.find((one) => one.name === held);
  const port = talk.devices.flatMap((one) => one.ports).find((one) => one.key === opened);
  const shown = talk.wires.filter((one) => port?.wires.includes(one.name) ?? false);
  return (
    <>
      <section className="wires" aria-label={say("talk.what_goes_on_a_port")}>
        <div className="wire-chips">
          {talk.wires.map((one) => (
            <Chip key={one.name} wire={one} held={held === one.name} hold={setHeld} />
          ))}
          <button type="button" className="quiet" onClick={() => setMade(!made)}>
            {made ? say("talk.not_now") : say("talk.one_more_function")}
          </button>
        </div>
        {made && <WirePanel jobId={jobId} view={view} wire={null} whyAll={whyAll} done={() => setMade(false)} />}
        {talk.offer !== null && (
          <p className={talk.offer.fits ? "offer" : "offer offer-not"}>
            <span>{talk.offer.line}</span>
            {talk.offer.fits && talk.wires.some((one) => one.port === "" || isOpen(one)) && (
              <Button loading={edit.isPending} onClick={() => edit.mutate({ do: "take_port_offer" })}>
                {say("talk.put_all_where_they_fit")}
              </Button>
            )}
          </p>
        )}
        <p className="roof-hint" role="status">
          {wire === undefined
            ? say("talk.touch_a_function_then_the_port")
            : say("talk.ports_that_take_it_are_marked", { wire: wire.name, title: wire.title })}
        </p>
        <ProblemNote error={edit.error} />
      </section>
      <div className="housings">
        {talk.devices.filter(standsAlone(talk.devices)).map((one) => {
          const inner = talk.devices.filter((each) => each.of === one.name && each.name !== one.name && hasPorts(each));
          const own = [one, ...inner].flatMap((each) => each.ports).some((each) => each.key === opened);
          return (
            <div key={one.name}>
              <section className="housing" aria-label={say("talk.seen_from_below", { name: one.name })}>
                {[one, ...inner].map((each) => (
                  <div key={each.name} className={each === one ? undefined : "inner"}>
                    <header>
                      <h3>{each.name}</h3>
                      <span>
                        {each.label}
                        {each === one ? say("talk.seen_from_below_2") : say("talk.inside", { name: one.name })}
                      </span>
                      <Mark verdict={each.verdict} />
                    </header>
                    <ul>
                      {each.ports.map((face) => (
                        <li key={face.key}>
                          <button
                            type="button"
                            className={portClass(face, held)}
                            aria-pressed={opened === face.key}
                            aria-label={say("talk.takes", {
                              face: face.name,
                              on: face.on.join(", ") || say("common.nothing"),
                              words: face.words.join(", "),
                            })}
                            onClick={() =>
                              held === null
                                ? setOpened(opened === face.key ? null : face.key)
                                : place(held, each.name, face.name)
                            }
                            onKeyDown={(event) => event.key === "Escape" && setHeld(null)}
                            onDragOver={(event) => event.preventDefault()}
                            onDrop={(event) => place(event.dataTransfer.getData("text/plain"), each.name, face.name)}
                          >
                            <PortShape port={face} />
                            <b>{face.name}</b>
                            <span>{face.on.length > 0 ? face.on.join(", ") : face.words.join(", ")}</span>
                            <Mark verdict={face.verdict} word={false} />
                          </button>
                        </li>
                      ))}
                    </ul>
                  </div>
                ))}
              </section>
              {own && port !== undefined && (
                <section className="port-open" aria-label={port.key}>
                  <header>
                    <h2>{port.key}</h2>
                    <span>{port.connector}</span>
                    <button type="button" className="quiet" onClick={() => take(`entry_closed/${port.key}`)}>
                      {say("talk.close_its_entry")}
                    </button>
                  </header>
                  <p className="source">
                    {port.make === ""
                      ? say("talk.the_sheet_says_nothing_of_how")
                      : say("talk.made_so", { make: port.make })}
                  </p>
                  {port.pins.length > 0 && <PinPicture port={port} />}
                  <JudgementList judgements={port.judgements} allOpen={whyAll} />
                  {shown.map((wire) => (
                    <WirePanel key={wire.name} jobId={jobId} view={view} wire={wire} whyAll={whyAll} />
                  ))}
                </section>
              )}
            </div>
          );
        })}
      </div>
      {talk.bus !== null && <BusPanel bus={talk.bus} whyAll={whyAll} />}
    </>
  );
}

type Talker = Schemas["TalkerState"];

const hasPorts = (one: Talker) => one.ports.length > 0;
/** A board is drawn in the housing that it sits in; everything else has one of its own. */
const standsAlone = (all: Talker[]) => (one: Talker) =>
  hasPorts(one) && (one.of === one.name || !all.some((each) => each.name === one.of));
const portClass = (port: Schemas["PortState"], held: string | null) =>
  ["port", held !== null && port.fits.includes(held) ? "port-fits" : "", port.on.length > 0 ? "port-used" : ""].join(
    " ",
  );

const isOpen = (wire: Wire) => wire.far_port === "" && wire.far_ports.length > 0;

function Chip({ wire, held, hold }: { wire: Wire; held: boolean; hold: (name: string | null) => void }) {
  const placed = wire.port !== "" && !isOpen(wire);
  return (
    <button
      type="button"
      className={`chip${placed ? " chip-placed" : ""}`}
      aria-pressed={held}
      draggable
      onDragStart={(event) => {
        event.dataTransfer.setData("text/plain", wire.name);
        hold(wire.name);
      }}
      onDragEnd={() => hold(null)}
      onClick={() => hold(held ? null : wire.name)}
      onKeyDown={(event) => event.key === "Escape" && hold(null)}
    >
      <b>{wire.name}</b>
      <span>{wire.line}</span>
      <Mark verdict={wire.verdict} word={false} />
    </button>
  );
}

function BusPanel({ bus, whyAll }: { bus: Schemas["BusState"]; whyAll: boolean }) {
  return (
    <section aria-label={say("talk.bus")}>
      <h2>{say("talk.bus")}</h2>
      <ol className="bus-line">
        {bus.order.map((name, at) => (
          <li key={name}>
            <b>{name}</b>
            {bus.resistors.includes(name) && <i>{say("talk.end_resistor")}</i>}
            {at < bus.lengths_m.length && (
              <span>{bus.lengths_m[at] === null ? say("talk.length") : `${String(bus.lengths_m[at])} m`}</span>
            )}
          </li>
        ))}
      </ol>
      <p className="source">
        {say("talk.ports", {
          ports: bus.ports,
          loggers: bus.loggers > 0 && say("talk.logger", { loggers: bus.loggers }),
          pages: bus.pages > 0 && say("talk.page_of_the_portal", { pages: bus.pages }),
        })}
      </p>
      <JudgementList judgements={bus.judgements} allOpen={whyAll} />
    </section>
  );
}
