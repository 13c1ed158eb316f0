"""Figures of a rule pack replaced, each with its reason: for one job, or as a pack of one's own."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, fields, is_dataclass, replace
from datetime import date
from functools import lru_cache
from typing import Annotated, Any

from core.base.errors import Problem, Refused, problem
from core.base.form import Checked, hints, without_none
from core.base.glossary import Name, Note, Reason, Source
from core.base.messages import say
from core.base.quantity import Items, Quantity
from core.base.units import parse_quantity
from core.figures.rule_packs import Figure, RulePack, inherited_from, known_packs, pack, wrong_days

# A replacement further off than this is a slip of the pen, not another opinion.
MOST_TIMES_OFF = 3.0
# The fields of a pack that name a school.
SCHOOLS = (
    "school", "on", "start_on", "roof", "busbar", "residual", "arc", "shutdown", "disconnect",
)  # fmt: skip
MOST_SOURCE_CHARS = 300
PACKS_KEPT = 64


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
    """A pack that a user made: a shipped one with figures replaced, each with its reason.

    counts_from, counts_until: the days of its own edition, beside those of the shipped one.
    """

    id: Name
    name: Name
    edition: Source
    checked_on: Source
    based_on: Name
    note: Note = ""
    figures: Annotated[tuple[Override, ...], Items("figures replaced", 1, 60)]
    counts_from: date | None = None
    counts_until: date | None = None

    def contradictions(self) -> Iterator[Problem]:
        yield from wrong_days(self.counts_from, self.counts_until)
        if self.id in known_packs():
            yield problem("$.id", self.id, "a name that no shipped pack has")
        if self.based_on not in known_packs():
            yield problem("$.based_on", self.based_on, " · ".join(known_packs()))
            return
        try:
            overridden(pack(self.based_on), self.figures)
        except Refused as refused:
            yield from (found.below("$.figures") for found in refused.problems)


@dataclass(frozen=True, kw_only=True)
class PackFigure:
    """One figure or school of a pack as a user may look it up and replace it.

    allowed: for a figure the range in which a replacement is no slip; for a school the choices.
    inherited: the pack that it was taken over from unchanged; empty for one of its own.
    """

    path: str
    title: str
    unit: str
    source: str
    value: float | None = None
    choice: str | None = None
    choices: tuple[str, ...] = ()
    allowed: str = ""
    inherited: str = ""


def figures_of(rules: RulePack) -> tuple[PackFigure, ...]:
    """Every figure and school of a pack by its path."""
    shipped = rules.id if rules.id in known_packs() else rules.based_on or ""
    from_another = inherited_from(shipped) if shipped in known_packs() else {}
    return tuple(
        replace(figure, inherited=_inherited(rules, shipped, figure, from_another))
        for section in fields(rules)
        if is_dataclass(part := getattr(rules, section.name))
        for figure in _section_figures(section.name, part)
    )


def _inherited(
    rules: RulePack, shipped: str, figure: PackFigure, from_another: dict[str, str]
) -> str:
    """From which pack a figure was taken over; one that was replaced is nobody else's."""
    if figure.path not in from_another:
        return ""
    section, name = figure.path.split(".")
    here, there = (getattr(getattr(one, section), name) for one in (rules, pack(shipped)))
    return from_another[figure.path] if here == there else ""


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
        elif field.name in SCHOOLS:
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
    ends = (figure.value / MOST_TIMES_OFF, figure.value * MOST_TIMES_OFF)
    low, high = sorted(float(f"{end:.3g}") for end in ends)
    return Quantity(path, figure.unit, low, high)


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
        counts_from=own.counts_from or made.counts_from,
        counts_until=own.counts_until or made.counts_until,
    )
    return overridden(named, overrides)
