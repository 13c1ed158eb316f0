"""Which labels a job needs: its plan as the rule of labels takes it, and what is not known yet."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache

from core.base.messages import say
from core.data import load
from core.job.feed import FeedDevice
from core.job.job import Job
from core.job.sequences import SwitchId
from core.job.subjects import DC_SWITCHES
from core.planning.wake.order import discharge_min
from core.rules.leave.labels import (
    AcIsolatorLabel,
    BatteryLabel,
    BoardLabel,
    BranchLabel,
    DcRun,
    DcSwitchLabel,
    EmergencyLabel,
    InverterLabel,
    LabelPlant,
)

KEY_CHARS = 4
INVERTER = "Inverter"
# Where what is no part of the inverter stands.
STANDS: dict[SwitchId, str] = {"safety": "roof_end", "battery": "at_battery"}
# What a safety switch, which parts without its AC, makes dead besides.
SAFETY_DEAD = {"automatic": "safety_dead", "both": "safety_dead"}


@dataclass(frozen=True, kw_only=True)
class Known:
    """What the stages know of a job that its labels tell. string_v: the most volts of each string;
    off: switches of an emergency in their order, each with its words."""

    string_v: tuple[tuple[str, float], ...]
    off: tuple[tuple[SwitchId, str], ...]


@dataclass(frozen=True, kw_only=True)
class Labelled:
    """The plant as its labels tell it, and what of it nobody knows yet."""

    plant: LabelPlant
    missing: tuple[str, ...]


def label_key(label_id: str, of: str, text: str) -> str:
    """By what a label is said to be stuck: another text is another label."""
    return f"{label_id} {of} {hashlib.sha256(text.encode()).hexdigest()[:KEY_CHARS]}"


def spacing_m(job: Job) -> float:
    """The most between two labels of a DC run: the job's own, or the pack's."""
    return job.leave.label_spacing_m or _figure("spacing_m", job.rule_pack)


def months(job: Job) -> int:
    """Months to the next inspection: the job's own, or the pack's."""
    return job.leave.inspection_months or int(_figure("inspection_months", job.rule_pack))


@cache
def _figure(name: str, pack: str) -> float:
    """A figure of labels: the pack's own, or the general one."""
    every = load("labels")[name]
    found: float = every.get(pack, every[""])["value"]
    return found


def labelled(job: Job, known: Known) -> Labelled:
    """What the labels of a job tell, and what is still to be known for them."""
    lacks: list[str] = []
    permit = job.arrival.permit
    isolators = tuple(one for one in job.feed.devices if one.kind == "isolator")
    plant = LabelPlant(
        t_min_c=job.site.t_air_min_c,
        label_spacing_m=spacing_m(job),
        dc_runs=tuple(_runs(job, dict(known.string_v), lacks)),
        dc_switches=tuple(_dc_switches(job)),
        inverters=tuple(_inverters(job)),
        ac_isolators=tuple(_isolators(job, isolators, lacks)),
        boards=tuple(_boards(job, isolators)),
        operator_reference=permit.reference if permit else None,
        export_limit_w=permit.export_w if permit else None,
        emergency_switches=tuple(_emergency(job, known)),
        branches=tuple(_branches(job)),
        map_place=_loud(job.leave.place_of(say("labelled", "map"))) if job.micro else None,
        batteries=tuple(_batteries(job, lacks)),
        backed_up_board=next((one.name for one in job.feed.devices if one.kind == "backup"), None),
        dead_by=_loud(", THEN ".join(name for _, name in known.off)) or None,
        electrode=any(one.kind == "electrode" for one in job.earthing.nodes),
        installed=job.day,
        inspection_months=months(job),
    )
    return Labelled(plant=plant, missing=tuple(lacks))


def _loud(text: str) -> str:
    return text.upper()


def _runs(job: Job, volts: dict[str, float], lacks: list[str]) -> Iterator[DcRun]:
    for one in job.strings:
        if not one.home_run:
            lacks.append(say("needs", "home_run_of", string=one.name))
        elif one.name not in volts:
            lacks.append(say("needs", "volts_of", string=one.name))
        else:
            pieces = tuple(piece.length_m for piece in one.home_run)
            name = say("labelled", "run", string=one.name)
            yield DcRun(name=name, straight_pieces_m=pieces, max_v=volts[one.name])


