"""Whether parallel strings need fuses against reverse current, and which fit."""

from __future__ import annotations

from dataclasses import dataclass

from core.base.glossary import (
    FuseA,
    FuseMethod,
    IscA,
    MaxSeriesFuseA,
    ParallelStrings,
    RearGainFraction,
)
from core.base.judgement import Judgement, at_most, holds, same, waiting
from core.base.messages import figure, say
from core.base.rule import rule
from core.figures.rule_packs import GENERIC, RulePack


@dataclass(frozen=True, kw_only=True)
class FuseWindow:
    """The reverse current into one string, and the fuses that guard it.

    high_a: None where the school sets no upper factor. fitting_a: standard ratings in the window
    that the module bears. chosen_a: the smallest of them, None when no fuse is needed.
    """

    reverse_a: float
    needed: bool
    low_a: float
    high_a: float | None
    fitting_a: tuple[float, ...]
    chosen_a: float | None


@rule
def fuse_window(
    *,
    isc_a: IscA,
    parallel_strings: ParallelStrings,
    max_series_fuse_a: MaxSeriesFuseA,
    school: FuseMethod | None = None,
    rear_gain: RearGainFraction = 0.0,
    rule_pack: RulePack = GENERIC,
) -> FuseWindow:
    """Which reverse current can the other strings drive into one, and which fuses stop it?

    Needed: (Np - 1) * 1.25 * Isc > the module's maximum series fuse. Sizes, by school: IEC
    1.5 * Isc <= In <= 2.4 * Isc; US In >= 1.56 * Isc; never over the module's rating.
    Formula: isc_a · (1 + rear_gain) · fuse.low_factor to isc_a · (1 + rear_gain) ·
    fuse.high_factor, no more than max_series_fuse_a.
    Source: IEC 62548-1:2023, 6.5; NEC 2023 690.9.
    """
    rule = rule_pack.fuse
    strong_a = isc_a * (1 + rear_gain)
    reverse_a = (parallel_strings - 1) * rule.reverse_factor.value * strong_a
    is_iec = (school or rule.school) == "iec"
    low_a = strong_a * (rule.low_factor if is_iec else rule.us_factor).value
    high_a = strong_a * rule.high_factor.value if is_iec else None
    top_a = max_series_fuse_a if high_a is None else min(high_a, max_series_fuse_a)
    fitting = tuple(rating for rating in rule.ratings_a if _between(low_a, rating, top_a))
    needed = reverse_a > max_series_fuse_a and not same(reverse_a, max_series_fuse_a)
    return FuseWindow(
        reverse_a=reverse_a,
        needed=needed,
        low_a=low_a,
        high_a=high_a,
        fitting_a=fitting,
        chosen_a=fitting[0] if needed and fitting else None,
    )


def _between(low: float, value: float, high: float) -> bool:
    return (low <= value or same(low, value)) and (value <= high or same(value, high))


@rule
def string_reverse_current(
    *,
    isc_a: IscA,
    parallel_strings: ParallelStrings,
    max_series_fuse_a: MaxSeriesFuseA,
    rear_gain: RearGainFraction = 0.0,
    rule_pack: RulePack = GENERIC,
) -> Judgement:
    """Can a string without fuses bear what the strings beside it drive into it?

    Formula: (parallel_strings − 1) · fuse.reverse_factor · isc_a · (1 + rear_gain) ≤
    max_series_fuse_a.
    Source: IEC 62548-1:2023, 6.5; module sheet.
    """
    window = fuse_window(
        isc_a=isc_a,
        parallel_strings=parallel_strings,
        max_series_fuse_a=max_series_fuse_a,
        rear_gain=rear_gain,
        rule_pack=rule_pack,
    )
    return at_most(
        "string_reverse_current",
        window.reverse_a,
        max_series_fuse_a,
        "A",
        rule_pack.fuse.source,
        others=str(parallel_strings - 1),
        fits=_fits(window),
    )


def _fits(window: FuseWindow) -> str:
    if not window.fitting_a:
        return say("string_fuse", "none_fits")
    return " or ".join(figure(rating, "A") for rating in window.fitting_a)


@rule
def module_fuse(*, fuse_a: FuseA, max_series_fuse_a: MaxSeriesFuseA) -> Judgement:
    """Does the fuse of a string alone on its tracker stay within what the module bears?

    Source: module sheet, maximum series fuse; IEC 62548-1:2023, 6.5.
    """
    source = "module sheet; IEC 62548-1:2023, 6.5"
    return at_most("module_fuse", fuse_a, max_series_fuse_a, "A", source, exact="clear")


@rule
def string_fuse(
    *,
    isc_a: IscA,
    parallel_strings: ParallelStrings,
    max_series_fuse_a: MaxSeriesFuseA | None = None,
    fuse_a: FuseA | None = None,
    rear_gain: RearGainFraction = 0.0,
    rule_pack: RulePack = GENERIC,
) -> Judgement:
    """Are these parallel strings guarded against reverse current as they must be?

    Without fuses the reverse current is held against the module; with fuses the fuse is held
    against its window.
    Formula: 1.5 · Isc ≤ In ≤ 2.4 · Isc, and In ≤ the module's.
    Source: IEC 62548-1:2023, 6.5; NEC 2023 690.9; module sheet.
    """
    source = rule_pack.fuse.source
    if max_series_fuse_a is None:
        return waiting("string_fuse", "A", source, (say("needs", "series_fuse"),))
    window = fuse_window(
        isc_a=isc_a,
        parallel_strings=parallel_strings,
        max_series_fuse_a=max_series_fuse_a,
        rear_gain=rear_gain,
        rule_pack=rule_pack,
    )
    if fuse_a is None:
        return string_reverse_current(
            isc_a=isc_a,
            parallel_strings=parallel_strings,
            max_series_fuse_a=max_series_fuse_a,
            rear_gain=rear_gain,
            rule_pack=rule_pack,
        )
    top_a = max_series_fuse_a if window.high_a is None else min(window.high_a, max_series_fuse_a)
    return holds(
        "string_fuse",
        _between(window.low_a, fuse_a, top_a),
        source,
        fuse=figure(fuse_a, "A"),
        low=figure(window.low_a),
        high=figure(top_a, "A"),
        fits=_fits(window),
    )
