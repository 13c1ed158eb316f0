"""A rule pack looked over: whether it is whole, its sources can be found, how two packs differ."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, fields, is_dataclass
from typing import Any

from core.figures.overrides import figures_of
from core.figures.rule_packs import GENERIC, Figure, RulePack, inherited_from, known_packs

# A standard by its number, as sources name it, and what may stand for one.
STANDARD = re.compile(
    r"\b(IEC|EN|ISO|BS|IEEE|DIN|VDE|AS|NEC|NFPA|ANSI|IRC|EREC|ESQCR|PAS|MCS|NIOSH|EEG)\b[^,;:]*\d"
)
EDITION = re.compile(r":(19|20)\d\d|\b(19|20)\d\d\b|\bissue \d|A\d:20")
CLAUSE = re.compile(
    r"(,|\)|:20\d\d)\s*(§|Table|table|annex|appendix|article|regulation|clause|A\d|B?\d|R\d)"
    r"|\bNEC 20\d\d (Table |chapter |article )?\d"
)
# Said where no standard stands behind a figure: then nobody looks for one.
HONEST = (
    "practice", "Usual", "usual", "not from a standard", "default", "Roof", "Open rack", "made",
    "as generally known", "sheet", "Resolution", "Conductor on", "Fits of", "Careful", "nameplate",
)  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Finding:
    """What is wrong with a pack at one path."""

    path: str
    said: str


def findings(rules: RulePack) -> tuple[Finding, ...]:
    """Everything that a look over a pack finds; nothing where it may be used as it is."""
    return tuple(_findings(rules))


def _findings(rules: RulePack) -> Iterator[Finding]:
    yield from _of_units(rules)
    yield from _of_sources(rules)
    if list(rules.circuit.ratings_a) != sorted(set(rules.circuit.ratings_a)):
        yield Finding(path="circuit.ratings_a", said="does not rise")
    if list(rules.fuse.ratings_a) != sorted(set(rules.fuse.ratings_a)):
        yield Finding(path="fuse.ratings_a", said="does not rise")
    there = {table.id for table in rules.tables}
    for table in GENERIC.tables:
        if table.id not in there:
            yield Finding(path=f"tables.{table.id}", said="is missing")


def _of_units(rules: RulePack) -> Iterator[Finding]:
    units = {path: figure.unit for path, figure in _figures(GENERIC)}
    for path, figure in _figures(rules):
        if figure.unit != units[path]:
            yield Finding(path=path, said=f"is in {figure.unit}, not in {units[path]}")


def _of_sources(rules: RulePack) -> Iterator[Finding]:
    for path, source in _sources(rules):
        if any(word in source for word in HONEST):
            continue
        if not STANDARD.search(source):
            yield Finding(path=path, said=f"names no standard: {source}")
        elif not EDITION.search(source):
            yield Finding(path=path, said=f"names no edition: {source}")
        elif not CLAUSE.search(source):
            yield Finding(path=path, said=f"names no clause: {source}")


def _figures(rules: RulePack) -> Iterator[tuple[str, Figure]]:
    for section in fields(rules):
        part: Any = getattr(rules, section.name)
        if is_dataclass(part):
            for field in fields(part):
                value = getattr(part, field.name)
                if isinstance(value, Figure):
                    yield f"{section.name}.{field.name}", value


def _sources(rules: RulePack) -> Iterator[tuple[str, str]]:
    for section in fields(rules):
        part: Any = getattr(rules, section.name)
        if is_dataclass(part):
            for field in fields(part):
                value = getattr(part, field.name)
                if isinstance(value, Figure):
                    yield f"{section.name}.{field.name}", value.source
                elif field.name.endswith("source"):
                    yield f"{section.name}.{field.name}", value
    for table in rules.tables:
        yield f"tables.{table.id}", table.source


@dataclass(frozen=True, kw_only=True)
class Difference:
    """A figure or school in which two packs differ."""

    path: str
    title: str
    one: str
    other: str
    one_source: str
    other_source: str


def differences(one: RulePack, other: RulePack) -> tuple[Difference, ...]:
    """Where two packs say something else, by path; what both take from the same base is alike."""
    theirs = {figure.path: figure for figure in figures_of(other)}
    found = []
    for mine in figures_of(one):
        there = theirs.get(mine.path)
        if there is not None and (mine.value, mine.choice) != (there.value, there.choice):
            found.append(
                Difference(
                    path=mine.path,
                    title=mine.title,
                    one=_shown(mine.value, mine.choice, mine.unit),
                    other=_shown(there.value, there.choice, there.unit),
                    one_source=mine.source,
                    other_source=there.source,
                )
            )
    return tuple(found)


def _shown(value: float | None, choice: str | None, unit: str) -> str:
    return f"{value:g} {unit}".strip() if value is not None else choice or ""


def taken_over(rules: RulePack) -> dict[str, str]:
    """What a shipped pack does not state itself, by path, with whose it is."""
    return inherited_from(rules.id) if rules.id in known_packs() else {}
