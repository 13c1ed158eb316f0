"""What makes an array safe beside its volts and amps: monitors, arcs, shutdown, surges, weather."""

from __future__ import annotations

from typing import Annotated

from core.base.glossary import Has, LengthM, RatedV, StringV
from core.base.judgement import Judgement, Verdict, at_least, at_most, holds, waiting
from core.base.messages import figure, say
from core.base.quantity import Quantity
from core.base.rule import rule
from core.equipment.cables_switches_fixings import IpDigits
from core.figures.rule_packs import GENERIC, RulePack
from core.job.safety import FlashDensity, LeadM, Shutdown

CABLE_SOURCE = "IEC 62548-1:2023, 7.4; EN 50618:2014; cable's print"
MONITOR_SOURCE = "IEC 62109-2:2011, 4.8; inverter sheet; NEC 2023 690.41(B)"
SURGE_SOURCE = "IEC 61643-32:2017, 9.2; surge device's sheet"
Megohm = Annotated[float, Quantity("insulation resistance", "MΩ", 0, 1_000_000)]
AreaM2 = Annotated[float, Quantity("area of the modules tested", "m²", 0.5, 2000)]
ArrayKw = Annotated[float, Quantity("power of the array", "kW", 0.05, 1000)]
AirC = Annotated[float, Quantity("air round the conductors", "°C", -60, 120)]
RoofGapMm = Annotated[float, Quantity("above the roof", "mm", 0, 2000)]


@rule
def cable_voltage(*, rated_v: RatedV, voc_cold_v: StringV) -> Judgement:
    """Is the string's cable made for the voltage of the coldest morning?

    Formula: rated_v ≥ voc_cold_v.
    Source: IEC 62548-1:2023, 7.4; EN 50618:2014.
    """
    return at_least("cable_voltage", rated_v, voc_cold_v, "V", CABLE_SOURCE)


@rule
def inverter_monitors(*, insulation: Has, residual: Has) -> Judgement:
    """Does the inverter test the array's insulation first, and watch its residual current?

    The sheet does not say: watch. It has one not: stop, something else must do it.
    Source: IEC 62109-2:2011, 4.8; NEC 2023 690.41(B) (ground-fault protection); inverter sheet.
    """
    has = {"insulation": insulation, "residual": residual}
    lacking = [name for name, said in has.items() if said == "no"]
    unsaid = [name for name, said in has.items() if said == "unsaid"]
    bad: Verdict = "stop" if lacking else "watch"
    which = " and ".join(say("monitors", name) for name in lacking or unsaid)
    said = say("monitors", "lacking" if lacking else "unsaid", which=which)
    return holds(
        "inverter_monitors", not lacking and not unsaid, MONITOR_SOURCE, bad=bad, said=said
    )


@rule
def arc_detection(*, detects: Has, voc_cold_v: StringV, rule_pack: RulePack = GENERIC) -> Judgement:
    """Does something stop an arc in the array, where the code asks for it?

    Source: NEC 2023 690.11; rule pack.
    """
    rule = rule_pack.safety
    asked = rule.arc == "asked" and not voc_cold_v < rule.arc_above.value
    bad: Verdict = "stop" if detects == "no" else "watch"
    return holds(
        "arc_detection",
        not asked or detects == "yes",
        rule.arc_above.source,
        bad=bad,
        volts=figure(voc_cold_v, "V"),
        limit=figure(rule.arc_above.value, "V"),
        asked=say("arcs", "asked" if asked else "not_asked"),
    )


@rule
def shutdown_inside(*, shutdown: Shutdown | None, rule_pack: RulePack = GENERIC) -> Judgement:
    """Is the array harmless inside its boundary after a shutdown?

    Not planned where the code asks for it: waiting.
    Formula: shutdown.inside_v ≤ safety.inside.
    Source: NEC 2023 690.12(B)(2); rule pack.
    """
    limit = rule_pack.safety.inside
    if shutdown is None:
        return waiting("shutdown_inside", "V", limit.source, (say("needs", "shutdown"),))
    return at_most(
        "shutdown_inside", shutdown.inside_v, limit.value, "V", limit.source, exact="clear"
    )


@rule
def shutdown_outside(*, shutdown: Shutdown, rule_pack: RulePack = GENERIC) -> Judgement:
    """Is everything that leaves the array harmless after a shutdown?

    Formula: shutdown.outside_v ≤ safety.outside.
    Source: NEC 2023 690.12(B)(1); rule pack.
    """
    limit = rule_pack.safety.outside
    return at_most(
        "shutdown_outside", shutdown.outside_v, limit.value, "V", limit.source, exact="clear"
    )


@rule
def shutdown_within(*, shutdown: Shutdown, rule_pack: RulePack = GENERIC) -> Judgement:
    """Is the array harmless soon enough after the touch?

    Formula: shutdown.seconds ≤ safety.within.
    Source: NEC 2023 690.12(B); rule pack.
    """
    limit = rule_pack.safety.within
    return at_most(
        "shutdown_within", shutdown.seconds, limit.value, "s", limit.source, exact="clear"
    )


