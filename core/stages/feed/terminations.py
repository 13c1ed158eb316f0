"""Terminations: how each end of a run is made, tightened and tried."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from core.assessment.feed import DrawnCore, EndState
from core.assessment.whole import Prompt
from core.base.glossary import ConductorName, Service
from core.base.judgement import Judgement, waiting, worst
from core.base.messages import figure, say
from core.base.stage_numbers import FEED as STAGE
from core.base.units import size_name
from core.equipment.cables_switches_fixings import Breaker
from core.equipment.terminals import Terminals
from core.job.feed import AcRun, DeviceKind, FeedDevice, end_name, string_run
from core.job.subjects import DC_ISOLATOR, DC_SWITCHES, SAFETY_SWITCH
from core.rules.ac.terminations import (
    GLAND_SOURCE,
    TERMINAL_SOURCE,
    gland_seals,
    terminal_grips,
    torque_reached,
)
from core.rules.prove.yes_no_steps import step_seen, step_waits
from core.stages.feed.context import Feed, deciding
from core.stages.reading_index import prompt

# The cores of a service in the order of their terminals; with as many cores as there are.
CORES: dict[Service, tuple[ConductorName, ...]] = {
    "single": ("L", "N", "PE"),
    "split": ("L1", "L2", "N", "PE"),
    "three": ("L1", "L2", "L3", "N", "PE"),
}
NEUTRAL_LEFT_OUT = 4
DC_CORES: tuple[ConductorName, ...] = ("plus", "minus")
# Kinds whose every end is this job's to make.
OWN_ENDS: tuple[DeviceKind, ...] = ("inverter", "isolator", "branches")
THREADING = ("nut", "insert", "body")


@dataclass(frozen=True, kw_only=True)
class Wires:
    """What a cable or a pair of wires brings to its end, and which end that is."""

    run: str
    device: str
    cores: tuple[ConductorName, ...]
    section_mm2: float
    outside_mm: float | None
    fine: bool
    cable: str


def ends(feed: Feed) -> tuple[tuple[EndState, ...], tuple[Prompt, ...]]:
    """Every termination of the job, and what is asked of it: torque and pull."""
    made = [_end(feed, wires, sheet) for wires, sheet in (*_ac_ends(feed), *_dc_ends(feed))]
    return tuple(end for end, _ in made), tuple(one for _, asks in made for one in asks)


def _ac_ends(feed: Feed) -> Iterator[tuple[Wires, Terminals | None]]:
    """Ends of AC runs that this job makes: not the operator's, not at the meter."""
    for run in feed.job.feed.runs:
        for name in (run.start, run.end):
            device = feed.job.feed.device(name)
            is_circuit = device.breaker is not None and feed.behind_breaker(run)
            # A box with its trunk's own plug has no terminals; one with a switch has.
            is_box = device.kind == "joint" and device.isolator is not None
            if run.of_network or not (device.kind in OWN_ENDS or is_circuit or is_box):
                continue
            yield _ac_wires(feed, run, name), _sheet(feed, run, device)


def _sheet(feed: Feed, run: AcRun, device: FeedDevice) -> Terminals | None:
    """The sheet of the terminals in which a run ends at a device."""
    branch = feed.of(run).branch
    sheets: dict[DeviceKind, Terminals | None] = {
        "inverter": feed.source.ac,
        "isolator": device.isolator,
        "joint": device.isolator,
        "branches": (
            branch.breaker
            if branch and feed.of(run).is_home(run)
            else device.breaker or device.isolator
        ),
    }
    return sheets.get(device.kind, device.breaker)


def _ac_wires(feed: Feed, run: AcRun, device: str) -> Wires:
    service = feed.run_service(run)
    cores = CORES[service]
    if service == "three" and run.cores == NEUTRAL_LEFT_OUT:
        cores = tuple(one for one in cores if one != "N")
    size = size_name(run.section_mm2)
    return Wires(
        run=run.name,
        device=device,
        cores=cores,
        section_mm2=run.section_mm2,
        outside_mm=run.outside_mm,
        fine=run.strands == "fine",
        cable=say("feed_ends", "cable", cores=str(run.cores), size=size),
    )


def _dc_ends(feed: Feed) -> Iterator[tuple[Wires, Terminals | None]]:
    """Ends of home runs at the switches between array and inverter."""
    dc = feed.job.feed.dc
    both = {DC_ISOLATOR: dc.isolator, SAFETY_SWITCH: dc.safety}
    fitted = [both[name] for name in DC_SWITCHES[dc.school]]
    for string in feed.job.strings:
        for piece in string.home_run[:-1]:
            wires = Wires(
                run=string_run(string.name),
                device=piece.to,
                cores=DC_CORES,
                section_mm2=piece.section_mm2,
                outside_mm=piece.outside_mm,
                fine=True,
                cable=say("feed_ends", "pair", size=size_name(piece.section_mm2)),
            )
            yield wires, both.get(piece.to) or next(iter(fitted), None)


