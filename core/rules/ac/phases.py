"""How several sources load the phases and the cables that they share."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal

from core.base.form import Checked
from core.base.glossary import (
    CurrentA,
    Phase,
    Service,
)
from core.base.judgement import Judgement, at_most
from core.base.quantity import Items, Quantity
from core.base.rule import rule
from core.rules.ac.phase_network import (
    ANGLES_DEG,
    NEUTRAL,
    NetworkInverter,
    NetworkInverters,
    ends_of,
)

ApparentKva = Annotated[float, Quantity("apparent power", "kVA", 0, 400)]
OwnA = Annotated[float, Quantity("the inverter's own current", "A", 0.1, 2000)]
# What a source on all lines, and one on the line looked at, adds to a shared piece.
SHARES: dict[Service, tuple[float, float]] = {
    "single": (0.5, 1.0), "split": (1.0, 0.5), "three": (1.0, 2.0)
}  # fmt: skip
UNBALANCE_SOURCE = "VDE-AR-N 4105, 5.4; network operator's rules, by rule pack"


@dataclass(frozen=True, kw_only=True)
class Unbalance:
    """Apparent power of the inverters on each phase, and how far the phases are apart.

    worst_kva: when any of the inverters may be off.
    """

    kva: tuple[float, ...]
    unbalance_kva: float
    worst_kva: float


@rule
def unbalance_of_phases(*, service: Service, inverters: NetworkInverters) -> Unbalance:
    """How far apart do the inverters load the phases, and how far at the worst?

    Apparent powers are added by phase, loads left out; between two lines half stands on each.
    Formula: largest phase minus smallest; worst: over each two phases, the sum of what each
    inverter gives the first more than the second.
    Source: VDE-AR-N 4105, 5.4.
    """
    phases = tuple(ANGLES_DEG[service])
    return unbalance_of(tuple(_phase_kva(one, phases) for one in inverters))


@rule
def unbalance_limit(
    *,
    unbalance_kva: ApparentKva,
    limit_kva: ApparentKva = 4.6,
    over: Literal["stop", "watch"] = "stop",
) -> Judgement:
    """Do the inverters load the phases evenly enough?

    over: what more than the limit is; watch where the network operator's own limit decides.
    Source: VDE-AR-N 4105, 5.4 (4.6 kVA); network operator's rules, by rule pack.
    """
    return at_most("unbalance_limit", unbalance_kva, limit_kva, "kVA", UNBALANCE_SOURCE, over=over)


@dataclass(frozen=True, kw_only=True)
class Beside(Checked):
    """What another source gives each line that it feeds. phase: 0 for all of them."""

    phase: Phase
    current_a: CurrentA


BesideAll = Annotated[tuple[Beside, ...], Items("other sources", 0, 60)]


@rule
def beside_factor(*, service: Service, own_a: OwnA, others: BesideAll, phase: Phase = 0) -> float:
    """How often does a shared piece of cable count for an inverter while others feed beside it?

    service: of the inverter; phase: which it feeds, 0 on all, or while a one-phase inverter's is
    not said: then the worst counts. Line and neutral are of one size. What another phase would
    relieve is not counted on: that source may stand still.
    Formula: 1 + Σ share · I / I_own; share 1 for a source of its own kind and phase, 2 for one on
    one phase beside a three-phase inverter, ½ for a three-phase one beside one on one phase or for
    half of a split phase, 0 on another phase.
    Source: circuit theory; IEC 60364-5-52:2009, annex G.
    """
    lines = (phase,) if phase else tuple({one.phase for one in others if one.phase}) or (1,)
    whole, alone = SHARES[service]
    # Between the two lines of a split phase the rise of either counts.
    both = service == "split"
    worst = max(
        math.fsum(
            one.current_a * (whole if one.phase == 0 else alone * (both or one.phase == line))
            for one in others
        )
        for line in lines
    )
    return 1 + worst / own_a


def unbalance_of(shares_kva: tuple[tuple[float, ...], ...]) -> Unbalance:
    """The same from what each source gives each phase."""
    lines = range(len(shares_kva[0]))
    kva = tuple(math.fsum(share[at] for share in shares_kva) for at in lines)
    worst = max(
        math.fsum(max(0.0, share[high] - share[low]) for share in shares_kva)
        for high in lines
        for low in lines
    )
    return Unbalance(kva=kva, unbalance_kva=max(kva) - min(kva), worst_kva=worst)


def _phase_kva(one: NetworkInverter, phases: tuple[str, ...]) -> tuple[float, ...]:
    kva = one.power_w / one.power_factor / 1000
    if one.connection == "three-phase":
        return tuple(kva / len(phases) for _ in phases)
    ends = ends_of(one.connection)
    lines = [end for end in ends if end != NEUTRAL]
    return tuple(kva / len(lines) if phase in lines else 0.0 for phase in phases)
