"""Playing a rehearsal: every switch may be moved in any order, and what follows shows.

A second at a time, the same for the same seed and the same moves. Nothing of it is a reading.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Annotated, Literal

from core.form import Checked
from core.glossary import LightState, Name
from core.quantity import Quantity
from core.rehearsal.plant import PAIRED, Plant
from core.waking import Position, SwitchId
from core.words import figure, say

LONGEST_S = 4 * 3600
Weight = Literal["note", "good", "look", "harm"]
# From supply and sun until the inverter begins to watch; from loss of supply until it stops.
BOOT_S, STOP_S = 20, 1
RAMP_S = 60
CONTROLLER_S = 180
# After a trip the supply is watched again; a battery switched on too early locks itself.
LOCKED_S = 300
MOST_EVENTS = 200
# A plug parted with less than this in it leaves no arc that stands.
ARC_A = 0.5


@dataclass(frozen=True, kw_only=True)
class Act(Checked):
    """One thing done in a rehearsal: a switch moved, or a step said to be seen."""

    at_s: Annotated[float, Quantity("moment", "s", 0, LONGEST_S)]
    switch: SwitchId | None = None
    to: Position = "ON"
    seen: Name | None = None


@dataclass(frozen=True, kw_only=True)
class Event:
    """What happened, when, and how grave it is; `harm` would have hurt someone or broken it."""

    at_s: float
    weight: Weight
    text: str


@dataclass(frozen=True, kw_only=True)
class Stands:
    """A switch of the rehearsed plant and where it stands."""

    switch: SwitchId
    to: Position


@dataclass(frozen=True, kw_only=True)
class LightSeen:
    """What the lights showed from a moment on."""

    at_s: float
    light: LightState


@dataclass(frozen=True, kw_only=True)
class Shown:
    """What the plant shows at the end of the time played."""

    at_s: float
    light: LightState
    string_v: float
    supply_v: float
    terminal_v: float
    power_w: float
    watch_left_s: float
    charge_left_s: float
    harmed: bool
    positions: tuple[Stands, ...]
    events: tuple[Event, ...]
    lights_seen: tuple[LightSeen, ...]

    def stands(self, switch: SwitchId) -> Position:
        """Where a switch stands; OFF while nobody moved it."""
        return next((one.to for one in self.positions if one.switch == switch), "OFF")


@dataclass
class _State:
    """The plant while it is played."""

    plant: Plant
    positions: dict[SwitchId, Position] = field(default_factory=dict)
    events: list[Event] = field(default_factory=list)
    lights: list[LightSeen] = field(default_factory=list)
    at_s: float = 0.0
    awake_s: float = 0.0
    watched_s: float = 0.0
    feeding_s: float = 0.0
    over_s: float = 0.0
    charged_s: float = 0.0
    controller_s: float = 0.0
    locked_until_s: float = 0.0
    pairing_s: float = 0.0
    paired: bool = False
    harmed: bool = False

    def on(self, switch: SwitchId) -> bool:
        return self.positions.get(switch) == "ON"

    def tell(self, weight: Weight, key: str, **facts: str) -> None:
        if len(self.events) < MOST_EVENTS:
            text = say("rehearsal", key, **facts)
            self.events.append(Event(at_s=self.at_s, weight=weight, text=text))
        self.harmed = self.harmed or weight == "harm"

    # -- what follows from where the switches stand

    @property
    def ac(self) -> bool:
        """Whether the inverter has its supply."""
        if self.plant.is_micro:
            return self.on("branch") and self.positions.get("drop") != "OFF"
        closed = self.on("ac") or "ac_isolator" not in self.plant.has
        return self.on("breaker") and closed

    @property
    def safety_closed(self) -> bool:
        if "safety_switch" not in self.plant.has:
            return True
        return self.on("safety") and self.charged_s >= self.plant.charge_s

    @property
    def dc_reaches(self) -> bool:
        """Whether the strings reach the inverter."""
        if self.plant.is_micro:
            return self.on("leads")
        roof = self.on("roof") or "roof_isolator" not in self.plant.has
        return self.on("plugs") and roof and self.safety_closed and self.on("dc")

    @property
    def string_v(self) -> float:
        return self.plant.string_v[0]

    @property
    def starts(self) -> bool:
        """Whether there is enough on the DC side for the inverter to start."""
        return self.dc_reaches and self.string_v >= self.plant.start_v

    @property
    def feeding(self) -> bool:
        return self.feeding_s > 0

    @property
    def power_w(self) -> float:
        if not self.feeding:
            return 0.0
        full = min(self.plant.array_w * self.plant.sun_share(self.at_s), self.plant.rated_w)
        return full * min(self.feeding_s / RAMP_S, 1.0)

    @property
    def supply_v(self) -> float:
        return self.plant.supply_at(self.at_s)

    @property
    def terminal_v(self) -> float:
        share = self.power_w / self.plant.rated_w if self.plant.rated_w else 0.0
        return self.supply_v + self.plant.rise_v * share

    @property
    def dc_a(self) -> float:
        return self.plant.string_a * (self.power_w > 0)

    @property
    def light(self) -> LightState:
        if self.feeding:
            return "feeding"
        if self.plant.is_backup and self.controller_s >= CONTROLLER_S and not self.starts:
            return "starting"
        if self.starts and self.ac:
            if "optimisers" in self.plant.has and not self.paired:
                return "pairing"
            return "watching" if self.awake_s >= BOOT_S else "starting"
        if self.ac and not self.plant.is_micro:
            return "starting"
        return "waiting" if self.starts else "off"


def play(plant: Plant, acts: tuple[Act, ...], until_s: float) -> Shown:
    """The plant after these acts, that many seconds in."""
    state = _State(plant=plant)
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


def _do(state: _State, act: Act) -> None:
    if act.seen == PAIRED and state.pairing_s >= state.plant.pair_s:
        state.paired = True
    if act.switch is None or state.positions.get(act.switch) == act.to:
        return
    before = _check_before(state, act.switch, act.to)
    state.positions[act.switch] = act.to
    name = say("switch_names", act.switch)
    if not before:
        state.tell("note", "moved", switch=name, to=act.to)
    _check_after(state, act.switch, act.to)


def _check_before(state: _State, switch: SwitchId, to: Position) -> bool:
    """What goes wrong in the moment of moving. Says whether something did."""
    check = BEFORE.get(switch)
    count = len(state.events)
    if check is not None:
        check(state, to)
    return len(state.events) > count


def _plugs(state: _State, to: Position) -> None:
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


def _leads(state: _State, to: Position) -> None:
    if not state.on("branch"):
        return
    if to == "OFF" and state.dc_a >= ARC_A:
        state.tell(
            "harm", "arc", volts=figure(state.string_v, "V", 0), amps=figure(state.dc_a, "A")
        )
    else:
        state.tell("look", "leads_live")


def _drop(state: _State, to: Position) -> None:
    if state.on("branch"):
        state.tell("harm", "drop_live", volts=figure(state.supply_v, "V", 0))


def _battery_plug(state: _State, to: Position) -> None:
    if state.on("battery"):
        state.tell("harm", "battery_plug_live")
    elif state.on("dc"):
        state.tell("look", "battery_dc_on")


def _dc(state: _State, to: Position) -> None:
    if to == "ON" and state.on("plugs") and state.string_v > state.plant.max_dc_v:
        volts, most = figure(state.string_v, "V", 0), figure(state.plant.max_dc_v, "V", 0)
        state.tell("harm", "over_dc", volts=volts, most=most)


def _battery(state: _State, to: Position) -> None:
    if to == "ON" and (state.controller_s < CONTROLLER_S or not state.on("battery_breaker")):
        state.locked_until_s = state.at_s + LOCKED_S
        state.tell("look", "battery_early", minutes=figure(LOCKED_S / 60, "min"))


BEFORE: dict[SwitchId, Callable[[_State, Position], None]] = {
    "plugs": _plugs,
    "leads": _leads,
    "drop": _drop,
    "battery_plug": _battery_plug,
    "dc": _dc,
    "battery": _battery,
}


def _check_after(state: _State, switch: SwitchId, to: Position) -> None:
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


# -- a second passes


def _pass(state: _State) -> None:
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


def _over(state: _State) -> None:
    """Above the trip: it may stay so for a moment, then it stops and watches again."""
    state.over_s += 1
    if state.feeding and state.over_s >= state.plant.trip_s:
        volts, trip = figure(state.terminal_v, "V"), figure(state.plant.trip_v, "V")
        state.tell("look", "trip", volts=volts, trip=trip)
        state.feeding_s = state.watched_s = state.over_s = 0.0
    elif not state.feeding:
        state.watched_s = 0.0


def _stop(state: _State) -> None:
    if state.feeding:
        state.tell("note", "stopped")
    state.awake_s = state.watched_s = state.feeding_s = state.over_s = 0.0
