"""Where a string's voltage lies, cold and hot, against what inverter and module can take."""

from __future__ import annotations

import math
from dataclasses import dataclass

from core.base.glossary import (
    BetaVocPctPerK,
    ColdMethod,
    MaxDcV,
    MaxSystemV,
    ModulesInSeries,
    StartMethod,
    StringV,
    TAirMinC,
    TCellC,
    VocV,
)
from core.base.judgement import NOISE_REL, Judgement, at_least, at_most, waiting
from core.base.messages import figure, say
from core.base.rule import rule
from core.equipment.inverter import DcWindow
from core.equipment.module import Module
from core.figures.rule_packs import GENERIC, ColdRule, RulePack

STC_CELL_C = 25.0
MOST_BY = {"inverter": "inverter_max_dc", "module": "module_system", "building": "building_most"}
SHEET = "IEC 62548-1:2023, 7.2; inverter and module sheets"


@dataclass(frozen=True, kw_only=True)
class StringVolts:
    """The voltages of one string, cold and hot. None where the cold school has no figure."""

    t_cell_cold_c: float
    t_cell_hot_c: float
    voc_cold_v: float | None
    vmp_cold_v: float
    vmp_hot_v: float
    voc_hot_v: float


@dataclass(frozen=True, kw_only=True)
class SeriesCount:
    """How many modules may stand in series, and what sets each bound.

    most, least: hard bounds. good_least, good_most: the counts that also stay at full power hot
    and cold, None when there is none. blocks, frees: when nothing fits, which limits meet and
    what would free it.
    """

    most: int | None
    most_by: str
    least: int
    least_by: str
    least_to_track: int
    least_to_start_on_vmp_hot: int
    least_to_start_on_voc_hot: int
    most_inside_tracking: int
    good_least: int | None
    good_most: int | None
    feasible: bool
    blocks: str | None
    frees: str | None


def at_temperature(stc_v: float, beta_pct_per_k: float, t_cell_c: float) -> float:
    """A module voltage moved from 25 C by its linear coefficient (IEC 60891 procedure 1)."""
    return stc_v * (1 + beta_pct_per_k / 100 * (t_cell_c - STC_CELL_C))


def vmp_coefficient(module: Module) -> float:
    """Coefficient of Vmp in %/K; where the sheet gives none, that of power less that of current."""
    if module.beta_vmp_pct_per_k is not None:
        return module.beta_vmp_pct_per_k
    return module.gamma_pmax_pct_per_k - module.alpha_isc_pct_per_k


@rule
def sheet_factor(*, beta_voc_pct_per_k: BetaVocPctPerK, t_cell_c: TCellC) -> float:
    """By how much does the module's own coefficient move its open-circuit voltage?

    Formula: 1 + beta_voc_pct_per_k/100 · (t_cell_c − 25).
    Source: IEC 60891:2021, procedure 1; module sheet.
    """
    return at_temperature(1.0, beta_voc_pct_per_k, t_cell_c)


@rule
def cold_factor(
    *,
    t_air_min_c: TAirMinC,
    school: ColdMethod,
    beta_voc_pct_per_k: BetaVocPctPerK,
    rule_pack: RulePack = GENERIC,
) -> float | None:
    """By how much does open-circuit voltage rise on the coldest morning?

    Schools: datasheet (1 + beta/100 * (t - 25)); banded (table by lowest temperature, the
    colder band between whole degrees, 1 from 25 C up, none below the table's end);
    flat (one factor whatever the cold).
    Source: IEC 62548-1:2023, 7.2; NEC 2023 Table 690.7(A); UK practice.
    """
    rule = rule_pack.cold
    if school == "datasheet":
        return sheet_factor(beta_voc_pct_per_k=beta_voc_pct_per_k, t_cell_c=t_air_min_c)
    return rule.flat_factor.value if school == "flat" else _band_factor(t_air_min_c, rule)


def _band_factor(t_air_min_c: float, rule: ColdRule) -> float | None:
    whole_degree = math.floor(t_air_min_c + NOISE_REL)
    fitting = [band for band in rule.bands if band.from_c <= whole_degree]
    return max(fitting, key=lambda band: band.from_c).factor if fitting else None


