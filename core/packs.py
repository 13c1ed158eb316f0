"""Rule packs: every default figure of the rules, with its edition and source, as data."""

from __future__ import annotations

import json
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, fields, is_dataclass, replace
from functools import cache, lru_cache
from pathlib import Path
from typing import Annotated, Any

from core.errors import Problem, Refused, problem
from core.form import Checked, hints, read, without_none
from core.glossary import (
    AgreeSchool,
    ColdSchool,
    FuseSchool,
    Name,
    Note,
    Reason,
    Service,
    Source,
    StartSchool,
)
from core.quantity import Items, Quantity
from core.units import parse_quantity
from core.words import say

PACKS_DIR = Path(__file__).parent / "data" / "packs"


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

    school: ColdSchool
    source: Source
    bands: Annotated[tuple[ColdBand, ...], Items("cold bands", 1, 40)]
    bands_source: Source
    flat_factor: Figure


@dataclass(frozen=True, kw_only=True)
class HotRule(Checked):
    """How much hotter than the air a cell gets, by mounting; on which voltage start is judged."""

    rise_close: Figure
    rise_raised: Figure
    rise_open: Figure
    start_on: StartSchool
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

    school: FuseSchool
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

    on: AgreeSchool
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
    conductors: Annotated[tuple[Conductor, ...], Items("conductor sizes", 1, 30)]
    conductors_source: Source


@dataclass(frozen=True, kw_only=True)
class SunRule(Checked):
    """What the clear-sky figure assumes about air and ground."""

    linke_turbidity: Figure
    albedo: Figure


@dataclass(frozen=True, kw_only=True)
class TableRow(Checked):
    """One row of a table: its name, and a figure for each column."""

    name: Name
    values: Annotated[tuple[float | None, ...], Items("figures of a row", 1, 12)]


@dataclass(frozen=True, kw_only=True)
class Table(Checked):
    """Figures of a standard that are looked up rather than computed with."""

    id: Name
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


@dataclass(frozen=True, kw_only=True, eq=False)
class RulePack(Checked):
    """One region's or school's default figures. Check each against the code in force.

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
    sun: SunRule
    tables: Annotated[tuple[Table, ...], Items("tables", 0, 60)]

    @staticmethod
    def named(name: str) -> RulePack:
        """The shipped pack of that name: what a text stands for where a pack is asked for."""
        return pack(name)


@dataclass(frozen=True, kw_only=True)
class Override(Checked):
    """One figure or school of a pack replaced, and why; the reason is printed in the record.

    path: where it stands in the pack, as ``cold.flat_factor`` or ``cold.school``. value: for a
    figure; choice: for a school.
    """

    path: Name
    reason: Reason
    value: float | None = None
    choice: Name | None = None

    def contradictions(self) -> Iterator[Problem]:
        if (self.value is None) == (self.choice is None):
            yield problem("$.value", self.value, "either a value or a choice")


@dataclass(frozen=True, kw_only=True)
class OwnPack(Checked):
    """A pack that a user made: a shipped one with figures replaced, each with its reason."""

    id: Name
    name: Name
    edition: Source
    checked_on: Source
    based_on: Name
    note: Note = ""
    figures: Annotated[tuple[Override, ...], Items("figures replaced", 1, 60)]

    def contradictions(self) -> Iterator[Problem]:
        if self.id in known_packs():
            yield problem("$.id", self.id, "a name that no shipped pack has")
        if self.based_on not in known_packs():
            yield problem("$.based_on", self.based_on, " · ".join(known_packs()))
            return
        try:
            overridden(pack(self.based_on), self.figures)
        except Refused as refused:
            yield from (found.below("$.figures") for found in refused.problems)


@cache
def known_packs() -> tuple[str, ...]:
    """Names of the rule packs that ship."""
    return tuple(sorted(path.stem for path in PACKS_DIR.glob("*.json")))


@cache
def pack(pack_id: str) -> RulePack:
    """The rule pack of that name. Raises Refused when there is none."""
    if pack_id not in known_packs():
        raise Refused([problem("$.rule_pack", pack_id, " · ".join(known_packs()))])
    return read(RulePack, _data(pack_id), f"$pack[{pack_id}]")


def _data(pack_id: str) -> dict[str, Any]:
    """A pack's file laid over the one it is based on."""
    text = (PACKS_DIR / f"{pack_id}.json").read_text(encoding="utf-8")
    own: dict[str, Any] = json.loads(text)
    based_on = own["based_on"]
    return own if based_on is None else _laid_over(_data(based_on), own)


def _laid_over(base: dict[str, Any], own: dict[str, Any]) -> dict[str, Any]:
    both = {
        name: _laid_over(base[name], value) if isinstance(value, dict) else value
        for name, value in own.items()
    }
    return base | both


