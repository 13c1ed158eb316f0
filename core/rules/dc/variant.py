"""Which make-up of an inverter family hangs on the wall."""

from __future__ import annotations

from core.base.glossary import Name, Note
from core.base.judgement import Judgement, holds, waiting
from core.base.messages import say
from core.base.rule import rule

SURGE_SOURCE = "inverter sheet (variants); IEC 60364-7-712:2017, 712.443"
VARIANT_SOURCE = "inverter sheet (variants); nameplate"


@rule
def variant_told(*, told: Note, variants: tuple[Name, ...]) -> Judgement:
    """Is it said which variant of the family this is, and does the sheet know it?

    told: its name as on the plate; empty while nobody said.
    Source: inverter sheet; nameplate.
    """
    shown = " · ".join(variants)
    if not told:
        return waiting("variant_told", "", VARIANT_SOURCE, (say("needs", "variant", names=shown),))
    return holds("variant_told", told in variants, VARIANT_SOURCE, told=told, names=shown)


@rule
def variant_surge(*, built_in: bool, planned: bool) -> Judgement:
    """Is the inverter's end of the DC run guarded against surges: by the variant, or as planned?

    Neither: watch, the code in force decides.
    Source: inverter sheet (variants); IEC 60364-7-712:2017, 712.443.
    """
    return holds("variant_surge", built_in or planned, SURGE_SOURCE, bad="watch")
