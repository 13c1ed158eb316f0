"""What hangs on each fixing, and whether the fixing and the wall hold it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal

from core.base.glossary import (
    Entry,
    FixingCount,
    LeverMm,
    LoadFactor,
    LoadN,
    MassKg,
    Name,
    People,
    WallKind,
)
from core.base.judgement import Judgement, at_least, at_most, holds
from core.base.messages import figure, say
from core.base.quantity import Quantity
from core.base.rule import rule

# Standard acceleration of free fall, rounded as the trade does (ISO 80000-3 gives 9.806 65).
GRAVITY_M_PER_S2 = 9.81
WHOLE_PCT = 100.0
FIXING_SOURCE = "fixing sheet; rule pack (factor on fixings)"
WALL_SOURCE = "fixing sheet (wall)"
LIFT_SOURCE = "rule pack (lift)"

Behind = Literal["solid", "hollow", "stud", "board", "wood", "backing"]
MostKg = Annotated[float, Quantity("mass", "kg", 0.1, 200)]
EdgeMm = Annotated[float, Quantity("from the edge of the board", "mm", 0, 30_000)]
Bearing = Annotated[int, Quantity("top fixings that bear", "", 0, 40)]


@dataclass(frozen=True, kw_only=True)
class FixingLoad:
    """The load of a device on its fixings, in newton.

    tension: on each of the top fixings that bear, from tipping; shear: on each fixing that
    bears. resultant: both as one force; sum: both added, the safe way.
    """

    weight_n: float
    tension_per_top_fixing_n: float
    shear_per_fixing_n: float
    resultant_per_top_fixing_n: float
    tension_plus_shear_n: float


@dataclass(frozen=True, kw_only=True)
class Lift:
    """How many people lift a device, and whether with an aid."""

    people: int
    with_aid: bool


@rule
def fixing_load(
    *,
    mass_kg: MassKg,
    cg_from_wall_mm: LeverMm,
    top_row_above_pivot_mm: LeverMm,
    top_fixings: FixingCount,
    all_fixings: FixingCount,
) -> FixingLoad:
    """How much pulls and how much shears on each fixing? [N]

    The device tips about its lower edge: tension = m*g*e/(z*n_top), shear = m*g/n_all.
    Formula: mass_kg · 9.81 · cg_from_wall_mm / (top_row_above_pivot_mm · top_fixings); shear
    mass_kg · 9.81 / all_fixings.
    Source: equilibrium of forces and moment; g = 9.81 m/s2.
    """
    weight_n = mass_kg * GRAVITY_M_PER_S2
    tension_n = weight_n * cg_from_wall_mm / (top_row_above_pivot_mm * top_fixings)
    shear_n = weight_n / all_fixings
    return FixingLoad(
        weight_n=weight_n,
        tension_per_top_fixing_n=tension_n,
        shear_per_fixing_n=shear_n,
        resultant_per_top_fixing_n=math.hypot(tension_n, shear_n),
        tension_plus_shear_n=tension_n + shear_n,
    )


@rule
def fixings_hold(
    *,
    tension_n: LoadN,
    shear_n: LoadN,
    holds_tension_n: LoadN,
    holds_shear_n: LoadN,
    factor: LoadFactor,
    fixing: Name,
    instead: Literal["larger", "studs", "backing"] = "larger",
) -> Judgement:
    """Does the fixing hold the load with the factor on it? [% of what it holds]

    Pull and shear together: factor * (T/T_holds + V/V_holds) <= 100 %.
    Formula: 100 · factor · (tension_n / holds_tension_n + shear_n / holds_shear_n) ≤ 100 %.
    Source: fixing sheet; linear interaction as EN 1992-4 allows it on the safe side.
    """
    used_pct = WHOLE_PCT * factor * (tension_n / holds_tension_n + shear_n / holds_shear_n)
    return at_most(
        "fixings_hold",
        used_pct,
        WHOLE_PCT,
        "%",
        FIXING_SOURCE,
        fixing=fixing,
        pull=figure(tension_n, "N"),
        shear=figure(shear_n, "N"),
        factor=figure(factor),
        instead=say("instead", instead),
    )


@rule
def fixing_for_wall(*, fixing_wall: WallKind, behind: Behind, fixing: Name) -> Judgement:
    """Is the fixing made for what is behind its holes? A backing board is wood.

    Source: fixing sheet.
    """
    made_for = "wood" if behind == "backing" else behind
    return holds(
        "fixing_for_wall",
        fixing_wall == made_for,
        WALL_SOURCE,
        fixing=fixing,
        wall=say("walls", fixing_wall),
        behind=say("walls", behind),
    )


@rule
def fixings_bear(*, bearing: Bearing, top_fixings: FixingCount) -> Judgement:
    """How many of the top holes lie on something that bears: solid wall, stud, backing board?

    None: stop; some: watch, and those alone take the load.
    Source: the wall as drawn.
    """
    return holds(
        "fixings_bear",
        bearing == top_fixings,
        "the wall as drawn",
        bad="stop" if bearing == 0 else "watch",
        bearing=str(bearing),
        all=str(top_fixings),
    )


@rule
def board_bears(*, mass_kg: MassKg, most_kg: MostKg) -> Judgement:
    """May this hang on board alone?

    Above the most: stop, and studs or a backing board would hold it.
    Source: rule pack (board alone).
    """
    return at_most("board_bears", mass_kg, most_kg, "kg", "rule pack (board alone)")


@rule
def combustible_wall(*, combustible: bool, allowed: bool, device: Name) -> Judgement:
    """May the device hang on a combustible wall?

    Source: device sheet.
    """
    return holds("combustible_wall", allowed or not combustible, "device sheet", device=device)


@rule
def board_edge(*, from_edge_mm: EdgeMm, least_mm: EdgeMm) -> Judgement:
    """Is a hole in board far enough from the board's edge?

    Nearer: watch, the edge crumbles.
    Source: rule pack (board edges).
    """
    return at_least(
        "board_edge", from_edge_mm, least_mm, "mm", "rule pack (board edges)", under="watch"
    )


@rule
def entry_outdoors(*, entry: Entry) -> Judgement:
    """Does a cable enter from above, outdoors?

    Water runs in along the cable: stop.
    Source: IEC 60529; device sheet.
    """
    return holds("entry_outdoors", entry != "top", "IEC 60529; device sheet (entries)")


@rule
def lift(*, mass_kg: MassKg, two_people_kg: MostKg, lifting_aid_kg: MostKg) -> Lift:
    """How many people lift it, and with what?

    Above the first figure two people, above the second a lifting aid; exactly on a figure does
    not need more.
    Source: rule pack (lift).
    """
    return Lift(people=2 if mass_kg > two_people_kg else 1, with_aid=mass_kg > lifting_aid_kg)


@rule
def lift_people(*, mass_kg: MassKg, needed: People, present: People, with_aid: bool) -> Judgement:
    """Are enough people here to lift it?

    Source: rule pack (lift).
    """
    return holds(
        "lift_people",
        present >= needed,
        LIFT_SOURCE,
        mass=figure(mass_kg, "kg"),
        lift=say("lift", "aid" if with_aid else str(needed)),
        present=str(present),
    )
