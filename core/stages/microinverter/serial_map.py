"""The serial map as it is read, and the gateway's list beside it."""

from __future__ import annotations

import re
from collections import Counter, defaultdict
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property

from core.assessment.microinverter import GatewayLine, GatewayState, MapState
from core.base.judgement import GRAVITY, Judgement, Verdict, waiting, worst
from core.base.messages import say
from core.job.job import Job
from core.job.microinverter import GatewayRead, GatewayUnit, MicroPlan
from core.job.readings import Reading
from core.rules.arrival.nameplate import form_words, serial_pattern
from core.rules.microinverter.serial_map import (
    GATEWAY_SOURCE,
    gateway_agrees,
    map_complete,
    serial_alone,
    serial_fits,
    serial_lookalike,
    shown_names,
)
from core.rules.talk.access import list_counted
from core.stages.reading_index import Readings

READ = "read"


@dataclass(frozen=True, eq=False)
class SerialMap:
    """Which serial stands on which unit, as it was read last."""

    plan: MicroPlan
    readings: Readings

    @cached_property
    def by_unit(self) -> dict[str, Reading]:
        """The reading that counts for each unit that has one."""
        found = ((u.name, self.readings.latest("unit_serial", u.name)) for u in self.plan.units)
        return {name: reading for name, reading in found if reading is not None}

    @cached_property
    def by_serial(self) -> Mapping[str, tuple[str, ...]]:
        """The units that each serial stands on: one, if all is well."""
        found = defaultdict[str, list[str]](list)
        for name, reading in self.by_unit.items():
            found[reading.text].append(name)
        return {serial: tuple(names) for serial, names in found.items()}

    def serial(self, unit: str) -> str:
        """The serial on a unit; empty while it is not read."""
        return self.by_unit[unit].text if unit in self.by_unit else ""

    def judged(self, unit: str) -> tuple[Judgement, ...]:
        """What is said of the serial of a unit; nothing while it is not read."""
        if unit not in self.by_unit:
            return ()
        serial, form = self.serial(unit), self.plan.sheet_of(self.plan.unit_named(unit)).serial_form
        fits = not form or re.fullmatch(serial_pattern(form), serial) is not None
        others = tuple(one for one in self.by_serial[serial] if one != unit)
        return (
            serial_fits(unit=unit, serial=serial, fits=fits, form=form_words(form)),
            serial_alone(unit=unit, serial=serial, others=others),
        )


def _forms(plan: MicroPlan) -> str:
    """How serials are written on this roof."""
    forms = dict.fromkeys(form_words(one.serial_form) for one in plan.unit_types)
    return " · ".join(forms)


def walk(plan: MicroPlan) -> tuple[str, ...]:
    """Units in walking order: branch by branch from the fed end, then those on no branch."""
    on = [name for branch in plan.branches for name in branch.units]
    taken = set(on)
    return (*on, *(unit.name for unit in plan.units if unit.name not in taken))


def map_state(serials: SerialMap) -> MapState:
    """How far the map is, and what is wrong on it."""
    order = walk(serials.plan)
    missing = tuple(name for name in order if name not in serials.by_unit)
    judged = {name: serials.judged(name) for name in order}
    wrong = [one for name in order for one in judged[name] if one.verdict == "stop"]
    complete = map_complete(
        taken=len(serials.by_unit), units=len(serials.plan.units), missing=missing
    )
    judgements = (complete, *wrong)
    verdict = worst(one.verdict for one in judgements)
    return MapState(
        taken=len(serials.by_unit),
        of=len(order),
        missing=missing,
        doubled=_with_stop(judged, "serial_alone"),
        malformed=_with_stop(judged, "serial_fits"),
        next=missing[0] if missing else "",
        form=_forms(serials.plan),
        judgements=judgements,
        verdict=verdict,
        line=next(one.reason for one in judgements if one.verdict == verdict),
    )


def _with_stop(judged: dict[str, tuple[Judgement, ...]], rule_id: str) -> tuple[str, ...]:
    return tuple(
        name
        for name, found in judged.items()
        if any(one.rule_id == rule_id and one.verdict == "stop" for one in found)
    )


def last_list(job: Job) -> GatewayRead | None:
    """The last look at the gateway that it answered."""
    return next((one for one in reversed(job.gateway_reads) if one.outcome == READ), None)


