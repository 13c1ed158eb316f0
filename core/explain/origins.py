"""Where a figure came from, told by the figure itself: it is the very object that was read.

A float that a rule was called with is the one that stands in the sheet, the reading, the pack or
the plan, not another of the same value. So nothing has to be said twice about where it came from.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import MISSING, fields, is_dataclass
from typing import Any

from core.base.form import hints, limits_of
from core.base.messages import say
from core.base.quantity import Limits
from core.data import load
from core.explain.formula import spoken
from core.figures.grid_profiles import Profile, point_kinds
from core.figures.rule_packs import Figure, RulePack, Table
from core.job.job import Job
from core.job.readings import Reading

# Smaller whole numbers are one object wherever they stand.
LEAST_OWN_INT = 257


class Origins:
    """Where each figure of a job, its sheets, its pack and its grid profile stands."""

    def __init__(self, job: Job, profile: Profile | None) -> None:
        self._chains: dict[int, tuple[Any, ...]] = {}
        for root in (job, job.rules, profile):
            if root is not None:
                self._walk(root, (root,))

    def _walk(self, owner: Any, chain: tuple[Any, ...]) -> None:
        for name, value in _children(owner):
            here = (*chain, name)
            if is_dataclass(value) or isinstance(value, tuple):
                self._walk(value, (*here, value))
            elif isinstance(value, float) or (type(value) is int and value >= LEAST_OWN_INT):
                self._chains.setdefault(id(value), here)

    def of(self, value: Any) -> str:
        """Where a figure came from; empty where it stands nowhere."""
        chain = self._chains.get(id(value))
        return "" if chain is None else _said(chain)


def _children(owner: Any) -> Iterator[tuple[str, Any]]:
    if isinstance(owner, tuple):
        return ((str(index), one) for index, one in enumerate(owner))
    return ((one.name, getattr(owner, one.name)) for one in fields(owner))


def _said(chain: tuple[Any, ...]) -> str:
    """Sheet, reading, pack, profile or plan, in words."""
    owners: list[Any] = [one for one in chain if is_dataclass(one)]
    owner, name = owners[-1], str(chain[-1])
    reading = next((one for one in owners if isinstance(one, Reading)), None)
    if reading is not None:
        when = f"{reading.taken_at:%d.%m.%Y %H:%M}"
        return say("origins", "reading", when=when, by=reading.by, subject=reading.subject)
    sheet = next((one for one in owners if hasattr(one, "sheet_revision")), None)
    if sheet is not None:
        which = f"{sheet.maker} {sheet.model}"
        return say(
            "origins", "sheet", which=which, field=_label(owner, name), rev=sheet.sheet_revision
        )
    if isinstance(owners[0], RulePack):
        return _of_pack(owners[0], owner, chain)
    if isinstance(owners[0], Profile):
        point = next((p for p in owners[0].points if p is owner), None)
        title = point_kinds()[point.id].title if point else _label(owner, name)
        return say("origins", "profile", profile=owners[0].name, field=title)
    if _is_default(owner, name):
        return say("origins", "usual", field=_label(owner, name))
    return say("origins", "plan", field=_label(owner, name))


def _of_pack(pack: RulePack, owner: Any, chain: tuple[Any, ...]) -> str:
    path = ".".join(one for one in chain if isinstance(one, str) and one not in ("value", "tables"))
    table = next((one for one in chain if isinstance(one, Table)), None)
    if table is not None:
        return say("origins", "pack", pack=pack.name, field=table.title, source=table.source)
    if isinstance(owner, Figure):
        title = say("figures", path)
        return say("origins", "pack", pack=pack.name, field=title, source=owner.source)
    return say("origins", "pack_list", pack=pack.name, field=spoken(str(chain[1])))


def _label(owner: Any, name: str) -> str:
    """What a field is called: as its limits have it, as the shelf has it, else by its name."""
    if is_dataclass(owner):
        limits: Limits | None = limits_of(hints(type(owner)).get(name))
        if limits is not None:
            return limits.meaning
    known = load("sheet_fields")["fields"].get(name)
    return str(known["label"]) if known else spoken(name)


def _is_default(owner: Any, name: str) -> bool:
    """Whether the figure is the one that stands where nothing was entered."""
    if not is_dataclass(owner):
        return False
    default = next((one.default for one in fields(owner) if one.name == name), MISSING)
    return default is not MISSING and default is getattr(owner, name, None)
