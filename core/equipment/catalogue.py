"""The shelf: equipment sheets by kind. What ships with the product is data, all of it invented."""

from __future__ import annotations

from functools import cache
from typing import Literal, TypeVar, get_args

from core.base.errors import Refused, problem
from core.base.form import read
from core.base.messages import say
from core.data import load
from core.equipment.backup_unit import BackupUnit
from core.equipment.battery import Battery
from core.equipment.cables_switches_fixings import (
    Breaker,
    Cable,
    Fixing,
    Isolator,
    Meter,
    Plug,
    SafetySwitch,
    WallUnit,
)
from core.equipment.inverter import Inverter
from core.equipment.micro import Micro, Trunk
from core.equipment.module import Module
from core.equipment.optimiser import Optimiser
from core.equipment.sheet import Sheet
from core.equipment.talker import Talker

SHEETS_FOLDER = "catalogue"
Kind = Literal[
    "modules",
    "inverters",
    "optimisers",
    "micros",
    "trunks",
    "cables",
    "isolators",
    "breakers",
    "safety_switches",
    "fixings",
    "wall_units",
    "batteries",
    "backup_units",
    "meters",
    "plugs",
    "talkers",
]
KINDS: tuple[Kind, ...] = get_args(Kind)
SHEETS: dict[Kind, type[Sheet]] = {
    "modules": Module,
    "inverters": Inverter,
    "optimisers": Optimiser,
    "micros": Micro,
    "trunks": Trunk,
    "cables": Cable,
    "isolators": Isolator,
    "breakers": Breaker,
    "safety_switches": SafetySwitch,
    "fixings": Fixing,
    "wall_units": WallUnit,
    "batteries": Battery,
    "backup_units": BackupUnit,
    "meters": Meter,
    "plugs": Plug,
    "talkers": Talker,
}
Some = TypeVar("Some", bound=Sheet)


def title(kind: Kind) -> str:
    """What a kind of sheet is called."""
    return say("shelf_kinds", kind)


def sheets(kind: Kind) -> tuple[Sheet, ...]:
    """Every sheet of a kind that ships."""
    return _shipped(kind)


@cache
def _shipped(kind: Kind) -> tuple[Sheet, ...]:
    return tuple(
        read(SHEETS[kind], sheet, f"$shelf.{kind}[{index}]")
        for index, sheet in enumerate(load(f"{SHEETS_FOLDER}/{kind}"))
    )


def module(sheet_id: str) -> Module:
    """The shipped module sheet of that identity. Raises Refused when there is none."""
    return pick(sheets("modules"), sheet_id, Module, "$.module")


def inverter(sheet_id: str) -> Inverter:
    """The shipped inverter sheet of that identity. Raises Refused when there is none."""
    return pick(sheets("inverters"), sheet_id, Inverter, "$.inverter")


def optimiser(sheet_id: str) -> Optimiser:
    """The shipped optimiser sheet of that identity. Raises Refused when there is none."""
    return pick(sheets("optimisers"), sheet_id, Optimiser, "$.optimiser")


def pick(among: tuple[Sheet, ...], sheet_id: str, kind: type[Some], path: str) -> Some:
    """The sheet of that identity. Raises Refused at `path` when there is none."""
    for sheet in among:
        if sheet.id == sheet_id and isinstance(sheet, kind):
            return sheet
    raise Refused([problem(path, sheet_id, " · ".join(sheet.id for sheet in among))])


class Shipped:
    """The sheets that ship, as an edit asks for them; nobody's own packs."""

    def one(self, kind: Kind, sheet_id: str, wanted: type[Some], path: str) -> Some:
        """The shipped sheet of that identity. Raises Refused at `path` when there is none."""
        return pick(sheets(kind), sheet_id, wanted, path)

    def every(self, kind: Kind, wanted: type[Some]) -> tuple[Some, ...]:
        """Every shipped sheet of a kind."""
        return tuple(one for one in sheets(kind) if isinstance(one, wanted))

    def own_pack(self, pack_id: str) -> None:
        """None: no pack of one's own ships."""


SHIPPED = Shipped()
