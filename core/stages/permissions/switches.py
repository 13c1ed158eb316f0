"""Where each switch stands: one fact, from the latest word on it wherever that was given."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime

from core.job.job import Job
from core.job.microinverter import SWAP_STEPS
from core.job.readings import Reading, superseded_ids
from core.job.sequences import SWITCHES, Position, SwitchId, known_steps
from core.planning.wake.order import fitted

# A switch of the plant; a branch by its own name.
Switch = SwitchId | str
BRANCH: SwitchId = "branch"
# What is put OFF when the AC side is made dead, and when its supply is opened for a trial.
AC_SIDE: tuple[SwitchId, ...] = ("breaker", "ac", "branch")
LOSS: dict[str, Position] = {"opened": "OFF", "closed": "ON"}


@dataclass(frozen=True, kw_only=True)
class Said:
    """Where a switch was last said to stand, and when."""

    to: Position
    at: datetime


@dataclass(frozen=True, kw_only=True)
class Moved:
    """One word on a switch: which, where to, when."""

    switch: Switch
    to: Position
    at: datetime


@dataclass(frozen=True, kw_only=True)
class Positions:
    """Every word on every switch in the order of time, and where each stands by the last."""

    moves: tuple[Moved, ...]
    last: dict[Switch, Said]

    def of(self, switch: Switch) -> Position | None:
        """Where a switch stands; None while nobody said."""
        said = self.last.get(switch)
        return said.to if said else None

    def branches_on(self) -> frozenset[str]:
        """The names of the branches that are ON."""
        return frozenset(
            switch.removeprefix(f"{BRANCH} ")
            for switch, said in self.last.items()
            if switch.startswith(f"{BRANCH} ") and said.to == "ON"
        )

    def last_on(self) -> Moved | None:
        """The last time that any switch was put ON."""
        return next((one for one in reversed(self.moves) if one.to == "ON"), None)


def branch_switch(name: str) -> str:
    """What the breaker of one branch is called among the switches."""
    return f"{BRANCH} {name}"


def positions(job: Job) -> Positions:
    """Every switch by the last step, statement or reading that moved it."""
    superseded = superseded_ids(job.readings)
    branch_of = (
        {unit: one.name for one in job.micro.branches for unit in one.units} if job.micro else {}
    )
    counting = (one for one in job.readings if one.kind in MOVERS and one.id not in superseded)
    moves = tuple(
        Moved(switch=switch, to=to, at=reading.taken_at)
        for reading in sorted(counting, key=lambda one: one.taken_at)
        for switch, to in MOVERS[reading.kind](reading, branch_of)
    )
    every = [branch_switch(one.name) for one in job.micro.branches] if job.micro else []
    last: dict[Switch, Said] = {}
    for one in moves:
        # What is said of all branches is said of each.
        for switch in (one.switch, *(every if one.switch == BRANCH else ())):
            last[switch] = Said(to=one.to, at=one.at)
    if every:
        last.update(_together(last, every))
    return Positions(moves=moves, last=last)


def dc_path(job: Job) -> tuple[SwitchId, ...]:
    """The switches between the strings and a wall inverter that this plant has."""
    return ("plugs", "roof", "dc") if "roof_isolator" in fitted(job) else ("plugs", "dc")


def ac_path(job: Job) -> tuple[SwitchId, ...]:
    """The switches between a wall inverter and the supply that this plant has."""
    return ("breaker", "ac") if "ac_isolator" in fitted(job) else ("breaker",)


def all_on(job: Job, switches: tuple[SwitchId, ...]) -> bool:
    """Whether each of them was last said to be ON."""
    stands = positions(job)
    return all(stands.of(switch) == "ON" for switch in switches)


def _together(last: dict[Switch, Said], every: list[str]) -> Iterator[tuple[Switch, Said]]:
    """All branches as one switch: ON with the first that is, OFF once each is said to be."""
    said = [last[one] for one in every if one in last]
    on = [one for one in said if one.to == "ON"]
    if on:
        yield BRANCH, max(on, key=lambda one: one.at)
    elif said and len(said) == len(every):
        yield BRANCH, max(said, key=lambda one: one.at)


Moves = Iterator[tuple[Switch, Position]]


def _switch_stands(reading: Reading, _: dict[str, str]) -> Moves:
    if reading.subject in SWITCHES:
        yield reading.subject, "ON" if reading.is_good else "OFF"


def _dc_switch(reading: Reading, _: dict[str, str]) -> Moves:
    yield "dc", "OFF" if reading.is_good else "ON"


def _branch_on(reading: Reading, _: dict[str, str]) -> Moves:
    yield branch_switch(reading.subject), "ON" if reading.is_good else "OFF"


def _wake_step(reading: Reading, _: dict[str, str]) -> Moves:
    move = known_steps()[reading.subject.rpartition(" ")[2]].move
    if reading.is_good and move:
        yield move.switch, move.to


def _dead_step(reading: Reading, _: dict[str, str]) -> Moves:
    """Read OFF while a supply was made dead; what is said not to be OFF may be ON."""
    to: Position = "OFF" if reading.is_good else "ON"
    if reading.subject == "dc_off":
        yield "dc", to
    elif reading.subject == "ac_off":
        for switch in AC_SIDE:
            yield switch, to


def _swap_step(reading: Reading, branch_of: dict[str, str]) -> Moves:
    """A swap begins with the branch OFF and locked."""
    unit, _, step = reading.subject.partition(" ")
    if step == SWAP_STEPS[0] and reading.is_good and unit in branch_of:
        yield branch_switch(branch_of[unit]), "OFF"


def _loss_moment(reading: Reading, _: dict[str, str]) -> Moves:
    """The trial opens and closes the isolator of the AC side."""
    if reading.subject in LOSS and reading.is_good:
        yield "ac", LOSS[reading.subject]


MOVERS = {
    "switch_stands": _switch_stands,
    "dc_switch": _dc_switch,
    "branch_on": _branch_on,
    "wake_step": _wake_step,
    "dead_step": _dead_step,
    "swap_step": _swap_step,
    "loss_moment": _loss_moment,
}
