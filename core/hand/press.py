"""One press in the hand: a reading, an edit, or fields changed; and the house after it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any

from core.base.errors import Refused, problem
from core.base.form import read
from core.base.messages import say
from core.edits.commission import PutLetter
from core.edits.edit import Catalogue, Edit
from core.edits.every import read_edit
from core.edits.fields import Change, changed
from core.edits.house import applied, remade
from core.entry import Entry, placed, reading_of, stamped_now, taken_when
from core.interlocks import refuse_if_locked
from core.job.house import view
from core.job.house_views import is_shared
from core.job.job import Job
from core.job.readings import Reading
from core.sky import CarriedSky, ClearSky, clear_sky_reading, light_carried, plane_lying


@dataclass(frozen=True, kw_only=True)
class Hand:
    """Whose hand it is and what it carries. only_with_server: kinds of readings that are kept
    nowhere else; shelf, sky: what the server has beside the job."""

    by: str
    learner: bool
    only_with_server: tuple[str, ...]
    shelf: Catalogue
    sky: CarriedSky


@dataclass(frozen=True, kw_only=True)
class Press:
    """What was pressed and when: a reading as typed, the clear-sky figure in the place of one, an
    edit, or fields of the plan."""

    id: str
    at: datetime
    reading: Entry | None = None
    clear_sky: ClearSky | None = None
    edit: Edit | None = None
    changes: tuple[Change, ...] = ()

    @property
    def of_plan(self) -> bool:
        """Whether it changes what is planned."""
        return self.reading is None and self.clear_sky is None


def read_press(data: dict[str, Any]) -> Press:
    """A press from parsed JSON. Raises Refused."""
    at = read(datetime, data["at"], "$.at")
    reading, edit, changes = data.get("reading"), data.get("edit"), data.get("changes") or ()
    sky = data.get("clear_sky")
    return Press(
        id=data["id"],
        at=at,
        reading=None if reading is None else _entry(reading, data["id"], at),
        clear_sky=None if sky is None else ClearSky(plane=sky["plane"], at=_moment(sky["at"])),
        edit=None if edit is None else read_edit(edit),
        changes=tuple(Change(path=one["path"], entered=one["entered"]) for one in changes),
    )


def _entry(data: dict[str, Any], identity: str, at: datetime) -> Entry:
    return Entry(
        kind=data["kind"],
        subject=data["subject"],
        entered=data["entered"],
        taken_at=_moment(data.get("taken_at")),
        instrument=data.get("instrument", ""),
        note=data.get("note", ""),
        supersedes=data.get("supersedes"),
        id=identity,
        noted_at=at,
        device=data.get("device", ""),
    )


def _moment(data: str | None) -> datetime | None:
    return None if data is None else read(datetime, data, "$.taken_at")


def pressed(house: Job, of: str, press: Press, hand: Hand) -> Job:
    """The house with a press made on one of its inverters. Raises Refused; then nothing changed."""
    if press.reading is not None:
        if press.reading.kind in hand.only_with_server:
            raise Refused([problem("$.kind", press.reading.kind, say("hand", "with_server"))])
        return with_reading(house, of, noted(view(house, of), press, hand))
    if press.clear_sky is not None:
        return with_reading(house, of, _clear_sky(view(house, of), press, press.clear_sky, hand))
    if press.edit is None:
        return remade(house, of, lambda job: changed(job, press.changes))
    if isinstance(press.edit, PutLetter):
        raise Refused([problem("$.edit", press.edit.do, say("hand", "with_server"))])
    return applied(house, of, press.edit, hand.shelf)


def _clear_sky(job: Job, press: Press, wanted: ClearSky, hand: Hand) -> Reading:
    """The clear-sky figure that was pressed for, by the sky that is carried along."""
    plane = plane_lying(job, wanted.plane)
    kept = stamped_now(hand.by, wanted.at, press.id, press.at)
    light = light_carried(job, hand.sky, plane, kept.taken_at)
    if light is None:
        said = say("hand", "sky_said", plane=plane.name)
        raise Refused([problem("$.at", str(kept.taken_at), say("hand", "sky"), said)])
    return clear_sky_reading(job, plane, light, kept)


def noted(job: Job, press: Press, hand: Hand) -> Reading:
    """The reading that was pressed. Raises Refused: what cannot be read, or must not come yet."""
    entry = placed(job, typed(press), hand.by)
    kept = stamped_now(hand.by, taken_when(job, entry), press.id, press.at)
    reading = reading_of(job, entry, kept, hand.learner)
    refuse_if_locked(job, reading)
    return reading


def typed(press: Press) -> Entry:
    """What was typed of a press that is a reading."""
    assert press.reading is not None
    return press.reading


def with_reading(house: Job, of: str, reading: Reading) -> Job:
    """The house with a reading kept: of the house where it is shared, else of the inverter."""
    if of == house.id or is_shared(view(house, of), reading):
        return replace(house, readings=(*house.readings, reading))
    stations = tuple(
        replace(one, readings=(*one.readings, reading)) if one.id == of else one
        for one in house.stations
    )
    return replace(house, stations=stations)
