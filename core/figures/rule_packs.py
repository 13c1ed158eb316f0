"""Rule packs: every default figure of the rules, with its edition and source, as data."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from functools import cache, lru_cache
from itertools import pairwise
from typing import Annotated, Any, Literal

from core.base.errors import Problem, Refused, problem
from core.base.form import Checked, read
from core.base.glossary import (
    AcIsolator,
    AgreeMethod,
    Asked,
    BusbarMethod,
    ColdMethod,
    ConductorName,
    Disconnect,
    FuseMethod,
    Name,
    Note,
    RoofEarth,
    Room,
    Service,
    Signal,
    Source,
    StartMethod,
    WakeMethod,
)
from core.base.quantity import Items, Quantity, Text
from core.base.units import AWG_MM2, gauge_number, size_name
from core.data import load, names

PACKS = "packs"


@dataclass(frozen=True, kw_only=True)
class Figure(Checked):
    """A number with its unit and where it comes from."""

    value: float
    unit: str
    source: Source


@dataclass(frozen=True, kw_only=True)
class ColdBand(Checked):
    """From this lowest air temperature upward (to the next band) this factor on Voc applies."""

    from_c: float
    factor: float


@dataclass(frozen=True, kw_only=True)
class ColdRule(Checked):
    """How the coldest open-circuit voltage is found; `school` says which way is the default."""

    school: ColdMethod
    source: Source
    bands: Annotated[tuple[ColdBand, ...], Items("cold bands", 1, 40)]
    bands_source: Source
    flat_factor: Figure
    building_most: Figure


@dataclass(frozen=True, kw_only=True)
class HotRule(Checked):
    """How much hotter than the air a cell gets, by mounting; on which voltage start is judged."""

    rise_close: Figure
    rise_raised: Figure
    rise_in_roof: Figure
    rise_open: Figure
    start_on: StartMethod
    source: Source


@dataclass(frozen=True, kw_only=True)
class CurrentRule(Checked):
    """Current limits of a tracker and likeness of strings on it."""

    isc_factor: Figure
    rear_gain: Figure
    alike_deg: Figure


@dataclass(frozen=True, kw_only=True)
class FuseRule(Checked):
    """When parallel strings need fuses against reverse current, and which; by school."""

    school: FuseMethod
    source: Source
    reverse_factor: Figure
    low_factor: Figure
    high_factor: Figure
    us_factor: Figure
    ratings_a: Annotated[tuple[float, ...], Items("fuse ratings", 1, 40)]
    ratings_source: Source


@dataclass(frozen=True, kw_only=True)
class AgreeRule(Checked):
    """How far strings that are alike may read apart."""

    on: AgreeMethod
    limit: Figure
    source: Source


@dataclass(frozen=True, kw_only=True)
class MeterRule(Checked):
    """What is honestly not known when a string is measured."""

    meter: Figure
    meter_digits: Figure
    irradiance_measured: Figure
    irradiance_clear_low: Figure
    irradiance_clear_high: Figure
    cell_from_air: Figure
    in_roof_hotter: Figure
    cell_from_wind: Figure
    cell_from_back: Figure
    back_to_cell: Figure
    module_tolerance: Figure
    ideality: Figure
    least_irradiance: Figure
    wide_below: Figure
    wide_factor: Figure
    conditions_age: Figure
    near_zero: Figure
    input_resistance: Figure
    least_to_earth: Figure
    earth_sum: Figure


@dataclass(frozen=True, kw_only=True)
class Conductor(Checked):
    """One conductor size and its resistance at 20 C."""

    section_mm2: float
    r20_ohm_per_km: float


@dataclass(frozen=True, kw_only=True)
class AcRule(Checked):
    """Voltage rise of the AC run."""

    rise_advisory: Figure
    rise_limit: Figure
    conductor_temp: Figure
    reactance: Figure
    supply_tolerance: Figure
    supply_below: Figure
    conductors: Annotated[tuple[Conductor, ...], Items("conductor sizes", 1, 30)]
    conductors_source: Source


@dataclass(frozen=True, kw_only=True)
class RunRule(Checked):
    """Runs of cable: what DC may drop, a day of high supply, what a year loses, fill, ends."""

    dc_advisory: Figure
    dc_limit: Figure
    dc_conductor_temp: Figure
    high_supply: Figure
    loss_hours: Figure
    conduit_fill: Figure
    trunking_fill: Figure
    torque_apart: Figure
    earth_longer: Figure
    surge_dc: Figure


@dataclass(frozen=True, kw_only=True)
class CircuitRule(Checked):
    """Protection and switching of the inverter's circuit; busbar: which school judges it."""

    source: Source
    continuous: Figure
    ratings_a: Annotated[tuple[float, ...], Items("breaker ratings", 1, 40)]
    ratings_source: Source
    busbar: BusbarMethod
    ac_isolator: AcIsolator
    busbar_share: Figure
    dc_fault: Figure
    touch: Figure
    residual_tn: Figure
    residual_tt: Figure
    loop_c_min: Figure
    loop_share: Figure
    trip_b: Figure
    trip_c: Figure
    trip_d: Figure
    dc_isolator: Figure
    isolator_above: Figure


