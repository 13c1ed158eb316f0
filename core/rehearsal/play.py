"""Playing a rehearsal: every switch may be moved in any order, and what follows shows.

A second at a time, the same for the same seed and the same moves. Nothing of it is a reading.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from core.base.form import Checked
from core.base.glossary import Name
from core.base.messages import figure, say
from core.base.quantity import Quantity
from core.job.sequences import Position, SwitchId
from core.rehearsal.harm import check_after, check_before
from core.rehearsal.plant import PAIRED, Plant
from core.rehearsal.state import BOOT_S, LightSeen, Shown, Stands, State

LONGEST_S = 4 * 3600


@dataclass(frozen=True, kw_only=True)
class Act(Checked):
    """One thing done in a rehearsal: a switch moved, or a step said to be seen."""

    at_s: Annotated[float, Quantity("moment", "s", 0, LONGEST_S)]
    switch: SwitchId | None = None
    to: Position = "ON"
    seen: Name | None = None


def play(plant: Plant, acts: tuple[Act, ...], until_s: float) -> Shown:
    """The plant after these acts, that many seconds in."""
    state = State(plant=plant)
    left = sorted(acts, key=lambda act: act.at_s)
    end_s = int(min(until_s, LONGEST_S))
    for second in range(end_s + 1):
        state.at_s = float(second)
        while left and left[0].at_s <= second:
            _do(state, left.pop(0))
        light = state.light
        if not state.lights or state.lights[-1].light != light:
            state.lights.append(LightSeen(at_s=state.at_s, light=light))
        if second < end_s:
            _pass(state)
    return Shown(
        at_s=state.at_s,
        light=state.light,
        # Strings are live in daylight, plugged in or not.
        string_v=state.string_v,
        supply_v=state.supply_v,
        terminal_v=state.terminal_v if state.ac else 0.0,
        power_w=state.power_w,
        watch_left_s=max(plant.observe_s - state.watched_s, 0.0) if state.watched_s else 0.0,
        charge_left_s=max(plant.charge_s - state.charged_s, 0.0) if state.on("safety") else 0.0,
        harmed=state.harmed,
        positions=tuple(Stands(switch=one, to=to) for one, to in state.positions.items()),
        events=tuple(state.events),
        lights_seen=tuple(state.lights),
    )


# -- a switch is moved


def _do(state: State, act: Act) -> None:
    if act.seen == PAIRED and state.pairing_s >= state.plant.pair_s:
        state.paired = True
    if act.switch is None or state.positions.get(act.switch) == act.to:
        return
    before = check_before(state, act.switch, act.to)
    state.positions[act.switch] = act.to
    name = say("switch_names", act.switch)
    if not before:
        state.tell("note", "moved", switch=name, to=act.to)
    check_after(state, act.switch, act.to)


# -- a second passes


def _pass(state: State) -> None:
    state.charged_s = state.charged_s + 1 if state.on("safety") else 0.0
    powered = state.on("breaker") and state.plant.is_backup
    state.controller_s = state.controller_s + 1 if powered else 0.0
    if not (state.ac and state.starts):
        _stop(state)
        return
    state.pairing_s = state.pairing_s + 1 if state.light == "pairing" else state.pairing_s
    state.awake_s += 1
    unpaired = "optimisers" in state.plant.has and not state.paired
    if state.awake_s < BOOT_S or unpaired:
        return
    if state.terminal_v > state.plant.trip_v:
        _over(state)
        return
    state.over_s = 0.0
    if state.feeding:
        state.feeding_s += 1
        return
    if state.watched_s == 0:
        state.tell("note", "watching", time=figure(state.plant.observe_s, "s"))
    state.watched_s += 1
    if state.watched_s >= state.plant.observe_s:
        state.watched_s, state.feeding_s = 0.0, 1.0
        state.tell("good", "feeding")


def _over(state: State) -> None:
    """Above the trip: it may stay so for a moment, then it stops and watches again."""
    state.over_s += 1
    if state.feeding and state.over_s >= state.plant.trip_s:
        volts, trip = figure(state.terminal_v, "V"), figure(state.plant.trip_v, "V")
        state.tell("look", "trip", volts=volts, trip=trip)
        state.feeding_s = state.watched_s = state.over_s = 0.0
    elif not state.feeding:
        state.watched_s = 0.0


def _stop(state: State) -> None:
    if state.feeding:
        state.tell("note", "stopped")
    state.awake_s = state.watched_s = state.feeding_s = state.over_s = 0.0