@rule
def string_volts(
    *,
    module: Module,
    modules_in_series: ModulesInSeries,
    t_air_min_c: TAirMinC,
    t_cell_hot_c: TCellC,
    school: ColdMethod,
    rule_pack: RulePack = GENERIC,
) -> StringVolts:
    """Which voltages does this string have on the coldest morning and the hottest noon?

    Formula: modules_in_series · module.voc_v · (1 + module.beta_voc_pct_per_k/100 · (t_air_min_c −
    25)). Coldest cell = coldest air, at dawn; a school of factors puts its own in place of the
    bracket.
    Source: IEC 62548-1:2023, 7.2.
    """
    count = modules_in_series
    factor = _cold_factor_of(
        beta_voc_pct_per_k=module.beta_voc_pct_per_k,
        t_air_min_c=t_air_min_c,
        school=school,
        rule_pack=rule_pack,
    )
    beta_vmp = vmp_coefficient(module)
    return StringVolts(
        t_cell_cold_c=t_air_min_c,
        t_cell_hot_c=t_cell_hot_c,
        voc_cold_v=None if factor is None else count * module.voc_v * factor,
        vmp_cold_v=count * at_temperature(module.vmp_v, beta_vmp, t_air_min_c),
        vmp_hot_v=count * at_temperature(module.vmp_v, beta_vmp, t_cell_hot_c),
        voc_hot_v=count * at_temperature(module.voc_v, module.beta_voc_pct_per_k, t_cell_hot_c),
    )


def _cold_factor_of(
    *, beta_voc_pct_per_k: float, t_air_min_c: float, school: ColdMethod, rule_pack: RulePack
) -> float | None:
    """The factor of a module: a flat one counts only where its coefficient gives no more."""
    factor = cold_factor(
        t_air_min_c=t_air_min_c,
        school=school,
        beta_voc_pct_per_k=beta_voc_pct_per_k,
        rule_pack=rule_pack,
    )
    if school != "flat" or factor is None:
        return factor
    return max(factor, at_temperature(1.0, beta_voc_pct_per_k, t_air_min_c))


@rule
def string_voc_cold(
    *,
    modules_in_series: ModulesInSeries,
    voc_v: VocV,
    beta_voc_pct_per_k: BetaVocPctPerK,
    t_air_min_c: TAirMinC,
    max_dc_v: MaxDcV,
    max_system_v: MaxSystemV,
    building_most_v: MaxSystemV | None = None,
    school: ColdMethod = "datasheet",
    rule_pack: RulePack = GENERIC,
) -> Judgement:
    """Does the string stay below what inverter, modules and house can take on the coldest morning?

    building_most_v: what the code lets stand on a house; None where that is not asked.
    Formula: modules_in_series · voc_v · cold_factor ≤ the lowest of max_dc_v, max_system_v and
    building_most_v; a flat factor counts only where the sheet's coefficient gives no more.
    Source: IEC 62548-1:2023, 7.2; NEC 2023 690.7(A); UK practice, by school.
    """
    rule = rule_pack.cold
    source = {
        "datasheet": "IEC 62548-1:2023, 7.2; module sheet's coefficient",
        "banded": rule.bands_source,
        "flat": rule.flat_factor.source,
    }[school]
    factor = _cold_factor_of(
        t_air_min_c=t_air_min_c,
        school=school,
        beta_voc_pct_per_k=beta_voc_pct_per_k,
        rule_pack=rule_pack,
    )
    if factor is None:
        return waiting("string_voc_cold", "V", source, (say("needs", "cold_factor"),))
    limit_v, owner = _lowest(max_dc_v, max_system_v, building_most_v)
    return at_most(
        "string_voc_cold",
        modules_in_series * voc_v * factor,
        limit_v,
        "V",
        source if owner != "building" else rule.building_most.source,
        count=str(modules_in_series),
        cold=_cold_in_words(factor, t_air_min_c, school, rule),
        owner=say("owners", owner),
    )


def _cold_in_words(factor: float, t_air_min_c: float, school: ColdMethod, rule: ColdRule) -> str:
    """What a cold voltage was reckoned with: the air, or a factor that knows none."""
    if school == "flat" and factor == rule.flat_factor.value:
        return say("cold_by", "flat", factor=figure(factor, digits=2))
    return say("cold_by", "air", air=figure(t_air_min_c, "°C"))


def _lowest(max_dc_v: float, max_system_v: float, building_v: float | None) -> tuple[float, str]:
    """The lowest of the limits, and whose it is."""
    limits = [(max_dc_v, "inverter"), (max_system_v, "module")]
    if building_v is not None:
        limits.append((building_v, "building"))
    return min(limits, key=lambda one: one[0])


@rule
def string_start(
    *,
    vmp_hot_v: StringV,
    voc_hot_v: StringV,
    start_v: StringV,
    start_on: StartMethod = "vmp_hot",
) -> Judgement:
    """Does the inverter still start on the hottest day?

    Schools: on Vmp hot (safe) or on Voc hot; they often differ by one module.
    Source: inverter sheet; IEC 62548-1:2023, 7.2.
    """
    value = vmp_hot_v if start_on == "vmp_hot" else voc_hot_v
    return at_least("string_start", value, start_v, "V", SHEET, on=say("start_on", start_on))