@dataclass(frozen=True, kw_only=True)
class SafetyRule(Checked):
    """What a code asks of supply and array beside circuits: each asked for or not, with figures.

    residual: residual-current devices; arc: arc detection from arc_above on; shutdown: an array
    made safe by one touch; disconnect: how the array is parted.
    """

    source: Source
    residual: Asked
    arc: Asked
    arc_above: Figure
    shutdown: Asked
    inside: Figure
    outside: Figure
    within: Figure
    disconnect: Disconnect
    bond_combined: Figure
    exposed_least: Figure
    service_least: Figure
    roof_gap: Figure
    roof_adder: Figure
    notify: Figure
    lead_most: Figure
    surge_reach: Figure
    outdoor_ip: Figure
    area_above: Figure
    area_least: Figure


@dataclass(frozen=True, kw_only=True)
class ConductorColour(Checked):
    """The colour of one conductor: its name, and the inks in which it is drawn."""

    conductor: ConductorName
    name: Name
    inks: Annotated[tuple[Name, ...], Items("inks", 1, 2)]


@dataclass(frozen=True, kw_only=True)
class ColourRule(Checked):
    """The colours of a region's conductors."""

    source: Source
    conductors: Annotated[tuple[ConductorColour, ...], Items("conductors", 1, 12)]

    def of(self, conductor: ConductorName) -> ConductorColour:
        """The colour of that conductor."""
        return next(one for one in self.conductors if one.conductor == conductor)


@dataclass(frozen=True, kw_only=True)
class AskedSignal(Checked):
    """A signal that a region's grid code asks for: from which power on, its steps, how fast."""

    signal: Signal
    from_w: Annotated[float, Quantity("from a rated power of", "W", 0, 1_000_000)] = 0.0
    steps_pct: Annotated[tuple[float, ...], Items("steps", 1, 8)]
    within_s: Annotated[float, Quantity("within", "s", 0.1, 3600)]
    source: Source


@dataclass(frozen=True, kw_only=True)
class TalkRule(Checked):
    """Communication: signals that are asked for, the colours of signal and network cores."""

    signals: Annotated[tuple[AskedSignal, ...], Items("signals asked for", 0, 6)]
    cores: Annotated[tuple[Name, ...], Items("colours of signal cores", 1, 12)]
    cores_source: Source
    network_cores: Annotated[tuple[Name, ...], Items("colours of network cores", 8, 8)]
    network_source: Source


@dataclass(frozen=True, kw_only=True)
class SunRule(Checked):
    """What the clear-sky figure assumes about air and ground."""

    linke_turbidity: Figure
    albedo: Figure


@dataclass(frozen=True, kw_only=True)
class RoofEdgeRule(Checked):
    """How far modules keep from the edges of a roof: its sides, its ridge, its eave."""

    side: Figure
    ridge: Figure
    eave: Figure


