"""The owner's pages in plain words, the shut-down card, and the list of serials."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from core.assessment.whole import Assessment
from core.base.csv_text import csv_text
from core.base.messages import figure, say
from core.job.job import Job
from core.planning.leave.labels import months
from core.rules.leave.labels import next_inspection

# As many patterns of light as an owner reads.
MOST_LIGHTS = 8
W_PER_KW = 1000.0


@dataclass(frozen=True, kw_only=True)
class OwnerPart:
    """One part of the owner's pages: its title and its lines; numbered where order matters."""

    id: str
    title: str
    lines: tuple[str, ...]
    numbered: bool = False


@dataclass(frozen=True, kw_only=True)
class OwnerPages:
    """What the owner is told. off: what is switched off in an emergency, in this job's own order;
    live: what stays live whatever is switched."""

    parts: tuple[OwnerPart, ...]
    off: tuple[str, ...]
    live: str
    call: str


@dataclass(frozen=True, kw_only=True)
class SerialLine:
    """One thing with a serial, as its maker's warranty asks for it."""

    what: str
    model: str
    place: str
    serial: str


def owner_pages(job: Job, said: Assessment) -> OwnerPages:
    """Two pages in plain words: what is there, how it is switched off, what to look at, whom to
    call."""
    off = tuple(step.title for step in said.wake.emergency.steps if step.switch is not None)
    backup = job.feed.backup
    battery = backup is not None and backup.battery is not None
    live = say("owner", "live_battery" if battery else "live")
    call = _call(job)
    parts = (
        _part("there", _there(job)),
        _part("off", off, numbered=True),
        _part("card_live", (f"{live}.",)),
        _part("on_again", (say("owner", "not_by_owner", call=call),)),
        _part("lights", _lights(said)),
        _part("portal", _portal(job)),
        _part("year", _year(job)),
        _part("call", _whom(job, call)),
        _part("known", tuple(_known(said))),
    )
    return OwnerPages(
        parts=tuple(one for one in parts if one.lines),
        off=off,
        live=live,
        call=call,
    )


def _part(part_id: str, lines: tuple[str, ...], *, numbered: bool = False) -> OwnerPart:
    return OwnerPart(id=part_id, title=say("owner", part_id), lines=lines, numbered=numbered)


def _call(job: Job) -> str:
    plan = job.leave
    if plan.call_name and plan.call_number:
        return f"{plan.call_name}, {plan.call_number}"
    return plan.call_name or plan.call_number or say("owner", "call_unsaid")


def _there(job: Job) -> tuple[str, ...]:
    place = job.leave.place_of
    found = []
    for plane in job.planes:
        count = sum(row.count("#") for row in plane.rows) or _of_strings(job, plane.name)
        if count:
            found.append(say("owner", "modules", count=str(count), plane=plane.name,
                             model=job.module_on(plane.name).model))  # fmt: skip
    if job.micro is not None:
        units = str(len(job.micro.units))
        found.append(say("owner", "units", count=units, model=job.micro.unit.model))
    else:
        device = job.own_device or "Inverter"
        kw = figure(job.source.rated_ac_w / W_PER_KW, "kW")
        model = job.wall_inverter.model
        found.append(say("owner", "inverter", model=model, kw=kw, place=place(device)))
    backup = job.feed.backup
    if backup is not None and backup.battery is not None:
        found.append(say("owner", "battery", count=str(backup.battery.units)))
    if backup is not None:
        found.append(say("owner", "backup"))
    return tuple(found)


def _of_strings(job: Job, plane: str) -> int:
    return sum(one.modules_in_series for one in job.strings if one.plane == plane)


def _lights(said: Assessment) -> tuple[str, ...]:
    shown = said.wake.lights[:MOST_LIGHTS]
    return tuple(say("owner", "light", shows=o.shows, means=o.means, do=o.do) for o in shown)


def _portal(job: Job) -> tuple[str, ...]:
    account = job.talk.account if job.talk else None
    if account is None:
        return (say("owner", "no_portal"),)
    by_module = job.micro is not None or job.optimiser is not None
    return (
        say("owner", "portal_named", portal=account.portal or say("owner", "a_portal")),
        say("owner", "portal_modules" if by_module else "portal_plant"),
        say("owner", "portal_silent"),
    )


def _year(job: Job) -> tuple[str, ...]:
    due = next_inspection(installed=job.day, inspection_months=months(job))
    keys = ("year_roof", "year_vents", "year_labels", "year_test", "year_yield")
    return (
        *(say("owner", key) for key in keys),
        say("owner", "year_inspection", due=f"{due:%B %Y}"),
    )


def _whom(job: Job, call: str) -> tuple[str, ...]:
    permit = job.arrival.permit
    found = [say("owner", "call_us", call=call)]
    if permit is not None:
        found.append(say("owner", "call_operator", operator=permit.operator, ref=permit.reference))
    found.append(say("owner", "call_fire"))
    if job.leave.owner_note.strip():
        found.append(job.leave.owner_note.strip())
    return tuple(found)


def _known(said: Assessment) -> Iterator[str]:
    """Watches that were taken on, so that nobody finds them by chance."""
    return (f"{one.where}: {one.reason}" for one in said.leave.signing.watches)


def serial_lines(job: Job, said: Assessment) -> tuple[SerialLine, ...]:
    """Every serial that was read, with model and place: what a warranty asks for."""
    unit = job.micro.unit.model if job.micro else ""
    own = job.inverter.model if job.inverter else ""
    talkers = {one.name: one.sheet.model for one in job.talk.devices} if job.talk else {}
    optimiser = job.optimiser.model if job.optimiser else ""
    found = []
    for row in said.talk.map:
        if row.serial:
            model = talkers.get(row.name) or (unit or (optimiser if row.cells else own))
            what = row.name
            found.append(
                SerialLine(what=what, model=model, place=", ".join(row.cells), serial=row.serial)
            )
    planned = said.string or said.roof
    for module in planned.serials.modules if planned else ():
        if module.serial:
            plane = next((one.name for one in job.planes if module.place.startswith(one.name)), "")
            model = job.module_on(plane).model if plane else job.module.model
            found.append(
                SerialLine(
                    what=say("owner", "module"),
                    model=model,
                    place=module.place,
                    serial=module.serial,
                )
            )
    return tuple(found)


def serials_csv(job: Job, said: Assessment) -> str:
    """The serials as CSV."""
    rows = [("what", "model", "place", "serial")]
    rows += [(one.what, one.model, one.place, one.serial) for one in serial_lines(job, said)]
    return csv_text(rows)