def _end(feed: Feed, wires: Wires, sheet: Terminals | None) -> tuple[EndState, tuple[Prompt, ...]]:
    name = end_name(wires.run, wires.device)
    planned = _planned(feed, wires, sheet)
    torque = _torque_prompt(feed, name, sheet)
    pull = _pull_prompt(feed, name)
    latest = feed.readings.latest("torque", name)
    every = (*planned, *torque.judgements, *pull.judgements)
    line, _ = deciding(every, say("feed_ends", "clear"))
    finish = "ferrule" if wires.fine else "bare"
    state = EndState(
        name=name,
        run=wires.run,
        device=wires.device,
        cable=wires.cable,
        strip_mm=sheet.strip_mm if sheet else None,
        finish=say("feed_ends", finish, size=size_name(wires.section_mm2)),
        cores=tuple(_core(feed, one) for one in wires.cores),
        threading=_threading(wires, sheet),
        torque_nm=sheet.torque_nm if sheet else None,
        torque_read_nm=latest.number if latest else None,
        torque_verdict=torque.verdict,
        pull_verdict=pull.verdict,
        judgements=planned,
        verdict=worst(one.verdict for one in every),
        line=line,
    )
    return state, (torque, pull)


def _core(feed: Feed, conductor: ConductorName) -> DrawnCore:
    colour = feed.rules.colours.of(conductor)
    is_protective = conductor == "PE"
    return DrawnCore(
        conductor=say("conductors", conductor),
        colour=colour.name,
        inks=colour.inks,
        longer_mm=feed.rules.run.earth_longer.value if is_protective else 0.0,
    )


def _threading(wires: Wires, sheet: Terminals | None) -> tuple[str, ...]:
    if sheet is None or sheet.gland_most_mm is None:
        return ()
    outside = "" if wires.outside_mm is None else figure(wires.outside_mm, "mm")
    return tuple(
        say("feed_ends", f"thread_{part}", outside=outside or say("feed_ends", "its"))
        for part in THREADING
    )


def _planned(feed: Feed, wires: Wires, sheet: Terminals | None) -> tuple[Judgement, ...]:
    if sheet is None:
        needs = (say("needs", "terminals_of", name=wires.device),)
        return (waiting("terminal_grips", "mm²", TERMINAL_SOURCE, needs),)
    grips = terminal_grips(
        section_mm2=wires.section_mm2,
        least_mm2=sheet.least_mm2,
        most_mm2=sheet.most_mm2,
        rule_pack=feed.rules,
    )
    least, most = sheet.gland_least_mm, sheet.gland_most_mm
    if isinstance(sheet, Breaker):
        return (grips,)
    if least is None or most is None:
        needs = (say("needs", "gland_of", name=wires.device),)
        return grips, waiting("gland_seals", "mm", GLAND_SOURCE, needs)
    if wires.outside_mm is None:
        needs = (say("needs", "outside"),)
        return grips, waiting("gland_seals", "mm", GLAND_SOURCE, needs)
    return grips, gland_seals(outside_mm=wires.outside_mm, least_mm=least, most_mm=most)


def _torque_prompt(feed: Feed, name: str, sheet: Terminals | None) -> Prompt:
    latest = feed.readings.latest("torque", name)
    needs = tuple(
        [say("needs", "torque")] * (sheet is None) + [say("needs", "reading")] * (latest is None)
    )
    if needs or sheet is None or latest is None:
        judgement = waiting("torque_reached", "Nm", TERMINAL_SOURCE, needs)
    else:
        judgement = torque_reached(
            reached_nm=latest.number, wanted_nm=sheet.torque_nm, rule_pack=feed.rules
        )
    apart = feed.rules.run.torque_apart.value / 100
    band = None if sheet is None else tuple(sheet.torque_nm * (1 + s * apart) for s in (-1, 1))
    text = "" if sheet is None else figure(sheet.torque_nm, "Nm")
    return prompt(
        feed.readings,
        STAGE,
        "torque",
        name,
        (judgement,),
        expected=None if band is None else (band[0], band[1]),
        expected_text=text,
    )


def _pull_prompt(feed: Feed, name: str) -> Prompt:
    latest = feed.readings.latest("pull", name)
    judgement = step_seen(step="pull", sign=latest.sign) if latest else step_waits(step="pull")
    return prompt(feed.readings, STAGE, "pull", name, (judgement,))