def _dc_switches(job: Job) -> Iterator[DcSwitchLabel]:
    """The switch in the inverter, and those at the roof's end; each names the next one."""
    if job.inverter is None:
        return
    device = job.own_device or INVERTER
    own = _loud(say("labelled", "own_switch", of=device))
    far = DC_SWITCHES[job.feed.dc.school]
    for name in far:
        yield DcSwitchLabel(
            name=say("labelled", name),
            parts=say("labelled", "roof_cable"),
            stays_live=say("labelled", "roof_side"),
            twin=say("labelled", "switch", name=own),
            twin_place=_place(job, device, say("labelled", "the", of=device)),
        )
    first = far[0] if far else None
    yield DcSwitchLabel(
        name=own,
        parts=_loud(device),
        stays_live=say("labelled", "from_roof"),
        twin=say("labelled", "switch", name=say("labelled", first)) if first else None,
        twin_place=_place(job, first, say("labelled", "roof_end")) if first else None,
    )


def _place(job: Job, name: str, unsaid: str) -> str:
    """Where something hangs, in capitals; unsaid: what is said of it while nobody has."""
    said = job.leave.place_of(name)
    return _loud(unsaid if said == name else said)


def _inverters(job: Job) -> Iterator[InverterLabel]:
    if job.inverter is None:
        return
    device = job.own_device or INVERTER
    yield InverterLabel(name=device, wait_min=discharge_min(job))


def _isolators(
    job: Job, isolators: tuple[FeedDevice, ...], lacks: list[str]
) -> Iterator[AcIsolatorLabel]:
    of = job.own_device or say("labelled", "units")
    for one in isolators:
        if one.isolator is None:
            lacks.append(say("needs", "isolator_of", of=one.name))
        else:
            yield AcIsolatorLabel(
                name=one.name, of=_loud(of), volts=job.source.nominal_v, amps=one.isolator.rated_a
            )


def _boards(job: Job, isolators: tuple[FeedDevice, ...]) -> Iterator[BoardLabel]:
    first = isolators[0].name if isolators else ""
    place = _loud(job.leave.place_of(first)) if first else say("labelled", "this_board")
    battery = job.feed.backup is not None and job.feed.backup.battery is not None
    feeds = [say("labelled", "solar"), *([say("labelled", "battery")] if battery else [])]
    apart = any(one.kind == "meter" for one in job.feed.devices)
    boards = [one for one in job.feed.devices if one.kind in ("board", "branches")]
    others = job.feed.others or ()
    for number, one in enumerate(boards):
        also = [_loud(other.name) for other in others if other.board == one.name]
        yield BoardLabel(
            name=one.name,
            fed_by=tuple(dict.fromkeys((*feeds, *also))),
            isolator_place=place,
            meter_apart=apart and number == 0,
        )


def _emergency(job: Job, known: Known) -> Iterator[EmergencyLabel]:
    """What is thrown first in an emergency, with what follows: the job's own order."""
    if not known.off:
        return
    (_, first), *then = known.off
    battery = job.feed.backup is not None and job.feed.backup.battery is not None
    live = [say("labelled", "leads_live"), *([say("labelled", "battery_live")] if battery else [])]
    dead = "units_dead" if job.micro else SAFETY_DEAD.get(job.feed.dc.school, "ac_dead")
    yield EmergencyLabel(
        name=first,
        dead=say("labelled", dead),
        stays_live=" AND ".join(live),
        order=tuple(
            _loud(say("labelled", "next", name=name, place=_place(job, name, _stands(job, switch))))
            for switch, name in then
        ),
    )


def _stands(job: Job, switch: SwitchId) -> str:
    """Where a switch stands while nobody said it in words."""
    return say("labelled", STANDS.get(switch, "the"), of=job.own_device or INVERTER)


def _branches(job: Job) -> Iterator[BranchLabel]:
    if job.micro is None:
        return
    unit = job.micro.unit
    for one in job.micro.branches:
        if one.units:
            yield BranchLabel(
                name=_loud(one.name),
                units=len(one.units),
                unit_va=unit.max_va,
                nominal_v=unit.nominal_v,
                board=one.joint or "",
            )


def _batteries(job: Job, lacks: list[str]) -> Iterator[BatteryLabel]:
    backup = job.feed.backup
    if backup is None or backup.battery is None:
        return
    plan = backup.battery
    volts = plan.sheet.unit_v_nominal if plan.sheet else None
    if plan.sheet is None or volts is None:
        lacks.append(say("needs", "battery_sheet"))
        return
    yield BatteryLabel(
        name=say("labelled", "battery_name"),
        chemistry=say("labelled", "chemistry"),
        volts=volts,
        kwh=round(plan.units * plan.sheet.usable_kwh, 2),
        isolate_at=_loud(job.leave.place_of(say("labelled", "battery_switch"))),
        door=True,
    )
