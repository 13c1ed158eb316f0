"""What is made by hand: whether its log has every step, and whether its parts fit."""

from __future__ import annotations

from typing import Annotated

from core.base.glossary import Note, OutsideMm, RatedA, RatedV, SectionMm2
from core.base.judgement import Judgement, at_least, at_most, holds, waiting, within
from core.base.messages import say
from core.base.quantity import Items, Quantity
from core.base.rule import rule

SOURCE = "IEC 62446-1:2016, 5.2 (inspection); sheet of the part"
PLUG_SOURCE = "plug sheet; IEC 62548-1:2023, 7.3 (connectors)"
SERIALS_SOURCE = "module sheet (warranty)"

Made = Annotated[int, Quantity("steps made", "", 0, 10_000)]
Listed = Annotated[int, Quantity("modules", "", 0, 10_000)]
Doubled = Annotated[tuple[Note, ...], Items("serials read twice", 0, 10_000)]
ColdV = Annotated[float, Quantity("string voltage on the coldest morning", "V", 0, 3000)]
BearsA = Annotated[float, Quantity("current that it must bear", "A", 0, 400)]


@rule
def making_log(*, done: Made, of: Made, open_step: Note, wrong: Note) -> Judgement:
    """Is every step of what is made by hand ticked, and none of them as not good?

    open_step, wrong: the first step that is open, the first that is not good; empty for none.
    Source: IEC 62446-1:2016, 5.2; sheet of the part.
    """
    if wrong:
        return holds("making_log", False, SOURCE, step=wrong)
    if open_step or done < of:
        needs = say("needs", "to_make", step=open_step, done=str(done), of=str(of))
        return waiting("making_log", "", SOURCE, (needs,))
    return holds("making_log", True, SOURCE, of=str(of))


@rule
def plug_volts(*, voc_cold_v: ColdV, rated_v: RatedV) -> Judgement:
    """Does the plug bear the string's voltage on the coldest morning?

    Source: plug sheet; IEC 62548-1:2023, 7.3.
    """
    return at_most("plug_volts", voc_cold_v, rated_v, "V", PLUG_SOURCE)


@rule
def plug_current(*, string_a: BearsA, rated_a: RatedA) -> Judgement:
    """Does the plug bear the string's current, with the factor of the rule pack?

    Source: plug sheet; IEC 62548-1:2023, 7.3.
    """
    return at_most("plug_current", string_a, rated_a, "A", PLUG_SOURCE)


@rule
def plug_grips(
    *, section_mm2: SectionMm2, least_mm2: SectionMm2, most_mm2: SectionMm2
) -> Judgement:
    """Is the plug's pin made for the conductor?

    Source: plug sheet (conductor sizes).
    """
    return within("plug_grips", section_mm2, least_mm2, most_mm2, "mm²", PLUG_SOURCE, exact="clear")


@rule
def plug_seals(*, outside_mm: OutsideMm, least_mm: OutsideMm, most_mm: OutsideMm) -> Judgement:
    """Does the seal under the back nut close round the cable?

    Source: plug sheet (cable diameters); IEC 60529 (degree of protection).
    """
    return within("plug_seals", outside_mm, least_mm, most_mm, "mm", PLUG_SOURCE, exact="clear")


@rule
def module_serials(*, read: Listed, of: Listed, doubled: Doubled = ()) -> Judgement:
    """Is every module's serial read, each once, where the warranty asks for them?

    Source: module sheet (warranty).
    """
    if doubled:
        return holds("module_serials", False, SERIALS_SOURCE, serials=", ".join(doubled[:3]))
    if not of:
        needs = (say("needs", "roof_for_serials"),)
        return waiting("module_serials", "", SERIALS_SOURCE, needs)
    return at_least("module_serials", read, of, "", SERIALS_SOURCE, under="waiting", exact="clear")
