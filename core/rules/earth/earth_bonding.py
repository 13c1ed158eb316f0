"""Earth conductors: their size, their lugs, what is bonded to what, what continuity reads."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from core.base.glossary import (
    ConductorC,
    EarthMm2,
    Joints,
    LengthM,
    Name,
    Pole,
    ResistanceOhm,
    ROhmPerKm,
    RoofEarth,
    SectionMm2,
    Source,
    StudMm,
    TestCurrentA,
)
from core.base.judgement import Judgement, at_least, at_most, holds
from core.base.messages import figure, say
from core.base.quantity import Quantity
from core.base.rule import rule
from core.figures.rule_packs import GENERIC, RulePack
from core.rules.ac.voltage_rise import resistance_at

SIZE_SOURCE = "IEC 60364-5-54:2011, 543.1 and Table 54.2"
CONTINUITY_SOURCE = "IEC 62446-1:2016, 6.1 (continuity of earthing and bonding)"
POLE_SOURCE = "inverter sheet (earthing of the array); IEC 60364-7-712:2017, 712.312"
M_PER_KM = 1000.0

OhmEach = Annotated[float, Quantity("resistance of a joint", "Ω", 0, 1)]


LEADS_SOURCE = "IEC 61557-4:2019, 4.3, as generally known"
LEADS_MOST_OHM = 1.0
LeadsOhm = Annotated[float, Quantity("resistance of the test leads", "Ω", 0, 20)]


@rule
def protective_size(*, line_mm2: SectionMm2, rule_pack: RulePack = GENERIC) -> EarthMm2:
    """How large must the protective conductor of a circuit be? [mm2]

    As the line conductor up to 16 mm2, 16 mm2 up to 35, half of a larger one.
    Formula: S up to 16 mm²; 16 to 35 mm²; S / 2 above.
    Source: IEC 60364-5-54:2011, Table 54.2; rule pack.
    """
    rule = rule_pack.earth
    if line_mm2 <= rule.full_to.value:
        return line_mm2
    if line_mm2 <= rule.flat_to.value:
        return rule.full_to.value
    return line_mm2 * rule.above_share.value


@rule
def bond_size(
    *, section_mm2: EarthMm2, least_mm2: EarthMm2, source: Source = SIZE_SOURCE
) -> Judgement:
    """Is the earth conductor large enough?

    Source: IEC 60364-5-54:2011, 543.1; rule pack.
    """
    return at_least("bond_size", section_mm2, least_mm2, "mm²", source, exact="clear")


@rule
def ring_lug(*, section_mm2: EarthMm2, stud_mm: StudMm, rule_pack: RulePack = GENERIC) -> Judgement:
    """Is there a ring lug for this conductor on this stud, and which?

    Source: DIN 46234; rule pack.
    """
    rule = rule_pack.earth
    lug = next((one for one in rule.lugs if one.section_mm2 >= section_mm2), rule.lugs[-1])
    fits = lug.least_stud_mm <= stud_mm <= lug.most_stud_mm and section_mm2 <= lug.section_mm2
    return holds(
        "ring_lug",
        fits,
        rule.lugs_source,
        lug=f"{figure(lug.section_mm2)}-{figure(stud_mm)}",
        size=figure(section_mm2, "mm²"),
        stud=f"M{figure(stud_mm)}",
        studs=f"M{figure(lug.least_stud_mm)} to M{figure(lug.most_stud_mm)}",
    )


@rule
def bond_reaches_earth(*, name: Name, reaches: bool, ends_at: Name) -> Judgement:
    """Does a bond lead on to the electrode, or to something that is itself not bonded?

    Source: IEC 60364-5-54:2011, 544.
    """
    return holds("bond_reaches_earth", reaches, "IEC 60364-5-54:2011, 544", name=name, end=ends_at)


@rule
def roof_bonding(*, school: RoofEarth) -> Judgement:
    """How are the module frames bonded?

    Unbonded frames: watch; the code in force decides.
    Source: IEC 60364-7-712:2017, 712.542; rule pack (roof school).
    """
    return holds(
        "roof_bonding",
        school != "none",
        "IEC 60364-7-712:2017, 712.542",
        bad="watch",
        school=say("roof_earth", school),
    )


@rule
def array_pole(*, planned: Pole, sheet: Pole) -> Judgement:
    """Are the poles of the array earthed only as the inverter's sheet says?

    Source: inverter sheet.
    """
    return holds(
        "array_pole",
        planned == sheet,
        POLE_SOURCE,
        planned=say("poles", planned),
        sheet=say("poles", sheet),
    )


@dataclass(frozen=True, kw_only=True)
class ContinuityBand:
    """What a continuity reading of a bond should be, in ohm.

    conductor: at 20 C, without joints. low, high: conductor cold to warm, joints and meter.
    """

    conductor_ohm: float
    low_ohm: float
    high_ohm: float


@rule
def continuity_expected(
    *,
    length_m: LengthM,
    r20_ohm_per_km: ROhmPerKm,
    joints: Joints = 2,
    joint_ohm: OhmEach = 0.01,
    meter_ohm: OhmEach = 0.03,
    coldest_c: ConductorC = 0.0,
    hottest_c: ConductorC = 40.0,
) -> ContinuityBand:
    """What should the continuity of this length and size read? [ohm]

    Formula: r20_ohm_per_km · length_m / 1000; cold less meter_ohm; hot and joints · joint_ohm +
    meter_ohm.
    Source: IEC 60228 resistances; IEC 62446-1:2016, 6.1.
    """
    km = length_m / M_PER_KM
    cold = resistance_at(r20_ohm_per_km=r20_ohm_per_km, conductor_c=coldest_c) * km
    hot = resistance_at(r20_ohm_per_km=r20_ohm_per_km, conductor_c=hottest_c) * km
    return ContinuityBand(
        conductor_ohm=r20_ohm_per_km * km,
        low_ohm=max(cold - meter_ohm, 0.0),
        high_ohm=hot + joints * joint_ohm + meter_ohm,
    )


@rule
def continuity(
    *, read_ohm: ResistanceOhm, low_ohm: ResistanceOhm, high_ohm: ResistanceOhm
) -> Judgement:
    """Is the continuity what this length and size should read?

    Above: stop, a joint is bad or the conductor is not what was planned. Below: watch, another
    path lies beside it or the leads were nulled twice.
    Source: IEC 62446-1:2016, 6.1.
    """
    if read_ohm < low_ohm:
        return holds(
            "continuity",
            False,
            CONTINUITY_SOURCE,
            bad="watch",
            read=figure(read_ohm, "Ω", 2),
            low=figure(low_ohm, "Ω", 2),
        )
    return at_most("continuity", read_ohm, high_ohm, "Ω", CONTINUITY_SOURCE)


@rule
def leads_subtracted(*, leads_ohm: LeadsOhm) -> Judgement:
    """Are the leads of a tester that cannot be nulled read by themselves, and taken off?

    Leads above 1 Ω: stop, one of them is probably broken inside, and what is taken off is wrong.
    Formula: leads_ohm ≤ 1 Ω.
    Source: IEC 61557-4:2019, 4.3 (resistance of the test leads), as generally known.
    """
    return at_most("leads_subtracted", leads_ohm, LEADS_MOST_OHM, "Ω", LEADS_SOURCE)


@rule
def continuity_current(*, read_a: TestCurrentA, least_a: TestCurrentA) -> Judgement:
    """Does the tester drive enough current to say something of a joint?

    Source: IEC 61557-4.
    """
    return at_least("continuity_current", read_a, least_a, "A", "IEC 61557-4")
