"""Changing which inverters a house has, and making any edit on one of them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal
from uuid import UUID, uuid5

from core.base.errors import Refused, problem
from core.base.messages import say
from core.edits.edit import Catalogue, Edit, Entered, known
from core.edits.fields import typed
from core.edits.new_job import PORT, UNIT
from core.equipment.inverter import Inverter
from core.job.feed import BOARDS, FeedDevice, FeedName
from core.job.grid import GridPlan
from core.job.house import view
from core.job.house_merge import merged
from core.job.job import KEPT_APART, Job
from core.job.station import Station

MOST_STATIONS = 5


@dataclass(frozen=True, kw_only=True)
class AddInverter(Edit):
    """One more wall inverter in the house: its sheet, its name, the board of its breaker.

    It begins without strings and cable: those are asked for.
    """

    do: Literal["add_inverter"] = "add_inverter"
    name: Entered
    inverter: Entered
    board: Entered
    of_house = True

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        sheet = catalogue.one("inverters", self.inverter, Inverter, "$.inverter")
        name = typed(FeedName, self.name, "$.name")
        boards = [one.name for one in job.feed.devices if one.kind in BOARDS]
        known("$.board", self.board, boards, none=say("houses", "no_board"))
        if len(job.stations) >= MOST_STATIONS:
            said = say("houses", "too_many", most=str(MOST_STATIONS + 1))
            raise Refused([problem("$.inverter", self.inverter, f"{MOST_STATIONS + 1}", said)])
        if name in [one.name for one in job.feed.devices]:
            raise Refused([problem("$.name", name, "a name of no other device")])
        number = len(job.stations) + 2
        made = Station(
            id=str(uuid5(UUID(job.id), f"inverter {number} {name}")),
            name=name,
            board=self.board,
            inverter=sheet,
            grid=GridPlan(
                profile=job.grid.profile, host=f"inverter-{number}.local", port=PORT, unit_id=UNIT
            ),
        )
        devices = (*job.feed.devices, FeedDevice(name=name, kind="inverter"))
        feed = replace(job.feed, devices=devices)
        return replace(job, feed=feed, stations=(*job.stations, made))


@dataclass(frozen=True, kw_only=True)
class RemoveInverter(Edit):
    """A further inverter out of the plan. Refused once something was read of it."""

    do: Literal["remove_inverter"] = "remove_inverter"
    name: Entered
    of_house = True

    def apply(self, job: Job, catalogue: Catalogue) -> Job:
        known("$.name", self.name, [one.name for one in job.stations], none=say("houses", "first"))
        gone = next(one for one in job.stations if one.name == self.name)
        if any(getattr(gone, name) for name in KEPT_APART):
            said = say("houses", "read", name=gone.name)
            raise Refused(
                [problem("$.name", gone.name, "an inverter of which nothing was read", said)]
            )
        runs = tuple(one for one in job.feed.runs if gone.name not in (one.start, one.end))
        devices = tuple(one for one in job.feed.devices if one.name != gone.name)
        wall = job.wall
        if wall is not None:
            wall = replace(wall, devices=tuple(one for one in wall.devices if one.of != gone.id))
        return replace(
            job,
            feed=replace(job.feed, devices=devices, runs=runs),
            wall=wall,
            stations=tuple(one for one in job.stations if one.id != gone.id),
        )


def applied(house: Job, of: str, edit: Edit, catalogue: Catalogue) -> Job:
    """The house with an edit made: of the house itself, or of one of its inverters.

    Raises Refused; then nothing is changed.
    """
    if edit.of_house:
        return edit.apply(house, catalogue)
    return remade(house, of, lambda job: edit.apply(job, catalogue))


def remade(house: Job, of: str, make: Callable[[Job], Job]) -> Job:
    """The house with one of its inverters made anew."""
    return merged(house, of, make(view(house, of)))


HouseEdit = AddInverter | RemoveInverter
