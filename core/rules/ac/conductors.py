"""What a conductor is: its resistance at work, the current it carries as it is laid."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from core.base.errors import Refused, problem
from core.base.glossary import (
    ConductorC,
    CurrentA,
    Grouped,
    Insulation,
    Laid,
    LoadedConductors,
    Material,
    Method,
    ROhmPerKm,
    RunAirC,
    SectionMm2,
    Strands,
    Terminals,
)
from core.base.messages import figure, say
from core.base.quantity import Quantity
from core.base.rule import rule
from core.base.units import gauge_name, gauge_of
from core.figures.rule_packs import GENERIC, RulePack, Table
from core.rules.ac.voltage_rise import resistance_at

# IEC 60287-1-1 and NEC chapter 9, Table 8, note 2: coefficient of copper referred to 75 C.
COPPER_PER_K_75 = 0.00323
GAUGE_REFERENCE_C = 75.0
CONDUCTORS_UNADJUSTED = 3
INSULATION_COLUMN: dict[Insulation, str] = {"pvc": "PVC", "xlpe": "XLPE"}
# NEC Table 310.16: the column of each insulation; terminals bear the 75 C column at most.
GAUGE_COLUMN: dict[Insulation, str] = {"pvc": "75 °C", "xlpe": "90 °C"}
GAUGE_TERMINALS = "75 °C"
GAUGE_AIR_C = 30.0
LAID_COLUMN: dict[Laid, str] = {
    "touching": "two touching on a surface",
    "free": "one free in air",
}

Factor = Annotated[float, Quantity("factor", "", 0, 2)]


@rule
def resistance_from_75(*, r75_ohm_per_km: ROhmPerKm, conductor_c: ConductorC) -> ROhmPerKm:
    """Which resistance has a copper conductor at this temperature, by its figure at 75 C?

    Formula: r75_ohm_per_km · (1 + 0.00323 · (conductor_c − 75)).
    Source: NEC 2023 chapter 9, Table 8, note 2.
    """
    return r75_ohm_per_km * (1 + COPPER_PER_K_75 * (conductor_c - GAUGE_REFERENCE_C))


@rule
def ac_resistance(
    *,
    section_mm2: SectionMm2,
    conductor_c: ConductorC,
    strands: Strands = "stranded",
    material: Material = "copper",
    rule_pack: RulePack = GENERIC,
) -> ROhmPerKm:
    """Which resistance has a conductor of an AC cable at work? [ohm/km]

    Solid and stranded by class 2, fine strands by class 5, gauges by their own table.
    Raises Refused for a size or material that is in no table.
    Source: IEC 60228:2023, Tables 2 and 3; NEC 2023 chapter 9, Table 8; rule pack.
    """
    _copper_only(material)
    gauge = gauge_of(section_mm2)
    if gauge is not None:
        return _gauge_resistance(gauge, conductor_c, rule_pack)
    if strands == "fine":
        table = rule_pack.table("ac_class5")
        r20 = table.at(f"{section_mm2:g}", "resistance")
        names = [row.name for row in table.rows]
    else:
        sizes = {one.section_mm2: one.r20_ohm_per_km for one in rule_pack.ac.conductors}
        r20, names = sizes.get(section_mm2), [f"{size:g}" for size in sizes]
    if r20 is None:
        raise _no_size(section_mm2, names)
    return resistance_at(r20_ohm_per_km=r20, conductor_c=conductor_c)


@rule
def dc_resistance(
    *,
    section_mm2: SectionMm2,
    conductor_c: ConductorC,
    material: Material = "copper",
    rule_pack: RulePack = GENERIC,
) -> ROhmPerKm:
    """Which resistance has a PV wire at work? [ohm/km]

    Tinned class 5; gauges by their own table. Raises Refused for a size or material that is in
    no table.
    Source: EN 50618:2014; IEC 60228:2023, Table 3; NEC 2023 chapter 9, Table 8; rule pack.
    """
    _copper_only(material)
    gauge = gauge_of(section_mm2)
    if gauge is not None:
        return _gauge_resistance(gauge, conductor_c, rule_pack)
    table = rule_pack.table("dc_resistance")
    r20 = table.at(f"{section_mm2:g}", "resistance")
    if r20 is None:
        raise _no_size(section_mm2, [row.name for row in table.rows])
    return resistance_at(r20_ohm_per_km=r20, conductor_c=conductor_c)


def _gauge_resistance(gauge: int, conductor_c: float, rules: RulePack) -> float:
    r75 = rules.table("awg_resistance").at(gauge_name(gauge), "resistance")
    if r75 is None:
        raise _no_size(gauge_name(gauge), [row.name for row in rules.table("awg_resistance").rows])
    return resistance_from_75(r75_ohm_per_km=r75, conductor_c=conductor_c)


@dataclass(frozen=True, kw_only=True)
class Ampacity:
    """What a conductor carries as it is laid, in A.

    table_a: as the table has it. air_factor, group_factor: multiply. iz_a: what is left, and no
    more than the terminals bear. terminal_a: the column of the terminals, without factors; None
    where the terminals set no limit of their own.
    """

    table_a: CurrentA
    air_factor: Factor
    group_factor: Factor
    iz_a: CurrentA
    source: str
    terminal_a: CurrentA | None = None


@rule
def conductor_ampacity(
    *,
    section_mm2: SectionMm2,
    loaded: LoadedConductors = 2,
    insulation: Insulation = "pvc",
    method: Method = "C",
    air_c: RunAirC = 30.0,
    grouped: Grouped = 1,
    material: Material = "copper",
    terminals: Terminals = "90",
    rule_pack: RulePack = GENERIC,
) -> Ampacity:
    """Which current does a conductor of an AC run carry as it is laid? [A]

    Metric sizes by method A1, B1, B2 or C; gauges in a raceway. terminals: what both ends bear;
    those of 70 °C hold an XLPE cable to the column of 70 °C, without factors.
    Formula: table · air · group. Between rows of a factor table the next hotter, or the fuller,
    row. Nothing is extrapolated: raises Refused where a table does not hold the size, the method,
    the air, the group or the material.
    Source: IEC 60364-5-52:2009, annex B and 523.1, note; BS 7671:2018, 512.1.5 and Table 4E, note;
    NEC 2023 310.15, 310.16 and 110.14(C); rule pack.
    """
    _copper_only(material)
    gauge = gauge_of(section_mm2)
    if gauge is not None:
        return _gauge_ampacity(gauge, loaded * grouped, insulation, method, air_c, rules=rule_pack)
    kind = "two" if loaded == 2 else "three"  # noqa: PLR2004
    table = rule_pack.table(f"{insulation}_{kind}")
    if method not in table.columns:
        raise Refused([problem("$.method", method, " · ".join(table.columns))])
    amps = table.at(f"{section_mm2:g}", method)
    if amps is None:
        raise _no_size(section_mm2, [row.name for row in table.rows])
    air = _air_factor(rule_pack.table("ac_air_factor"), INSULATION_COLUMN[insulation], air_c)
    group = _group_factor(rule_pack.table("grouping"), grouped)
    ends = None
    if insulation == "xlpe" and terminals == "70":
        ends = rule_pack.table(f"pvc_{kind}").at(f"{section_mm2:g}", method)
    carried = amps * air * group
    return Ampacity(
        table_a=amps,
        air_factor=air,
        group_factor=group,
        iz_a=carried if ends is None else min(carried, ends),
        source=table.source,
        terminal_a=ends,
    )


def _gauge_ampacity(
    gauge: int,
    conductors: int,
    insulation: Insulation,
    method: Method,
    air_c: float,
    *,
    rules: RulePack,
) -> Ampacity:
    if method != "raceway":
        raise Refused([problem("$.method", method, "raceway, for a conductor by gauge")])
    table = rules.table("nec_ampacity")
    amps = table.at(gauge_name(gauge), GAUGE_COLUMN[insulation])
    terminals = table.at(gauge_name(gauge), GAUGE_TERMINALS)
    if amps is None or terminals is None:
        raise _no_size(gauge_name(gauge), [row.name for row in table.rows])
    air = 1.0
    if air_c > GAUGE_AIR_C:
        if insulation != "xlpe":
            allowed = f"at most {GAUGE_AIR_C:g} °C: the table of factors is for 90 °C insulation"
            raise Refused([problem("$.air_c", air_c, allowed)])
        air = _air_factor(rules.table("nec_air_factor"), "factor", air_c, beyond_only=True)
    group = 1.0
    if conductors > CONDUCTORS_UNADJUSTED:
        group = _group_factor(rules.table("nec_adjustment"), conductors)
    return Ampacity(
        table_a=amps,
        air_factor=air,
        group_factor=group,
        iz_a=min(amps * air * group, terminals),
        source=table.source,
        terminal_a=terminals,
    )


@rule
def pv_wire_ampacity(
    *,
    section_mm2: SectionMm2,
    laid: Laid = "touching",
    air_c: RunAirC = 60.0,
    grouped: Grouped = 1,
    material: Material = "copper",
    rule_pack: RulePack = GENERIC,
) -> Ampacity:
    """Which current does a PV wire carry as it is laid? [A]

    Formula: table · air · group. Up to 60 C air the table stands as it is. Raises Refused where a
    table does not hold the size, the air, the group or the material.
    Source: EN 50618:2014, Tables A.3 and A.4; IEC 60364-5-52:2009, Table B.52.17; rule pack.
    """
    _copper_only(material)
    gauge = gauge_of(section_mm2)
    if gauge is not None:
        return _gauge_ampacity(gauge, 2 * grouped, "xlpe", "raceway", air_c, rules=rule_pack)
    table = rule_pack.table("dc_ampacity")
    amps = table.at(f"{section_mm2:g}", LAID_COLUMN[laid])
    if amps is None:
        raise _no_size(section_mm2, [row.name for row in table.rows])
    air = _air_factor(rule_pack.table("dc_air_factor"), "factor", air_c, beyond_only=True)
    group = _group_factor(rule_pack.table("grouping"), grouped)
    return Ampacity(
        table_a=amps,
        air_factor=air,
        group_factor=group,
        iz_a=amps * air * group,
        source=table.source,
    )


def _air_factor(table: Table, column: str, air_c: float, *, beyond_only: bool = False) -> float:
    """The factor of the next hotter row. beyond_only: colder air than the first row is no gain."""
    rows = [float(row.name) for row in table.rows]
    name = table.row_from(max(air_c, rows[0]) if beyond_only else air_c)
    found = table.at(name, column) if name is not None else None
    if found is None or (air_c < rows[0] and not beyond_only):
        low = "at most" if beyond_only else f"{figure(rows[0])} to"
        allowed = f"{low} {figure(rows[-1], '°C')}"
        raise Refused([problem("$.air_c", air_c, allowed, _outside("air", air_c, allowed))])
    return found


def _group_factor(table: Table, grouped: int) -> float:
    name = table.row_from(grouped)
    found = table.at(name, "factor") if name is not None else None
    if found is None:
        allowed = f"at most {table.rows[-1].name}"
        raise Refused([problem("$.grouped", grouped, allowed, _outside("group", grouped, allowed))])
    return found


def _outside(what: str, value: float, allowed: str) -> str:
    return say("tables", what, value=figure(value), allowed=allowed)


def _copper_only(material: Material) -> None:
    if material != "copper":
        raise Refused([problem("$.material", material, "copper", say("tables", "material"))])


def _no_size(size: float | str, names: list[str]) -> Refused:
    return Refused([problem("$.section_mm2", size, " · ".join(names))])