def gateway_state(job: Job, serials: SerialMap) -> GatewayState:
    """The map beside the gateway's last list: reporting, late, missing, foreign."""
    looks, listed = job.gateway_reads, last_list(job)
    last = looks[-1] if looks else None
    if listed is None:
        return _counted(_unlisted(last, len(looks)), job, serials)
    by_serial = {one.serial: one for one in listed.units}
    ours = _ours(serials, by_serial)
    lost = tuple(one.serial for one in ours if one.standing == "missing")
    lines = (*_foreign(serials, by_serial, lost), *ours)
    lines = tuple(sorted(lines, key=lambda one: -GRAVITY.index(one.verdict)))
    missing = tuple(one.unit for one in lines if one.standing == "missing")
    foreign = tuple(_alike(one.serial, lost) for one in lines if one.standing == "foreign")
    counted = Counter(one.serial for one in listed.units)
    doubled = tuple(serial for serial, count in counted.items() if count > 1)
    agrees = gateway_agrees(missing=missing, foreign=foreign, doubled=doubled)
    unread = [name for name in walk(serials.plan) if name not in serials.by_unit]
    if agrees.verdict == "clear" and unread:
        needs = (say("needs", "serials", names=shown_names(tuple(unread))),)
        agrees = waiting("gateway_agrees", "", GATEWAY_SOURCE, needs)
    return GatewayState(
        at=listed.at,
        by=listed.by,
        outcome=looks[-1].outcome,
        looks=len(looks),
        reporting=sum(one.standing == "reporting" for one in lines),
        late=sum(one.standing == "late" for one in lines),
        lines=lines,
        judgements=(agrees,),
        verdict=agrees.verdict,
        line=agrees.reason,
    )


def _alike(serial: str, lost: tuple[str, ...]) -> str:
    """A serial on no map, with the one of the map that it may be, misread by one sign."""
    near = _near(serial, lost)
    return say("gateway", "alike", serial=serial, near=near) if near else serial


def _counted(unlisted: GatewayState, job: Job, serials: SerialMap) -> GatewayState:
    """Of a gateway whose sheet says that it lists nothing the number that it shows is judged."""
    gateways = job.talk.of_kind("gateway") if job.talk else ()
    mute = next((one for one in gateways if not one.sheet.lists), None)
    latest = serials.readings.latest("listed_count", mute.name) if mute else None
    if latest is None:
        return unlisted
    judged = list_counted(counted=round(latest.number), units=len(serials.plan.units))
    return replace(unlisted, judgements=(judged,), verdict=judged.verdict, line=judged.reason)


def _unlisted(last: GatewayRead | None, looks: int) -> GatewayState:
    """What is said while the gateway has given no list: why the last look gave none."""
    reason = say("gateway", last.outcome) if last else say("needs", "gateway")
    waits = waiting("gateway_agrees", "", GATEWAY_SOURCE, (reason,))
    return GatewayState(
        at=last.at if last else None,
        by=last.by if last else "",
        outcome=last.outcome if last else None,
        looks=looks,
        reporting=0,
        late=0,
        lines=(),
        judgements=(waits,),
        verdict="waiting",
        line=waits.reason,
    )


VERDICTS: dict[str, Verdict] = {
    "reporting": "clear",
    "late": "waiting",
    "unplaced": "waiting",
    "missing": "stop",
    "foreign": "stop",
}


def _ours(serials: SerialMap, listed: dict[str, GatewayUnit]) -> list[GatewayLine]:
    found = []
    for name in walk(serials.plan):
        serial = serials.serial(name)
        if not serial:
            continue
        one = listed.get(serial)
        standing = "missing" if one is None else "reporting" if one.reporting else "late"
        branch = serials.plan.branch_of(name)
        found.append(
            GatewayLine(
                serial=serial,
                unit=name,
                branch=branch.name if branch else "",
                standing=standing,
                said=say("gateway", f"is_{standing}"),
                power_w=one.power_w if one else None,
                verdict=VERDICTS[standing],
            )
        )
    return found


def _foreign(
    serials: SerialMap, listed: dict[str, GatewayUnit], lost: tuple[str, ...]
) -> list[GatewayLine]:
    """Serials on no map here; while units have none, so many of them may be theirs, but for one
    that is a single sign off a serial of the map that is not listed: it was misread."""
    found = [one for one in listed.values() if one.serial not in serials.by_serial]
    unread = len(serials.plan.units) - len(serials.by_unit)
    many = len(found) > unread
    return [_stranger(one, is_foreign=many or bool(_near(one.serial, lost))) for one in found]


def _near(serial: str, lost: tuple[str, ...]) -> str:
    return serial_lookalike(serial=serial, others=lost)


def _stranger(one: GatewayUnit, *, is_foreign: bool) -> GatewayLine:
    standing = "foreign" if is_foreign else "unplaced"
    return GatewayLine(
        serial=one.serial,
        unit="",
        branch="",
        standing=standing,
        said=say("gateway", f"is_{standing}"),
        power_w=one.power_w,
        verdict=VERDICTS[standing],
    )
