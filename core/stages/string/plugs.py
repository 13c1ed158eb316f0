"""The plugs of a string's leads: whether their make fits it, and how an end is made."""

from __future__ import annotations

from collections.abc import Iterator
from functools import cache

from core.base.judgement import Judgement, waiting
from core.base.messages import figure, say
from core.equipment.cables_switches_fixings import Plug
from core.job.job import Job
from core.job.strings import StringPlan
from core.planning.dc.currents import string_bears_a
from core.rules.prove.making import (
    PLUG_SOURCE,
    plug_current,
    plug_grips,
    plug_seals,
    plug_volts,
)


def plug_judged(job: Job, string: StringPlan, cold_v: float | None) -> Iterator[Judgement]:
    """What is said of the plugs of one string; nothing while their make is not chosen.

    cold_v: of the string; None where optimisers hold it.
    """
    plug = job.feed.dc.plug
    if plug is None:
        return
    if cold_v is not None:
        yield plug_volts(voc_cold_v=cold_v, rated_v=plug.rated_v)
    if job.optimiser is None:
        yield plug_current(string_a=string_bears_a(job, string), rated_a=plug.rated_a)
    if not string.home_run:
        needs = (say("needs", "home_run"),)
        yield waiting("plug_grips", "mm²", PLUG_SOURCE, needs)
        return
    # Only the ends of the whole way carry plugs; pieces between meet in switches.
    for piece in dict.fromkeys((string.home_run[0], string.home_run[-1])):
        yield plug_grips(
            section_mm2=piece.section_mm2, least_mm2=plug.least_mm2, most_mm2=plug.most_mm2
        )
        if piece.outside_mm and plug.gland_least_mm and plug.gland_most_mm:
            yield plug_seals(
                outside_mm=piece.outside_mm,
                least_mm=plug.gland_least_mm,
                most_mm=plug.gland_most_mm,
            )


@cache
def plug_told(plug: Plug | None) -> tuple[str, ...]:
    """How an end is made in this make, line by line; nothing while it is not chosen."""
    if plug is None:
        return ()
    strip, nut = plug.strip_mm, figure(plug.torque_nm, "Nm", 2)
    lines = (
        say("plug", "make", label=plug.label),
        say("plug", "pins", plus=plug.pin_plus, minus=plug.pin_minus)
        if plug.pin_plus and plug.pin_minus
        else "",
        say("plug", "strip", strip=figure(strip, "mm")) if strip is not None else "",
        say("plug", "crimp", tool=plug.crimp) if plug.crimp else "",
        say("plug", "nut", nut=nut),
    )
    return tuple(line for line in lines if line)
