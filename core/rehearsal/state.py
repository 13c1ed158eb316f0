"""The plant while it is played: its switches, its clocks, and what follows from them."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from core.base.glossary import LightState
from core.base.messages import say
from core.job.sequences import Position, SwitchId
from core.rehearsal.plant import Plant

Weight = Literal["note", "good", "look", "harm"]
# From supply and sun until the inverter begins to watch.
BOOT_S = 20
RAMP_S = 60
CONTROLLER_S = 180
MOST_EVENTS = 200


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
class State:
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