@dataclass(frozen=True, kw_only=True)
class WallRule(Checked):
    """Hanging: fixings, what is behind a hole, mounting heights, sun, the lift, batteries.

    battery_rooms: where no battery hangs. battery_opening: how far it keeps from openings.
    """

    fixing_factor: Figure
    board_most: Figure
    board_edge: Figure
    stud_half: Figure
    hole_left: Figure
    level: Figure
    display_low: Figure
    display_high: Figure
    display_best: Figure
    out_of_reach: Figure
    sun_hours: Figure
    two_people: Figure
    lifting_aid: Figure
    battery_opening: Figure
    battery_rooms_source: Source
    battery_rooms: Annotated[tuple[Room, ...], Items("rooms without a battery", 0, 6)]


@dataclass(frozen=True, kw_only=True)
class LugSize(Checked):
    """The studs for which ring lugs of a conductor size are made."""

    section_mm2: float
    least_stud_mm: float
    most_stud_mm: float


@dataclass(frozen=True, kw_only=True)
class EarthRule(Checked):
    """Earthing and bonding: sizes, lugs, what a continuity reading may be; how a roof is bonded."""

    roof: RoofEarth
    source: Source
    bond_least: Figure
    bond_lightning: Figure
    full_to: Figure
    flat_to: Figure
    above_share: Figure
    joint: Figure
    joint_most: Figure
    meter: Figure
    coldest: Figure
    hottest: Figure
    test_current: Figure
    lugs: Annotated[tuple[LugSize, ...], Items("ring lugs", 1, 20)]
    lugs_source: Source


@dataclass(frozen=True, kw_only=True)
class BranchRule(Checked):
    """Branches of microinverters: how far a breaker is loaded, what the run to them may lift."""

    breaker_share: Figure
    rise_limit: Figure
    unbalance: Figure
    unbalance_over: Literal["watch", "stop"]


@dataclass(frozen=True, kw_only=True)
class LoadInRule(Checked):
    """What is counted on top of the plan's own figures when goods are ordered."""

    cable_spare: Figure
    clamp_gap: Figure
    rail_end: Figure
    hook_pitch: Figure
    hook_overhang: Figure


@dataclass(frozen=True, kw_only=True)
class WakeRule(Checked):
    """Switching on: which side of a string inverter first; how much sun is daylight."""

    school: WakeMethod
    source: Source
    daylight: Figure
    daylight_age: Figure
    discharge: Figure


@dataclass(frozen=True, kw_only=True)
class InsulationBand(Checked):
    """Up to which system voltage an array is tested so; edge_within: that voltage itself too.

    up_to_v: None: any voltage above the bands before it.
    """

    up_to_v: float | None
    edge_within: bool
    test_v: float
    least_mohm: float


@dataclass(frozen=True, kw_only=True)
class ProveRule(Checked):
    """The tests of the record: what each may read, and with what it is made."""

    insulation: Annotated[tuple[InsulationBand, ...], Items("bands", 1, 6)]
    insulation_source: Source
    system_factor: Figure
    ac_test: Figure
    ac_least: Figure
    clamp: Figure
    tracking: Figure
    current_sun: Figure
    current_apart: Figure
    neutral_earth: Figure
    residual_most_ms: Figure
    residual_least: Figure
    residual_most: Figure


@dataclass(frozen=True, kw_only=True)
class TableRow(Checked):
    """One row of a table: its name, and a figure for each column."""

    name: Name
    values: Annotated[tuple[float | None, ...], Items("figures of a row", 1, 12)]


