"""What a hand does wrong in the moment of moving a switch, and what follows once it is moved."""

from __future__ import annotations

from collections.abc import Callable

from core.base.messages import figure
from core.job.sequences import Position, SwitchId
from core.rehearsal.state import CONTROLLER_S, State

# From loss of supply until the inverter stops.
STOP_S = 1
# A battery switched on too early locks itself for this long.
LOCKED_S = 300
# A plug parted with less than this in it leaves no arc that stands.
ARC_A = 0.5


def check_before(state: State, switch: SwitchId, to: Position) -> bool:
    """What goes wrong in the moment of moving. Says whether something did."""
    check = BEFORE.get(switch)
    count = len(state.events)
    if check is not None:
        check(state, to)
    return len(state.events) > count


def _plugs(state: State, to: Position) -> None:
    if not state.on("dc"):
        return
    if to == "OFF":
        if state.dc_a >= ARC_A:
            amps = figure(state.dc_a, "A")
            state.tell("harm", "arc", volts=figure(state.string_v, "V", 0), amps=amps)
        else:
            state.tell("look", "plug_no_load")
    elif state.string_v > 0:
        state.tell("look", "spark", volts=figure(state.string_v, "V", 0))


def _leads(state: State, to: Position) -> None:
    if not state.on("branch"):
        return
    if to == "OFF" and state.dc_a >= ARC_A:
        state.tell(
            "harm", "arc", volts=figure(state.string_v, "V", 0), amps=figure(state.dc_a, "A")
        )
    else:
        state.tell("look", "leads_live")


def _drop(state: State, to: Position) -> None:
    if state.on("branch"):
        state.tell("harm", "drop_live", volts=figure(state.supply_v, "V", 0))


def _battery_plug(state: State, to: Position) -> None:
    if state.on("battery"):
        state.tell("harm", "battery_plug_live")
    elif state.on("dc"):
        state.tell("look", "battery_dc_on")


def _dc(state: State, to: Position) -> None:
    if to == "ON" and state.on("plugs") and state.string_v > state.plant.max_dc_v:
        volts, most = figure(state.string_v, "V", 0), figure(state.plant.max_dc_v, "V", 0)
        state.tell("harm", "over_dc", volts=volts, most=most)


def _battery(state: State, to: Position) -> None:
    if to == "ON" and (state.controller_s < CONTROLLER_S or not state.on("battery_breaker")):
        state.locked_until_s = state.at_s + LOCKED_S
        state.tell("look", "battery_early", minutes=figure(LOCKED_S / 60, "min"))


BEFORE: dict[SwitchId, Callable[[State, Position], None]] = {
    "plugs": _plugs,
    "leads": _leads,
    "drop": _drop,
    "battery_plug": _battery_plug,
    "dc": _dc,
    "battery": _battery,
}


def check_after(state: State, switch: SwitchId, to: Position) -> None:
    """What follows once a switch stands where it was put."""
    if to == "OFF" and switch in ("breaker", "ac", "branch"):
        if state.feeding:
            volts = figure(state.supply_v, "V", 0)
            state.tell("look", "back_feed", volts=volts, time=figure(STOP_S, "s"))
        if switch == "breaker" and state.on("battery"):
            state.tell("look", "backed_up_live", volts=figure(state.plant.supply_v, "V", 0))
    if to == "ON" and switch == "dc" and state.on("plugs"):
        if not state.safety_closed:
            state.tell("look", "safety_open")
        elif state.dc_reaches and not state.starts:
            volts, start = figure(state.string_v, "V", 0), figure(state.plant.start_v, "V", 0)
            state.tell("look", "no_start", volts=volts, start=start)
