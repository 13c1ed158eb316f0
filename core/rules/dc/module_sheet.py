"""Whether the figures of a module's sheet go together."""

from __future__ import annotations

from dataclasses import fields

from core.base.judgement import Judgement, Verdict, holds
from core.base.rule import rule
from core.equipment.module import Module
from core.equipment.plausibility import module_doubts

SOURCE = "usual figures of crystalline modules; the module's own sheet wins"
# Figures whose slip makes a cold voltage or a current too small: the unsafe side.
UNSAFE = ("beta_voc_pct_per_k", "alpha_isc_pct_per_k", "voc_v", "isc_a", "vmp_v", "imp_a")


@rule
def module_plausible(*, module: Module) -> Judgement:
    """Do the figures of this module go together, as far as crystalline modules are alike?

    A slip that errs to the unsafe side: stop; any other: watch, its question is asked.
    Source: usual figures of crystalline modules; the module's own sheet wins.
    """
    figures = {
        field.name: float(value)
        for field in fields(module)
        if isinstance(value := getattr(module, field.name), int | float)
    }
    doubts = sorted(module_doubts(figures), key=lambda one: one.field not in UNSAFE)
    if not doubts:
        return holds("module_plausible", True, SOURCE)
    first = doubts[0]
    bad: Verdict = "stop" if first.field in UNSAFE else "watch"
    return holds("module_plausible", False, SOURCE, bad=bad, question=first.question)
