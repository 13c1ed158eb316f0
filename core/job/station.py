"""A further wall inverter of the same house: its own plan, and everything read of it."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import TYPE_CHECKING, Annotated

from core.base.errors import Problem, problem
from core.base.form import Checked
from core.base.glossary import Identity, Note, Phase
from core.base.quantity import Items
from core.equipment.cables_switches_fixings import Breaker
from core.equipment.inverter import Inverter
from core.equipment.optimiser import Optimiser
from core.job.earthing import NOTHING_BONDED, Earthing
from core.job.feed import BOARDS, NOT_PARTED, BackupPlan, DcSwitching, FeedName
from core.job.grid import GridPlan
from core.job.leave import YieldLook
from core.job.microinverter import GatewayRead
from core.job.readings import Evidence, Reading, SettingsWritten
from core.job.roof import ModulePlace, place_text
from core.job.sequences import NOTHING_CHOSEN, StepOverride, Waking
from core.job.strings import StringPlan

if TYPE_CHECKING:
    from core.job.job import Job

UUID_FORM = re.compile(r"^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$")


@dataclass(frozen=True, kw_only=True)
class Station(Checked):
    """A further wall inverter of the same house: its own plan, and everything read of it.

    name: of its device in the feed. board: in which its breaker sits, beside those of others.
    phase: which a one-phase inverter feeds on a three-phase supply; 0 while that is not said.
    What it shares with the house stands in the job: site, roof, modules, wall, supply, rules.
    """

    id: Identity
    name: FeedName
    board: FeedName
    inverter: Inverter
    strings: Annotated[tuple[StringPlan, ...], Items("strings", 0, 400)] = ()
    grid: GridPlan
    optimiser: Optimiser | None = None
    variant: Note = ""
    dc: DcSwitching = NOT_PARTED
    backup: BackupPlan | None = None
    breaker: Breaker | None = None
    phase: Phase = 0
    earthing: Earthing = NOTHING_BONDED
    waking: Waking = NOTHING_CHOSEN
    readings: Annotated[tuple[Reading, ...], Items("readings", 0, 20_000)] = ()
    settings_written: Annotated[tuple[SettingsWritten, ...], Items("writes", 0, 2000)] = ()
    evidence: Annotated[tuple[Evidence, ...], Items("pictures and documents", 0, 2000)] = ()
    gateway_reads: Annotated[tuple[GatewayRead, ...], Items("looks at the gateway", 0, 2000)] = ()
    step_overrides: Annotated[tuple[StepOverride, ...], Items("locks overridden", 0, 500)] = ()
    yield_looks: Annotated[tuple[YieldLook, ...], Items("looks at the yield", 0, 500)] = ()

    def contradictions(self) -> Iterator[Problem]:
        trackers = len(self.inverter.trackers)
        for index, string in enumerate(self.strings):
            if string.tracker > trackers:
                allowed = f"1 to {trackers}, the trackers of this inverter"
                yield problem(f"$.strings[{index}].tracker", string.tracker, allowed)


def station_problems(job: Job) -> Iterator[Problem]:
    """Every inverter its own device, identity and address; every string and module once."""
    drawn = [one.name for one in job.feed.devices if one.kind == "inverter"]
    own = job.own_device is not None
    if len(drawn) - own != len(job.stations):
        said = "Every inverter is a device of the feed, and no device is an inverter of none."
        yield problem(
            "$.feed.devices", f"{len(drawn)} inverters", f"{len(job.stations) + own}", said
        )
    if not job.stations:
        return
    boards = [one.name for one in job.feed.devices if one.kind in BOARDS]
    ids, lines = [job.id], [_line(job.grid)]
    names = [one.name for one in job.feed.others or ()]
    for index, one in enumerate(job.stations):
        path, line = f"$.stations[{index}]", _line(one.grid)
        if one.id in ids or not UUID_FORM.match(one.id):
            yield problem(f"{path}.id", one.id, "a UUID in lower case, of no other inverter")
        if one.name not in drawn or one.name in names:
            yield problem(f"{path}.name", one.name, "a device of the feed, of no other inverter")
        if one.board not in boards:
            yield problem(f"{path}.board", one.board, " · ".join(boards) or "a planned board")
        if line is not None and line in lines:
            said = f"{one.grid.host} unit {one.grid.unit_id} is another inverter's address."
            yield problem(f"{path}.grid.host", one.grid.host, "an address of its own", said)
        ids, lines, names = [*ids, one.id], [*lines, line], [*names, one.name]
    for index, device in enumerate(job.wall.devices if job.wall else ()):
        if device.of and device.of not in ids:
            yield problem(f"$.wall.devices[{index}].of", device.of, "an inverter of this house")
    yield from _shared_roof(job)


def _shared_roof(job: Job) -> Iterator[Problem]:
    planes = {plane.name for plane in job.planes}
    strings = {one.name for one in job.strings}
    modules = {place for one in job.strings for place in one.places}
    if job.micro is not None:
        modules |= {place for unit in job.micro.units for place in unit.modules}
    for index, station in enumerate(job.stations):
        for number, string in enumerate(station.strings):
            path = f"$.stations[{index}].strings[{number}]"
            if string.plane not in planes:
                yield problem(f"{path}.plane", string.plane, " · ".join(sorted(planes)))
            if string.name in strings:
                yield problem(f"{path}.name", string.name, "a name of no other string here")
            yield from _twice(path, string, modules)
            strings.add(string.name)
            modules |= set(string.places)


def _twice(path: str, string: StringPlan, modules: set[ModulePlace]) -> Iterator[Problem]:
    for place in string.places:
        if place in modules:
            said = f"{place_text(place)} hangs on another inverter already."
            yield problem(f"{path}.places", place_text(place), "a module of no other string", said)


def _line(grid: GridPlan) -> tuple[str, int, int] | None:
    """The address at which an inverter answers; None while none is used."""
    return None if grid.by_hand or not grid.host else (grid.host, grid.port, grid.unit_id)
