"""Changing what Arrive settles: permit, people, visits, open points, goods that were swapped."""

from __future__ import annotations

from dataclasses import replace

from core.base.errors import Refused, problem
from core.edits.planes_and_strings import with_sheet
from core.edits.wall import body_on, with_devices
from core.equipment.cables_switches_fixings import Fixing, Isolator, SafetySwitch, WallUnit
from core.equipment.inverter import Inverter
from core.equipment.micro import Micro, Trunk
from core.equipment.module import Module
from core.equipment.optimiser import Optimiser
from core.equipment.sheet import Sheet
from core.job.arrival import CrewMember, OpenItem, Permit, Substitute
from core.job.job import Job


def with_permit(job: Job, permit: Permit | None) -> Job:
    """The job with the operator's permit, or without one."""
    return replace(job, arrival=replace(job.arrival, permit=permit))


def with_crew(job: Job, crew: tuple[CrewMember, ...]) -> Job:
    """The job with these people on it."""
    return replace(job, arrival=replace(job.arrival, crew=crew))


def with_first_visit(job: Job, *, first_visit: bool) -> Job:
    """The job as a first visit without the inverter, or as a whole one."""
    return replace(job, arrival=replace(job.arrival, first_visit=first_visit))


def with_open_item(job: Job, item: OpenItem) -> Job:
    """The job with one more thing left open on purpose."""
    items = (*job.arrival.open_items, item)
    return replace(job, arrival=replace(job.arrival, open_items=items))


def with_item_settled(job: Job, number: int, *, settled: bool) -> Job:
    """The job with an open point, counted from 1, settled or open again; it is never removed."""
    items = job.arrival.open_items
    if not 1 <= number <= len(items):
        raise Refused([problem("$.number", number, f"1 to {len(items)}")])
    changed = tuple(
        replace(item, settled=settled) if at == number else item
        for at, item in enumerate(items, start=1)
    )
    return replace(job, arrival=replace(job.arrival, open_items=changed))


def substituted(job: Job, kind: str, was: str, now: Sheet) -> Job:
    """The job with goods that came instead of what was planned, judged by their own sheet.

    was: the label of what was planned. On the wall every device or fixing of that label is
    exchanged. Raises Refused when the plan holds nothing of that label.
    """
    changed = _exchanged(job, was, now)
    swapped = (*job.arrival.substitutes, Substitute(kind=kind, was=was, now=now.label))
    return replace(changed, arrival=replace(job.arrival, substitutes=swapped))


def _exchanged(job: Job, was: str, now: Sheet) -> Job:
    match now:
        case Module() | Inverter() | Optimiser() | Micro() | Trunk():
            return with_sheet(job, now)
        case Fixing():
            return with_devices(
                job,
                was,
                lambda one: one.fixing is not None and one.fixing.label == was,
                lambda one: replace(one, fixing=now),
            )
        case Isolator() | SafetySwitch() | WallUnit():
            body = body_on(now)
            return with_devices(
                job,
                was,
                lambda one: one.label == was and one.kind != "inverter",
                lambda one: replace(one, label=now.label, body=body),
            )
    raise Refused([problem("$.id", now.label, "goods that the plan holds")])