@rule
def string_track_hot(*, vmp_hot_v: StringV, track_min_v: StringV) -> Judgement:
    """Does the tracker still find the maximum power point on the hottest day?

    Source: inverter sheet; IEC 62548-1:2023, 7.2.
    """
    return at_least("string_track_hot", vmp_hot_v, track_min_v, "V", SHEET)


@rule
def string_track_cold(*, vmp_cold_v: StringV, track_max_v: StringV) -> Judgement:
    """Does the tracker reach the maximum power point on the coldest morning?

    Source: inverter sheet; IEC 62548-1:2023, 7.2.
    """
    return at_most("string_track_cold", vmp_cold_v, track_max_v, "V", SHEET, over="watch")


@rule
def string_full_power_hot(*, vmp_hot_v: StringV, full_power_min_v: StringV) -> Judgement:
    """Can the inverter give full power on the hottest day?

    Source: inverter sheet.
    """
    return at_least("string_full_power_hot", vmp_hot_v, full_power_min_v, "V", SHEET, under="watch")


@rule
def string_full_power_cold(*, vmp_cold_v: StringV, full_power_max_v: StringV) -> Judgement:
    """Can the inverter give full power on the coldest morning?

    Source: inverter sheet.
    """
    return at_most("string_full_power_cold", vmp_cold_v, full_power_max_v, "V", SHEET, over="watch")


def most_that_fit(limit_v: float, one_v: float) -> int:
    """Whole modules below a limit; float noise never costs a module that fits exactly."""
    return math.floor(limit_v / one_v * (1 + NOISE_REL))


def least_that_reach(limit_v: float, one_v: float) -> int:
    """Whole modules needed to reach a limit; float noise never asks for one more."""
    return max(1, math.ceil(limit_v / one_v * (1 - NOISE_REL)))


@rule
def series_count(
    *,
    module: Module,
    dc: DcWindow,
    t_air_min_c: TAirMinC,
    t_cell_hot_c: TCellC,
    school: ColdMethod = "datasheet",
    start_on: StartMethod = "vmp_hot",
    building_most_v: MaxSystemV | None = None,
    rule_pack: RulePack = GENERIC,
) -> SeriesCount:
    """How many modules may stand in series on this inverter?

    Hard maximum: lowest of inverter maximum, module system voltage and what a house may have,
    cold. Hard minimum:
    tracking minimum and start voltage, hot. Good: Vmp inside the full-power window hot and cold.
    Limits are inclusive.
    Formula: ⌊V_max / Voc_cold⌋ modules at most; ⌈V_min / Vmp_hot⌉ at least.
    Source: IEC 62548-1:2023, 7.2; NEC 2023 690.7; UK practice, by school.
    """
    one = string_volts(
        module=module,
        modules_in_series=1,
        t_air_min_c=t_air_min_c,
        t_cell_hot_c=t_cell_hot_c,
        school=school,
        rule_pack=rule_pack,
    )
    limit_v, owner = _lowest(dc.max_dc_v, module.max_system_v, building_most_v)
    most = None if one.voc_cold_v is None else most_that_fit(limit_v, one.voc_cold_v)
    track = least_that_reach(dc.track_min_v, one.vmp_hot_v)
    start_vmp = least_that_reach(dc.start_v, one.vmp_hot_v)
    start_voc = least_that_reach(dc.start_v, one.voc_hot_v)
    start = start_vmp if start_on == "vmp_hot" else start_voc
    least = max(track, start)
    good_least = max(least, least_that_reach(dc.full_power_min_v, one.vmp_hot_v))
    good_most = min(most or 0, most_that_fit(dc.full_power_max_v, one.vmp_cold_v))
    feasible = most is not None and least <= most
    has_good = feasible and good_least <= good_most
    blocks, frees = (None, None) if feasible else _what_blocks(most, least, limit_v, one)
    return SeriesCount(
        most=most,
        most_by=MOST_BY[owner],
        least=least,
        least_by="start" if start > track else "track_min",
        least_to_track=track,
        least_to_start_on_vmp_hot=start_vmp,
        least_to_start_on_voc_hot=start_voc,
        most_inside_tracking=most_that_fit(dc.track_max_v, one.vmp_cold_v),
        good_least=good_least if has_good else None,
        good_most=good_most if has_good else None,
        feasible=feasible,
        blocks=blocks,
        frees=frees,
    )


def _what_blocks(most: int | None, least: int, limit_v: float, one: StringVolts) -> tuple[str, str]:
    if most is None or one.voc_cold_v is None:
        return say("series_count", "no_factor"), say("series_count", "no_factor_frees")
    facts = {"most": str(most), "least": str(least), "limit": figure(limit_v, "V")}
    needed_v = figure(least * one.voc_cold_v, "V")
    return (
        say("series_count", "blocks", **facts),
        say(
            "series_count",
            "frees",
            needed=needed_v,
            reach=figure(most * one.vmp_hot_v, "V"),
        ),
    )
