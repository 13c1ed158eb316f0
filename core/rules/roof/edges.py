"""Modules on a roof: how far they keep from its edges, and off what stands on it."""

from __future__ import annotations

from typing import Annotated, Literal

from core.base.glossary import Name
from core.base.judgement import Judgement, at_least, holds
from core.base.messages import say
from core.base.quantity import Quantity
from core.base.rule import rule
from core.figures.rule_packs import GENERIC, RulePack

RoofSide = Literal["left", "right", "ridge", "eave"]
FreeMm = Annotated[float, Quantity("from the modules to the edge", "mm", -60_000, 60_000)]
OUTLINE_SOURCE = "the plane as measured"


@rule
def roof_edge(
    *, free_mm: FreeMm, side: RoofSide, plane: Name, rule_pack: RulePack = GENERIC
) -> Judgement:
    """Do modules keep their distance from an edge of the roof? Short: watch; the code decides.

    Wind lifts most at the edges, and the fire service walks there.
    Source: rule pack (edges of a roof).
    """
    rules = rule_pack.roof_edge
    least = {"left": rules.side, "right": rules.side, "ridge": rules.ridge, "eave": rules.eave}
    figure = least[side]
    shown = say("roof_sides", side)
    return at_least(
        "roof_edge",
        free_mm,
        figure.value,
        "mm",
        figure.source,
        under="watch",
        side=shown,
        plane=plane,
    )


@rule
def roof_inside(*, beyond: str, plane: Name) -> Judgement:
    """Do all modules lie on the roof? beyond: the edges over which they reach; empty for none.

    Source: the plane as measured.
    """
    return holds("roof_inside", not beyond, OUTLINE_SOURCE, sides=beyond, plane=plane)


@rule
def roof_obstacle(*, obstacle: Name, modules: str, plane: Name) -> Judgement:
    """Does no module lie on what stands on the roof? modules: those that would; empty for none.

    Source: the plane as measured.
    """
    good = not modules
    return holds(
        "roof_obstacle", good, OUTLINE_SOURCE, obstacle=obstacle, modules=modules, plane=plane
    )
