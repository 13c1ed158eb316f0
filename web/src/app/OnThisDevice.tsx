import { Button } from "antd";
import { useEffect, useState, useSyncExternalStore } from "react";
import { useCoreHere } from "../shared/hand/core";
import { Mark } from "../shared/marks/Mark";
import { judgedApart, letGo, tryAgain, watchOutbox } from "../shared/outbox/outbox";
import type { Contest, Waiting } from "../shared/outbox/store";
import { useRoom } from "../shared/outbox/room";
import { useOutbox } from "../shared/outbox/useOutbox";
import { useSignal } from "../shared/outbox/signal";
import { say } from "../words/say";
import { locale } from "../words/language";
import "./OnThisDevice.css";

function counted(every: Waiting[]): string {
  const count = every.length;
  const read = every.every(({ press }) => "reading" in press || "clear_sky" in press);
  return read ? say("app.readings_on_this_device", { count }) : say("app.entries_on_this_device", { count });
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
    signal ? "" : say("app.no_signal"),
    apart,
    room,
    !signal && core !== "" ? say("app.judged_here_core", { core }) : "",
    onTheirWay.length > 0 ? counted(onTheirWay) : "",
    contested.length > 0 ? say("app.changed_by_somebody_else_too_choose", { contestedCount: contested.length }) : "",
    refused.length > 0 ? say("app.not_taken_by_the_server", { refusedCount: refused.length }) : "",
    others > 0 ? say("app.of_somebody_else_who_signs_in", { others }) : "",
  ].filter((one) => one !== "");
  return (
    <section className="on-device" aria-label={say("common.on_this_device")}>
      <p role="status">
        {said.join(" · ")}
        {every.length > 0 && (
          <button type="button" className="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? say("common.put_away") : say("common.look")}
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
      <b>{one.said}</b> {one.person}, {noted.toLocaleString(locale, { dateStyle: "medium", timeStyle: "short" })}
      {one.refused !== "" && (
        <>
          <p className="reason reason-stop">{one.refused}</p>
          <Button onClick={() => void tryAgain(one)}>{say("app.send_it_again")}</Button>{" "}
          <a className="quiet" href={file} download={`pressed-${one.id}.json`}>
            {say("app.save_as_a_file")}
          </a>{" "}
          <button type="button" className="quiet" onClick={() => void letGo(one)}>
            {say("app.let_it_go")}
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
        <p key={met.path}>{say("app.mine_theirs", { what: met.what, mine: met.mine, theirs: met.theirs })}</p>
      ))}
      {contest.refused !== "" && (
        <p className="reason reason-stop">{say("app.mine_cannot_be_made_there_now", { refused: contest.refused })}</p>
      )}
      <div className="choices">
        {contest.mine !== "" && (
          <Button onClick={() => void tryAgain(one)}>
            {say("app.mine")} <Mark verdict={contest.mine} />
          </Button>
        )}
        <Button onClick={() => void letGo(one)}>
          {say("app.theirs")} <Mark verdict={contest.theirs} />
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
