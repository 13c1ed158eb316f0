"""Insulation resistance: the right test voltage, the least resistance."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from core.base.glossary import MaxSystemV, StringV
from core.base.judgement import Judgement, at_least, at_most, holds
from core.base.messages import figure
from core.base.quantity import Quantity
from core.base.rule import rule
from core.figures.rule_packs import GENERIC, RulePack

Megohm = Annotated[float, Quantity("insulation resistance", "MΩ", 0, 1e6)]
TestV = Annotated[float, Quantity("test voltage", "V", 0, 5000)]


@dataclass(frozen=True, kw_only=True)
class InsulationTest:
    """How an insulation test is made: its voltage, and the resistance it must find at least."""

    test_v: float
    least_mohm: float


@rule
def insulation_test(*, system_v: StringV, rule_pack: RulePack = GENERIC) -> InsulationTest:
    """With which voltage is the insulation of an array tested, and what must it have at least?

    system_v: below 120 V, 120 to 500 V, above 500 V; both edges belong to the middle band.
    Source: IEC 62446-1:2016, 6.7, Table 1; rule pack.
    """
    for band in rule_pack.prove.insulation:
        if band.up_to_v is None or system_v < band.up_to_v:
            break
        if band.edge_within and system_v <= band.up_to_v:
            break
    return InsulationTest(test_v=band.test_v, least_mohm=band.least_mohm)


@rule
def insulation_holds(
    *, mohm: Megohm, system_v: StringV, rule_pack: RulePack = GENERIC
) -> Judgement:
    """Is the insulation of a pole against earth good enough? Just the least still is.

    A tester that shows more than its range is taken at the end of its range.
    Source: IEC 62446-1:2016, 6.7, Table 1; rule pack.
    """
    test = insulation_test(system_v=system_v, rule_pack=rule_pack)
    return _held(mohm, test.least_mohm, test.test_v, rule_pack.prove.insulation_source)


@rule
def insulation_bears(*, mohm: Megohm, rule_pack: RulePack = GENERIC) -> Judgement:
    """Is the insulation of an AC run good enough, all its live cores against earth?

    Source: IEC 60364-6:2016, 6.4.3.3, Table 6.1; rule pack.
    """
    rule = rule_pack.prove
    return _held(mohm, rule.ac_least.value, rule.ac_test.value, rule.ac_least.source)


def _held(mohm: float, least_mohm: float, test_v: float, source: str) -> Judgement:
    return at_least("insulation_holds", mohm, least_mohm, "MΩ", source, test=figure(test_v, "V"))


@rule
def insulation_test_voltage(
    *, used_v: TestV, needed_v: TestV, most_v: MaxSystemV | None = None
) -> Judgement:
    """Was the test made with the voltage that it asks for, and not with more than what is borne?

    most_v: what the weakest part in the circuit is made for; None: not asked.
    Source: IEC 62446-1:2016, 6.7.
    """
    source = "IEC 62446-1:2016, 6.7, Table 1"
    if most_v is not None and used_v > most_v:
        return at_most("insulation_over", used_v, most_v, "V", source)
    # The test voltage itself is what is asked for: no margin is owed.
    return holds(
        "insulation_test_voltage",
        used_v >= needed_v,
        source,
        used=figure(used_v, "V"),
        needed=figure(needed_v, "V"),
    )
