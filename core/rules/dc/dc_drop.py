"""What a DC run costs: volts, watts, and a share of what the string gives."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import fsum
from typing import Annotated

from core.base.form import Checked
from core.base.glossary import CurrentA, LengthM, LimitPct, ROhmPerKm, Source, StringV
from core.base.judgement import Judgement, at_least, at_most
from core.base.messages import figure
from core.base.quantity import Items
from core.base.rule import rule
from core.figures.rule_packs import GENERIC, RulePack

CONDUCTORS = 2
M_PER_KM = 1000.0
DROP_SOURCE = "IEC 60364-5-52:2009, annex G; circuit theory"
AMPACITY_SOURCE = "IEC 62548-1:2023, 7.3; EN 50618:2014"


@dataclass(frozen=True, kw_only=True)
class DcPiece(Checked):
    """One piece of a DC run: one-way length, resistance of one conductor when warm."""

    length_m: LengthM
    r_ohm_per_km: ROhmPerKm


DcPieces = Annotated[tuple[DcPiece, ...], Items("pieces of the run", 1, 20)]


@dataclass(frozen=True, kw_only=True)
class DcDrop:
    """What a DC run costs at one current.

    loop_ohm: out and back. drop_pct: of the string's voltage at maximum power, STC.
    """

    loop_ohm: float
    drop_v: float
    drop_pct: float
    loss_w: float


@rule
def dc_drop(*, pieces: DcPieces, current_a: CurrentA, string_vmp_v: StringV) -> DcDrop:
    """How much of a string's voltage stays in its run?

    Formula: sum of 2 · L · R of the pieces, times current_a; in percent of string_vmp_v.
    Source: circuit theory; IEC 60364-5-52:2009, annex G.
    """
    loop_ohm = _loop_ohm(pieces)
    drop_v = current_a * loop_ohm
    return DcDrop(
        loop_ohm=loop_ohm,
        drop_v=drop_v,
        drop_pct=100 * drop_v / string_vmp_v if string_vmp_v else 0.0,
        loss_w=current_a * drop_v,
    )


def _loop_ohm(pieces: Sequence[DcPiece]) -> float:
    return fsum(CONDUCTORS * one.length_m * one.r_ohm_per_km / M_PER_KM for one in pieces)


@rule
def dc_drop_limit(
    *, drop_pct: float, limit_pct: LimitPct = 3.0, advisory_pct: LimitPct = 1.0
) -> Judgement:
    """Does the run lose more of the string's voltage than is good?

    Source: IEC 60364-5-52:2009, annex G; rule pack.
    """
    return at_most(
        "dc_drop_limit",
        drop_pct,
        limit_pct,
        "%",
        DROP_SOURCE,
        advisory=advisory_pct,
        advised=figure(advisory_pct, "%"),
    )


@rule
def dc_terminals(
    *, terminal_a: CurrentA, string_a: CurrentA, rule_pack: RulePack = GENERIC
) -> Judgement:
    """Do the ends of the wire bear the string's current for hours?

    terminal_a: the column of the terminals, without the factors of air and number. string_a:
    short-circuit current times the pack's factor.
    Formula: terminal_a ≥ circuit.continuous · string_a. The factors count once, on the current
    without this second 1.25.
    Source: NEC 2023 690.8(B)(1) and 110.14(C); rule pack.
    """
    rule = rule_pack.circuit.continuous
    return at_least("dc_terminals", terminal_a, rule.value * string_a, "A", rule.source)


@rule
def dc_ampacity(
    *, iz_a: CurrentA, string_a: CurrentA, source: Source = AMPACITY_SOURCE
) -> Judgement:
    """Does the wire carry the string's current with its factor?

    string_a: short-circuit current times the pack's factor. source: of the table that iz_a is from.
    Source: IEC 62548-1:2023, 7.3; EN 50618:2014, Table A.3.
    """
    return at_least("dc_ampacity", iz_a, string_a, "A", source)
