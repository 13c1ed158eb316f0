"""What reports, how many of them, and what a row of status digits says."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated

from core.base.errors import Refused, problem
from core.base.form import Checked
from core.base.glossary import Minutes, Note
from core.base.judgement import Judgement, Verdict, fits, holds, waiting
from core.base.messages import figure, say
from core.base.quantity import Items, Quantity
from core.base.rule import rule

REPORT_SOURCE = "device sheet (pairing); trade practice"
PORTAL_SOURCE = "portal's sheet; trade practice"
PlanCount = Annotated[int, Quantity("devices planned", "devices", 0, 10_000)]
SeenCount = Annotated[int, Quantity("devices that report", "devices", 0, 100_000)]
AtMin = Annotated[float, Quantity("minutes since the start", "min", 0, 100_000)]
ModuleCount = Annotated[int, Quantity("modules", "", 0, 100_000)]
ModuleW = Annotated[float, Quantity("module", "W", 1, 2000)]
PlantKw = Annotated[float, Quantity("power entered", "kW", 0, 100_000)]
RungCount = Annotated[int, Quantity("rungs", "", 1, 40)]
# Rounding of a portal's field, and what a slip of one module in fifty is (proposed).
KW_ROUNDING, KW_SLIP_PCT = 0.1, 2.0
W_PER_KW, WHOLE_PCT = 1000.0, 100.0
GOOD, BAD = "1", "0"


@dataclass(frozen=True, kw_only=True)
class SeenAt(Checked):
    """How many reported, so many minutes after the start."""

    at_min: AtMin
    count: SeenCount


Seen = Annotated[tuple[SeenAt, ...], Items("counts", 0, 2000)]


@rule
def reporting_counts(*, plan: PlanCount, last_min: Minutes, counts: Seen) -> Judgement:
    """Do all devices report that are planned, as their count grows over time?

    Ever more than planned: stop, foreign or doubled. As many: clear. Fewer than before: watch, it
    falls. Fewer, and time left: waiting; else stop, some are silent.
    Raises Refused where time runs backwards.
    Source: device sheet (how long pairing takes); trade practice.
    """
    for at, (one, after) in enumerate(pairwise(counts), start=1):
        if after.at_min < one.at_min:
            path, allowed = f"$.counts[{at}].at_min", f"at or after {one.at_min:g} min"
            raise Refused([problem(path, after.at_min, allowed)])
    if not counts:
        return waiting("reporting_counts", "devices", REPORT_SOURCE, ())
    last, most = counts[-1], max(one.count for one in counts)
    facts = {"count": str(last.count), "plan": str(plan), "silent": str(max(plan - last.count, 0))}
    if most > plan:
        return _said("over", "stop", facts | {"count": str(most)})
    if last.count == plan:
        return _said("all", "clear", facts)
    if last.count < most:
        return _said("falls", "watch", facts | {"most": str(most)})
    if last.at_min < last_min:
        needs = say("needs", "reporting", until=figure(last_min, "min"), **facts)
        return waiting("reporting_counts", "devices", REPORT_SOURCE, (needs,))
    return _said("short", "stop", facts)


def _said(key: str, verdict: Verdict, facts: dict[str, str]) -> Judgement:
    said = say("reporting_said", key, **facts)
    return holds("reporting_counts", verdict == "clear", REPORT_SOURCE, bad=verdict, said=said)


@rule
def plant_kw(*, modules: ModuleCount, module_w: ModuleW, entered_kw: PlantKw) -> Judgement:
    """Is the power that was entered in the portal that of the modules?

    Within 0.1 kW of n · W: clear; within 2 %: watch; beyond: stop. Limits inclusive.
    Source: portal's sheet; trade practice.
    """
    plan_kw = modules * module_w / W_PER_KW
    off_kw = abs(entered_kw - plan_kw)
    exact = fits(round(off_kw, 9), KW_ROUNDING)
    near = fits(round(off_kw, 9), plan_kw * KW_SLIP_PCT / WHOLE_PCT)
    return holds(
        "plant_kw",
        exact,
        PORTAL_SOURCE,
        bad="watch" if near else "stop",
        entered=figure(entered_kw, "kW", 2),
        plan=figure(plan_kw, "kW", 2),
        off=figure(off_kw, "kW", 2),
    )


@dataclass(frozen=True, kw_only=True)
class RungsRead:
    """What a row of status digits says. broken: the first that is not 1, from 1; 0 for none.

    again: rungs behind it that read 1: they cannot be so, and are read again.
    """

    broken: int
    again: tuple[int, ...]


@rule
def rungs_read(*, digits: Note, rungs: RungCount) -> RungsRead | None:
    """Which rung of a status row is the first that fails?

    None for a row of another length or with another sign than 0 and 1: it was misread.
    Source: device sheet (link status).
    """
    if len(digits) != rungs or set(digits) - {GOOD, BAD}:
        return None
    broken = digits.find(BAD) + 1
    behind = range(broken + 1, rungs + 1) if broken else ()
    return RungsRead(broken=broken, again=tuple(at for at in behind if digits[at - 1] == GOOD))
