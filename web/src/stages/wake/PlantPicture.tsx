import type { ActIn, Rehearsal } from "../../shared/api/types";
import { figure } from "../../shared/lib/figures";
import { Lamp } from "./Lamp";
import { SwitchShape } from "./SwitchShape";
import { say } from "../../words/say";
import "./PlantPicture.css";
import "./wake.css";

/** From the roof to the supply: the switches that stand on the way of each side, in the order of the way. */
const DC_WAY = ["leads", "plugs", "roof", "dc"];
const AC_WAY = ["drop", "branch", "ac", "breaker", "loads", "gateway"];
const OTHER = ["safety", "battery_plug", "battery_breaker", "battery"];

/** The plant as a line from sun to supply: every switch on it is moved by a touch. */
export function PlantPicture({ played, act }: { played: Rehearsal; act: (act: Omit<ActIn, "at_s">) => void }) {
  const { shown } = played;
  const way = (names: string[]) => names.flatMap((name) => played.switches.filter((one) => one.switch === name));
  const button = (one: Rehearsal["switches"][number]) => (
    <button
      key={one.switch}
      type="button"
      className={`plant-switch stands-${one.to}`}
      aria-label={`${one.title}, ${one.to}`}
      onClick={() => act({ switch: one.switch, to: one.to === "ON" ? "OFF" : "ON", seen: null })}
    >
      <SwitchShape position={one.to === "ON" ? "ON" : "OFF"} />
      <span>{one.title}</span>
      <b>{one.to}</b>
    </button>
  );
  const other = way(OTHER);
  return (
    <div className={shown.harmed ? "plant plant-harmed" : "plant"}>
      <div className="plant-way">
        <div className="plant-end plant-roof">
          <span>{say("wake.strings")}</span>
          <b>{figure(shown.string_v, "V", 0)}</b>
        </div>
        <div className="plant-side side-dc">{way(DC_WAY).map(button)}</div>
        <div className="plant-device">
          <Lamp shows={played.shows} />
          <b>{figure(shown.power_w, "W", 0)}</b>
          <span>{played.light_means}</span>
          {shown.watch_left_s > 0 && shown.light === "watching" && (
            <i>{say("wake.to_watch", { watch_left_s: figure(shown.watch_left_s, "s", 0) })}</i>
          )}
        </div>
        <div className="plant-side side-ac">{way(AC_WAY).map(button)}</div>
        <div className="plant-end plant-supply">
          <span>{say("common.supply")}</span>
          <b>{figure(shown.supply_v, "V")}</b>
          {shown.terminal_v > 0 && <i>{say("wake.inverter", { terminal_v: figure(shown.terminal_v, "V") })}</i>}
        </div>
      </div>
      {other.length > 0 && (
        <div className="plant-other">
          {other.map(button)}
          {shown.charge_left_s > 0 && (
            <i>{say("wake.safety_switch_charges_left", { charge_left_s: figure(shown.charge_left_s, "s", 0) })}</i>
          )}
        </div>
      )}
    </div>
  );
}