@dataclass(frozen=True, kw_only=True)
class PackFigure:
    """One figure or school of a pack as a user may look it up and replace it.

    allowed: for a figure the range in which a replacement is no slip; for a school the choices.
    """

    path: str
    title: str
    unit: str
    source: str
    value: float | None = None
    choice: str | None = None
    choices: tuple[str, ...] = ()
    allowed: str = ""


# A replacement further off than this is a slip of the pen, not another opinion.
MOST_TIMES_OFF = 3.0
_SCHOOLS = {"school": "source", "on": "source", "start_on": "source"}


def figures_of(rules: RulePack) -> tuple[PackFigure, ...]:
    """Every figure and school of a pack by its path."""
    return tuple(
        figure
        for section in fields(rules)
        if is_dataclass(part := getattr(rules, section.name))
        for figure in _section_figures(section.name, part)
    )


def _section_figures(section: str, part: Any) -> Iterator[PackFigure]:
    for field in fields(part):
        value, path = getattr(part, field.name), f"{section}.{field.name}"
        if isinstance(value, Figure):
            allowed = _range(path, value).allowed
            yield PackFigure(
                path=path,
                title=say("figures", path),
                unit=value.unit,
                source=value.source,
                value=value.value,
                allowed=allowed,
            )
        elif field.name in _SCHOOLS:
            choices = tuple(without_none(hints(type(part))[field.name]).__args__)
            yield PackFigure(
                path=path,
                title=say("figures", path),
                unit="",
                source=part.source,
                choice=value,
                choices=choices,
                allowed=" · ".join(choices),
            )


def _range(path: str, figure: Figure) -> Quantity:
    ends = sorted((figure.value / MOST_TIMES_OFF, figure.value * MOST_TIMES_OFF))
    return Quantity(path, figure.unit, *ends)


def overridden(rules: RulePack, overrides: Iterable[Override]) -> RulePack:
    """A pack with figures and schools replaced. Raises Refused with every one that may not be."""
    known = {figure.path: figure for figure in figures_of(rules)}
    found: list[Problem] = []
    for index, override in enumerate(overrides):
        wrong = _override_problem(f"$[{index}]", override, known.get(override.path), rules)
        if wrong is not None:
            found.append(wrong)
            continue
        section, name = override.path.split(".")
        part = getattr(rules, section)
        rules = replace(
            rules, **{section: replace(part, **{name: _replaced(part, name, override)})}
        )
    if found:
        raise Refused(found)
    return rules


def typed_override(rules: RulePack, path: str, entered: str, reason: str, at: str) -> Override:
    """A replacement as typed: a figure with or without its unit, or the name of a school.

    Raises Refused at `at` with what is allowed.
    """
    known = next((figure for figure in figures_of(rules) if figure.path == path), None)
    if known is None:
        raise Refused([problem(f"{at}.path", path, "a figure of this rule pack")])
    if known.choices:
        if entered not in known.choices:
            raise Refused([problem(f"{at}.entered", entered, known.allowed)])
        return _override(at, path=path, choice=entered, reason=reason)
    section, name = path.split(".")
    quantity = _range(path, getattr(getattr(rules, section), name))
    value = parse_quantity(entered, quantity, f"{at}.entered")
    return _override(at, path=path, value=value, reason=reason)


def _override(at: str, **fields: Any) -> Override:
    try:
        return Override(**fields)
    except Refused as refused:
        raise Refused(found.below(at) for found in refused.problems) from None


def _override_problem(
    path: str, override: Override, known: PackFigure | None, rules: RulePack
) -> Problem | None:
    if known is None:
        allowed = "one of " + ", ".join(figure.path for figure in figures_of(rules))
        return problem(f"{path}.path", override.path, allowed)
    if known.choices:
        fits = override.choice in known.choices
        return None if fits else problem(f"{path}.choice", override.choice, known.allowed)
    if override.value is None:
        return problem(f"{path}.value", override.value, known.allowed)
    section, name = override.path.split(".")
    return _range(override.path, getattr(getattr(rules, section), name)).problem(
        f"{path}.value", override.value
    )


def _replaced(part: Any, name: str, override: Override) -> Any:
    old = getattr(part, name)
    if not isinstance(old, Figure) or override.value is None:
        return override.choice
    said = f"replaced for this job, {override.reason}; was {old.value:g}: {old.source}"
    return replace(old, value=override.value, source=said[:MOST_SOURCE_CHARS])


MOST_SOURCE_CHARS = 300
PACKS_KEPT = 64


@lru_cache(maxsize=PACKS_KEPT)
def effective_pack(pack_id: str, own: OwnPack | None, overrides: tuple[Override, ...]) -> RulePack:
    """The pack that judges a job: shipped or the user's own, with the job's own replacements."""
    if own is None:
        return overridden(pack(pack_id), overrides)
    made = overridden(pack(own.based_on), own.figures)
    named = replace(
        made,
        id=own.id,
        name=own.name,
        edition=own.edition,
        checked_on=own.checked_on,
        note=own.note or made.note,
        based_on=own.based_on,
    )
    return overridden(named, overrides)


GENERIC = pack("generic-iec")