@dataclass(frozen=True, kw_only=True)
class Table(Checked):
    """Figures of a standard that are looked up rather than computed with. trend: how every column
    goes from row to row, where it must."""

    id: Name
    trend: Literal["rising", "falling", "any"] = "any"
    title: Source
    unit: Note
    source: Source
    columns: Annotated[tuple[Name, ...], Items("columns", 1, 12)]
    rows: Annotated[tuple[TableRow, ...], Items("rows", 1, 40)]

    def contradictions(self) -> Iterator[Problem]:
        for index, row in enumerate(self.rows):
            if len(row.values) != len(self.columns):
                allowed = f"{len(self.columns)} figures, one for each column"
                yield problem(f"$.rows[{index}].values", f"{len(row.values)} figures", allowed)
                return
        yield from self._off_trend()

    def _off_trend(self) -> Iterator[Problem]:
        for column in range(len(self.columns)) if self.trend != "any" else ():
            for index, (row, following) in enumerate(pairwise(self.rows), start=1):
                before, value = row.values[column], following.values[column]
                if before is None or value is None:
                    continue
                if (value < before) if self.trend == "rising" else (value > before):
                    limit = "at least" if self.trend == "rising" else "at most"
                    path = f"$.rows[{index}].values[{column}]"
                    yield problem(path, value, f"{limit} {before:g}, as in the row before")

    def at(self, row: str, column: str) -> float | None:
        """The figure in a row and column; None where the table has none."""
        if column not in self.columns:
            return None
        found = next((one for one in self.rows if one.name == row), None)
        return found.values[self.columns.index(column)] if found else None

    def row_from(self, value: float) -> str | None:
        """The first row whose name is at least this figure; None beyond the last."""
        return next((row.name for row in self.rows if float(row.name) >= value), None)


Country = Annotated[str, Text("country", 2, 2)]


@dataclass(frozen=True, kw_only=True, eq=False)
class RulePack(Checked):
    """One region's or school's default figures. Check each against the code in force.

    counts_from, counts_until: the first and the last day on which its edition counts, where known.
    countries: where it is the usual one, by two letters (ISO 3166-1).
    Two packs are the same only when they are one object: a pack is made once and kept, so that
    a plan judged by it can be found again quickly.
    """

    __eq__ = object.__eq__
    __hash__ = object.__hash__

    id: Name
    name: Name
    edition: Source
    based_on: Name | None
    checked_on: Source
    note: Note
    services: Annotated[tuple[Service, ...], Items("services", 1, 3)]
    cold: ColdRule
    hot: HotRule
    current: CurrentRule
    fuse: FuseRule
    agree: AgreeRule
    meter: MeterRule
    ac: AcRule
    run: RunRule
    circuit: CircuitRule
    safety: SafetyRule
    colours: ColourRule
    sun: SunRule
    wall: WallRule
    roof_edge: RoofEdgeRule
    earth: EarthRule
    load_in: LoadInRule
    branch: BranchRule
    prove: ProveRule
    talk: TalkRule
    wake: WakeRule
    tables: Annotated[tuple[Table, ...], Items("tables", 0, 60)]
    counts_from: date | None = None
    counts_until: date | None = None
    countries: Annotated[tuple[Country, ...], Items("countries", 0, 60)] = ()

    def contradictions(self) -> Iterator[Problem]:
        yield from wrong_days(self.counts_from, self.counts_until)

    def counts_on(self, day: date) -> bool:
        """Whether the edition counts on a day, as far as its days are known."""
        begun = self.counts_from is None or self.counts_from <= day
        return begun and (self.counts_until is None or day <= self.counts_until)

    @property
    def ac_sizes_mm2(self) -> dict[float, str]:
        """Every conductor size of the AC tables, and what it is called."""
        return _sizes(self)[0]

    @property
    def dc_sizes_mm2(self) -> dict[float, str]:
        """Every conductor size of the DC tables, and what it is called."""
        return _sizes(self)[1]

    def table(self, table_id: str) -> Table:
        """The table of that name. Raises KeyError when the pack has none."""
        return _tables(self)[table_id]

    @staticmethod
    def named(name: str) -> RulePack:
        """The shipped pack of that name: what a text stands for where a pack is asked for."""
        return pack(name)


def wrong_days(counts_from: date | None, counts_until: date | None) -> Iterator[Problem]:
    """An edition that ends before it counts."""
    if counts_from is not None and counts_until is not None and counts_until < counts_from:
        allowed = f"{counts_from.isoformat()} or later"
        yield problem("$.counts_until", counts_until.isoformat(), allowed)


@lru_cache(maxsize=64)
def _tables(rules: RulePack) -> dict[str, Table]:
    return {table.id: table for table in rules.tables}


