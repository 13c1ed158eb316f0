"""Logs of what is made by hand: ends of strings, units on the roof, serials of modules.

A log that nobody began says nothing: what the stage asks of the whole plane or string stands. Once
one step of it is ticked, a half-made roof waits for the rest.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from functools import cache

from core.assessment.making import MadePiece, MakingStep, ModuleSerial, ModuleSerials
from core.assessment.whole import Assessment
from core.base.judgement import Judgement, Verdict
from core.base.messages import say
from core.job.job import Job
from core.job.microinverter import MicroPlan
from core.job.reading_kinds import ReadingKind
from core.job.roof import place_text
from core.job.subjects import END_STEPS, UNIT_STEPS, string_ends
from core.rules.prove.making import making_log, module_serials
from core.stages.reading_index import Readings

MODULE_SERIAL: ReadingKind = "module_serial"
OPTIMISER_SERIAL: ReadingKind = "optimiser_serial"


def unit_steps(plan: MicroPlan) -> tuple[ReadingKind, ...]:
    """The steps at every unit of a roof: a washer only where units are earthed by one."""
    return tuple(one for one in UNIT_STEPS if one != "unit_washer" or plan.earth == "washer")


@cache
def steps_told(kinds: tuple[ReadingKind, ...]) -> tuple[MakingStep, ...]:
    """The steps of a log in words."""
    return tuple(
        MakingStep(
            kind=kind,
            title=say("making", kind),
            caution=say("ask_cautions", kind),
            answers=(say(kind, "1"), say(kind, "-1")),
        )
        for kind in kinds
    )


def made_piece(
    readings: Readings, subject: str, title: str, steps: tuple[ReadingKind, ...]
) -> MadePiece:
    """How far one piece is made."""
    found = {kind: readings.latest(kind, subject) for kind in steps}
    done = tuple(kind for kind, one in found.items() if one is not None and one.is_good)
    wrong = tuple(kind for kind, one in found.items() if one is not None and not one.is_good)
    last = max((one for one in found.values() if one), key=lambda one: one.taken_at, default=None)
    verdict: Verdict = "stop" if wrong else "clear" if len(done) == len(steps) else "waiting"
    return MadePiece(
        subject=subject,
        title=title,
        done=done,
        wrong=wrong,
        of=len(steps),
        by=last.by if last else "",
        at=last.taken_at if last else None,
        verdict=verdict,
    )


def ends_made(readings: Readings, string: str) -> tuple[MadePiece, ...]:
    """The four ends of a string's leads."""
    return tuple(
        made_piece(readings, end, end.removeprefix(f"{string} "), END_STEPS)
        for end in string_ends(string)
    )


def log_judged(
    pieces: tuple[MadePiece, ...], steps: tuple[ReadingKind, ...]
) -> tuple[Judgement, ...]:
    """What is said of a log; nothing while nobody began it."""
    if not any(one.done or one.wrong for one in pieces):
        return ()
    return (
        making_log(
            done=sum(len(one.done) for one in pieces),
            of=sum(one.of for one in pieces),
            open_step=_first(
                (one, kind) for one in pieces for kind in steps
                if kind not in one.done and kind not in one.wrong
            ),
            wrong=_first((one, kind) for one in pieces for kind in steps if kind in one.wrong),
        ),
    )  # fmt: skip


def serials_of(job: Job, readings: Readings) -> ModuleSerials:
    """The serials of the modules, place by place; judged where a module's warranty asks."""
    asking = [plane for plane in job.planes if job.module_on(plane.name).serials_kept]
    wanted = bool(asking) or job.module.serials_kept
    places = tuple(name for plane in (asking or job.planes) for name in plane.module_names)
    modules = tuple(_serial(readings, place) for place in places)
    begun = wanted or any(one.serial for one in modules)
    read = [one.serial for one in modules if one.serial]
    doubled = tuple(serial for serial, count in Counter(read).items() if count > 1)
    return ModuleSerials(
        wanted=wanted,
        modules=modules if begun else (),
        of=len(places),
        taken=len(read),
        next=next((one.place for one in modules if not one.serial), ""),
        judgements=(module_serials(read=len(read), of=len(places), doubled=doubled),)
        if wanted
        else (),
    )


def optimiser_serials(job: Job, readings: Readings) -> ModuleSerials | None:
    """The serials of the optimisers by the modules that they are behind, off their decals; judged
    where one stands twice. None of a job without optimisers."""
    if job.optimiser is None:
        return None
    places = tuple(place_text(place) for one in job.strings for place in one.places)
    modules = tuple(_serial(readings, place, OPTIMISER_SERIAL) for place in places)
    read = [one.serial for one in modules if one.serial]
    doubled = tuple(serial for serial, count in Counter(read).items() if count > 1)
    return ModuleSerials(
        wanted=False,
        modules=modules,
        of=len(places),
        taken=len(read),
        next=next((one.place for one in modules if not one.serial), ""),
        judgements=(module_serials(read=len(read), of=len(places), doubled=doubled),)
        if doubled
        else (),
    )


def pieces_of(said: Assessment) -> tuple[MadePiece, ...]:
    """Everything that is made by hand piece by piece: ends of strings, units on the roof."""
    strings = said.string.strings if said.string else ()
    units = said.roof.units if said.roof else ()
    return (*(end for one in strings for end in one.ends), *(unit.made for unit in units))


def _serial(readings: Readings, place: str, kind: ReadingKind = MODULE_SERIAL) -> ModuleSerial:
    latest = readings.latest(kind, place)
    serial = latest.text if latest is not None else ""
    return ModuleSerial(place=place, serial=serial, id=latest.id if latest else "")


def _first(found: Iterable[tuple[MadePiece, ReadingKind]]) -> str:
    first = next(iter(found), None)
    if first is None:
        return ""
    piece, kind = first
    return say("making", "step", piece=piece.subject, step=say("making", kind))
