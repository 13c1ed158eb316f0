import { Button } from "antd";
import { useEffect, useState, useSyncExternalStore } from "react";
import { useCoreHere } from "../shared/hand/core";
import { Mark } from "../shared/marks/Mark";
import { judgedApart, letGo, tryAgain, watchOutbox } from "../shared/outbox/outbox";
import type { Contest, Waiting } from "../shared/outbox/store";
import { useRoom } from "../shared/outbox/room";
import { useOutbox } from "../shared/outbox/useOutbox";
import { useSignal } from "../shared/outbox/signal";
import "./OnThisDevice.css";

function counted(every: Waiting[]): string {
  const count = every.length;
  const what = every.every(({ press }) => "reading" in press || "clear_sky" in press) ? "reading" : "entry";
  return `${count} ${count === 1 ? what : what.replace(/y?$/, (end) => (end === "y" ? "ies" : "s"))} on this device`;
}

/** One line in the head while there is no signal, or while something is only on this device. */
export function OnThisDevice({ name }: { name: string }) {
  const signal = useSignal();
  const every = useOutbox();
  const [open, setOpen] = useState(false);
  const mine = every.filter((one) => one.person === name);
  const others = every.length - mine.length;
  const refused = mine.filter((one) => one.refused !== "");
  const contested = mine.filter((one) => one.contest !== null);
  const onTheirWay = mine.filter((one) => one.refused === "" && one.contest === null);
  const apart = useSyncExternalStore(watchOutbox, judgedApart, judgedApart);
  const core = useCoreHere();
  const lasting = useLasting(every.length > 0);
  const room = useRoom(every.length);
  if (signal && apart === "" && room === "" && !lasting) return null;
  const said = [
    signal ? "" : "No signal",
    apart,
    room,
    !signal && core !== "" ? `judged here, core ${core}` : "",
    onTheirWay.length > 0 ? counted(onTheirWay) : "",
    contested.length > 0 ? `${contested.length} changed by somebody else too: choose` : "",
    refused.length > 0 ? `${refused.length} not taken by the server` : "",
    others > 0 ? `${others} of somebody else, who signs in to send them` : "",
  ].filter((one) => one !== "");
  return (
    <section className="on-device" aria-label="On this device">
      <p role="status">
        {said.join(" · ")}
        {every.length > 0 && (
          <button type="button" className="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? "put away" : "look"}
          </button>
        )}
      </p>
      {open && (
        <ul>
          {every.map((one) => (
            <Line key={one.id} one={one} />
          ))}
        </ul>
      )}
    </section>
  );
}

function Line({ one }: { one: Waiting }) {
  const noted = new Date(one.notedAt);
  const file = URL.createObjectURL(new Blob([JSON.stringify(one, null, 1)], { type: "application/json" }));
  return (
    <li>
      <b>{one.said}</b> {one.person}, {noted.toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })}
      {one.refused !== "" && (
        <>
          <p className="reason reason-stop">{one.refused}</p>
          <Button onClick={() => void tryAgain(one)}>Send it again</Button>{" "}
          <a className="quiet" href={file} download={`pressed-${one.id}.json`}>
            save as a file
          </a>{" "}
          <button type="button" className="quiet" onClick={() => void letGo(one)}>
            let it go
          </button>
        </>
      )}
      {one.contest !== null && <Choice one={one} contest={one.contest} />}
    </li>
  );
}

/** A change that two people made otherwise: nothing happens by itself. */
function Choice({ one, contest }: { one: Waiting; contest: Contest }) {
  return (
    <div className="contest">
      {contest.met.map((met) => (
        <p key={met.path}>
          {met.what}: mine {met.mine}, theirs {met.theirs}
        </p>
      ))}
      {contest.refused !== "" && <p className="reason reason-stop">Mine cannot be made there now: {contest.refused}</p>}
      <div className="choices">
        {contest.mine !== "" && (
          <Button onClick={() => void tryAgain(one)}>
            Mine <Mark verdict={contest.mine} />
          </Button>
        )}
        <Button onClick={() => void letGo(one)}>
          Theirs <Mark verdict={contest.theirs} />
        </Button>
      </div>
    </div>
  );
}

/** What is on its way for a moment only is no news. */
const MOMENT_MS = 1_200;

function useLasting(now: boolean): boolean {
  const [lasting, setLasting] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLasting(now), now ? MOMENT_MS : 0);
    return () => clearTimeout(timer);
  }, [now]);
  return now && lasting;
}