@lru_cache(maxsize=64)
def _sizes(rules: RulePack) -> tuple[dict[float, str], dict[float, str]]:
    gauges = {
        AWG_MM2[gauge_number(row.name)]: row.name for row in rules.table("awg_resistance").rows
    }
    ac = [one.section_mm2 for one in rules.ac.conductors]
    dc = [float(row.name) for row in rules.table("dc_resistance").rows]
    metric = ({size: size_name(size) for size in sizes} for sizes in (ac, dc))
    ac_names, dc_names = (one | {size: size_name(size) for size in gauges} for one in metric)
    return ac_names, dc_names


@cache
def known_packs() -> tuple[str, ...]:
    """Names of the rule packs that ship."""
    return names(PACKS)


@cache
def pack_in(country: str) -> RulePack | None:
    """The shipped pack that is the usual one in a country, by its two letters; None: none is."""
    return next((one for one in map(pack, known_packs()) if country in one.countries), None)


@cache
def pack(pack_id: str) -> RulePack:
    """The rule pack of that name. Raises Refused when there is none."""
    if pack_id not in known_packs():
        raise Refused([problem("$.rule_pack", pack_id, " · ".join(known_packs()))])
    return read(RulePack, _data(pack_id), f"$pack[{pack_id}]")


def read_pack(data: object) -> RulePack:
    """A pack from a file: whole, or what it states over a shipped one. Raises Refused."""
    if isinstance(data, dict) and data.get("based_on") is not None:
        base = data["based_on"]
        if base not in known_packs() or data.get("id") in known_packs():
            path = "$.based_on" if base not in known_packs() else "$.id"
            allowed = " · ".join(known_packs())
            allowed = allowed if path == "$.based_on" else "a name that no shipped pack has"
            raise Refused([problem(path, base if path == "$.based_on" else data["id"], allowed)])
        data = _laid_over(_data(base), data)
    return read(RulePack, data)


def _data(pack_id: str, above: tuple[str, ...] = ()) -> dict[str, Any]:
    """A pack's file laid over the one it is based on. Raises Refused where that leads in a ring."""
    if pack_id in above:
        ring = " on ".join((*above, pack_id))
        said = f"Packs are based on each other: {ring}."
        raise Refused([problem("$.based_on", pack_id, "a pack that stands by itself", said)])
    own: dict[str, Any] = load(f"{PACKS}/{pack_id}")
    based_on = own["based_on"]
    return own if based_on is None else _laid_over(_data(based_on, (*above, pack_id)), own)


def _laid_over(base: dict[str, Any], own: dict[str, Any]) -> dict[str, Any]:
    both = {
        name: _laid_over(base[name], value)
        if isinstance(value, dict) and isinstance(base.get(name), dict)
        else value
        for name, value in own.items()
    }
    if isinstance(own.get("tables"), list):
        stated = {one.get("id") for one in own["tables"] if isinstance(one, dict)}
        kept = [one for one in base["tables"] if one["id"] not in stated]
        both["tables"] = [*own["tables"], *kept]
    return base | both


@cache
def inherited_from(pack_id: str) -> dict[str, str]:
    """Every figure and table that a pack does not state itself, by its path: whose it is."""
    own: dict[str, Any] = load(f"{PACKS}/{pack_id}")
    based_on = own["based_on"]
    if based_on is None:
        return {}
    further = inherited_from(based_on)
    found = {}
    for section, value in _data(based_on).items():
        for path in _paths(section, value):
            if not _states(own, path):
                found[path] = further.get(path, based_on)
    return found


def _paths(section: str, value: Any) -> Iterator[str]:
    if isinstance(value, dict):
        yield from (f"{section}.{name}" for name in value)
    elif section == "tables":
        yield from (f"tables.{one['id']}" for one in value)


def _states(own: dict[str, Any], path: str) -> bool:
    section, _, name = path.partition(".")
    stated = own.get(section)
    if isinstance(stated, list):
        return any(one["id"] == name for one in stated)
    return isinstance(stated, dict) and name in stated


GENERIC = pack("generic-iec")