@rule
def shutdown_listed(*, shutdown: Shutdown) -> Judgement:
    """Is the equipment listed for a shutdown, and is it known what is touched?

    Source: NEC 2023 690.12(C) (initiation) and (D) (equipment).
    """
    source = "NEC 2023 690.12(C) and (D)"
    return holds("shutdown_listed", shutdown.listed, source, initiator=shutdown.initiator)


@rule
def surge_level(*, ucpv_v: RatedV, voc_cold_v: StringV) -> Judgement:
    """Is the surge device made for the highest voltage that stands on it?

    Formula: ucpv_v ≥ voc_cold_v.
    Source: IEC 61643-32:2017, 9.2.
    """
    return at_least("surge_level", ucpv_v, voc_cold_v, "V", SURGE_SOURCE)


@rule
def surge_leads(*, lead_m: LeadM, rule_pack: RulePack = GENERIC) -> Judgement:
    """Are the leads of the surge device short enough to let it do its work?

    Formula: lead_m ≤ safety.lead_most.
    Source: IEC 60364-5-534:2015, 534.4.8; rule pack.
    """
    most = rule_pack.safety.lead_most
    return at_most("surge_leads", lead_m, most.value, "m", most.source, over="watch", exact="clear")


@rule
def surge_reach(*, flashes: FlashDensity, rule_pack: RulePack = GENERIC) -> LengthM:
    """How long may a house's DC run be without a surge device? [m]

    Formula: safety.surge_reach / flashes.
    Source: IEC 60364-7-712:2017, 712.443.102; rule pack.
    """
    return rule_pack.safety.surge_reach.value / flashes


@rule
def surge_by_lightning(
    *, fitted: bool, length_m: LengthM, flashes: FlashDensity, rule_pack: RulePack = GENERIC
) -> Judgement:
    """Is the DC side guarded against surges where lightning and its length ask for it?

    Beyond the length without a device: stop, the standard says shall.
    Formula: length_m ≤ surge_reach, or a device is fitted.
    Source: IEC 60364-7-712:2017, 712.443.102; rule pack.
    """
    reach_m = surge_reach(flashes=flashes, rule_pack=rule_pack)
    source = rule_pack.safety.surge_reach.source
    if fitted:
        return holds("surge_by_lightning", True, source)
    return at_most("surge_length", length_m, reach_m, "m", source)


@rule
def array_point(*, point: bool | None) -> Judgement:
    """Can the array be parted at a point that is reached and marked, where the code has it so?

    Not looked at: watch.
    Source: AS/NZS 5033:2021, 4.4 (disconnection point), as generally known.
    """
    source = "AS/NZS 5033:2021, 4.4, as generally known"
    bad: Verdict = "watch" if point is None else "stop"
    said = say("points", "unknown" if point is None else "none")
    return holds("array_point", point is True, source, bad=bad, said=said)


@rule
def outdoor_rating(*, ip: IpDigits | None, rule_pack: RulePack = GENERIC) -> Judgement:
    """Is a switch that hangs in the weather made for it? The sheet does not say: watch.

    Each of the two digits counts by itself: dust first, water second.
    Source: IEC 60529; IEC 62548-1:2023, 6.3; AS/NZS 5033:2021, 4.4; rule pack.
    """
    least = rule_pack.safety.outdoor_ip
    wanted = int(least.value)
    fits = ip is not None and ip // 10 >= wanted // 10 and ip % 10 >= wanted % 10
    shown = say("outdoor", "unsaid") if ip is None else f"IP{ip}"
    bad: Verdict = "watch" if ip is None else "stop"
    return holds("outdoor_rating", fits, least.source, bad=bad, shown=shown, least=f"IP{wanted}")


@rule
def roof_raceway_air(
    *, air_c: AirC, above_roof_mm: RoofGapMm | None = None, rule_pack: RulePack = GENERIC
) -> float:
    """How hot is the air round conductors in a raceway on a roof in the sun? [°C]

    Formula: air_c + safety.roof_adder, where it lies lower than safety.roof_gap.
    Source: NEC 2023 310.15(B)(2); rule pack.
    """
    rule = rule_pack.safety
    is_low = above_roof_mm is not None and above_roof_mm < rule.roof_gap.value
    return air_c + (rule.roof_adder.value if is_low else 0.0)


@rule
def insulation_by_area(
    *, mohm: Megohm, area_m2: AreaM2, array_kw: ArrayKw, rule_pack: RulePack = GENERIC
) -> Judgement:
    """Is the insulation of a large array good enough for its area?

    Arrays up to the pack's power are judged without their area: clear.
    Formula: mohm · area_m2 ≥ safety.area_least.
    Source: IEC 62446-1:2016, 6.7; IEC 61215-2:2021, MQT 03; rule pack.
    """
    rule = rule_pack.safety
    if array_kw <= rule.area_above.value:
        return holds("insulation_small", True, rule.area_above.source)
    least = rule.area_least
    return at_least("insulation_by_area", mohm * area_m2, least.value, "MΩ·m²", least.source)
