"""What fits what: a conductor its terminal, a cable its gland, circuits their pipe; torque."""

from __future__ import annotations

import math
from typing import Annotated

from core.base.glossary import (
    FeedParted,
    FillPct,
    GlandMm,
    GripMm2,
    OutsideMm,
    SectionMm2,
    TorqueNm,
)
from core.base.judgement import Judgement, Verdict, at_most, holds, within
from core.base.messages import figure, say
from core.base.quantity import Items, Quantity
from core.base.rule import rule
from core.base.units import size_name
from core.figures.rule_packs import GENERIC, RulePack

TERMINAL_SOURCE = "device sheet (terminals)"
GLAND_SOURCE = "device sheet (gland); IEC 62444"
Outsides = Annotated[tuple[OutsideMm, ...], Items("cables", 1, 80)]
AreaMm2 = Annotated[float, Quantity("inside area", "mm²", 10, 400_000)]
ReachedNm = Annotated[float, Quantity("torque reached", "Nm", 0, 40)]


@rule
def terminal_grips(
    *, section_mm2: SectionMm2, least_mm2: GripMm2, most_mm2: GripMm2, rule_pack: RulePack = GENERIC
) -> Judgement:
    """Does the terminal grip this conductor?

    Outside its range: stop, with the nearest size that fits.
    Formula: least_mm2 ≤ section_mm2 ≤ most_mm2.
    Source: device sheet.
    """
    sizes = [size for size in rule_pack.ac_sizes_mm2 if least_mm2 <= size <= most_mm2]
    nearest = min(sizes, key=lambda size: abs(size - section_mm2), default=least_mm2)
    return within(
        "terminal_grips",
        section_mm2,
        least_mm2,
        most_mm2,
        "mm²",
        TERMINAL_SOURCE,
        exact="clear",
        nearest=size_name(nearest),
    )


@rule
def gland_seals(*, outside_mm: OutsideMm, least_mm: GlandMm, most_mm: GlandMm) -> Judgement:
    """Does the gland's insert close around this cable?

    Source: device sheet; IEC 62444 (glands).
    """
    return within("gland_seals", outside_mm, least_mm, most_mm, "mm", GLAND_SOURCE)


@rule
def containment_fill(
    *, outsides_mm: Outsides, inside_mm2: AreaMm2, limit_pct: FillPct
) -> Judgement:
    """Is the pipe or trunking less than so full?

    Formula: 100 · sum of the cables' round areas / inside_mm2 ≤ limit_pct.
    Source: NEC 2023 chapter 9, Table 1; BS 7671 guidance; rule pack.
    """
    area_mm2 = math.fsum(math.pi / 4 * one**2 for one in outsides_mm)
    return at_most(
        "containment_fill",
        100 * area_mm2 / inside_mm2,
        limit_pct,
        "%",
        "NEC 2023 chapter 9, Table 1; trade practice",
        cables=str(len(outsides_mm)),
    )


@rule
def containment_parted(*, dc: bool, ac: bool, signal: bool, parted: FeedParted) -> Judgement:
    """Are DC, AC and signal cables kept apart where they share a way?

    Behind a divider: clear. Marked and apart: watch, one of two schools. Neither: stop.
    Source: IEC 60364-5-52:2009, 528.1; IEC 62548-1:2023, 7.3.
    """
    shared = [key for key, is_there in (("dc", dc), ("ac", ac), ("signal", signal)) if is_there]
    source = "IEC 60364-5-52:2009, 528.1; IEC 62548-1:2023"
    names = " and ".join(say("circuits", key) for key in shared)
    if len(shared) < 2:  # noqa: PLR2004
        return holds("containment_alone", True, source, shared=names)
    good = parted == "divider"
    bad: Verdict = "watch" if parted == "marked" else "stop"
    return holds("containment_parted", good, source, bad=bad, shared=names)


@rule
def torque_reached(
    *, reached_nm: ReachedNm, wanted_nm: TorqueNm, rule_pack: RulePack = GENERIC
) -> Judgement:
    """Was the terminal tightened to its sheet's torque?

    Formula: wanted_nm · (1 − run.torque_apart/100) ≤ reached_nm ≤ wanted_nm · (1 +
    run.torque_apart/100).
    Source: device sheet; rule pack for what a screwdriver may be off.
    """
    apart = rule_pack.run.torque_apart.value / 100
    return within(
        "torque_reached",
        reached_nm,
        wanted_nm * (1 - apart),
        wanted_nm * (1 + apart),
        "Nm",
        TERMINAL_SOURCE,
        wanted=figure(wanted_nm, "Nm"),
    )
