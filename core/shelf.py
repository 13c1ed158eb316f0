"""The shelf: equipment sheets that ship with the product, as data. All of it is invented."""

from __future__ import annotations

import json
from functools import cache
from pathlib import Path
from typing import TypeVar

from core.equipment.inverter import Inverter
from core.equipment.module import Module
from core.errors import Refused, problem
from core.form import read

SHELF_DIR = Path(__file__).parent / "data" / "shelf"
Sheet = TypeVar("Sheet", Module, Inverter)


@cache
def modules() -> tuple[Module, ...]:
    """Every module sheet on the shelf."""
    return read(tuple[Module, ...], _data("modules"), "$shelf.modules")


@cache
def inverters() -> tuple[Inverter, ...]:
    """Every inverter sheet on the shelf."""
    return read(tuple[Inverter, ...], _data("inverters"), "$shelf.inverters")


def module(sheet_id: str) -> Module:
    """The module sheet of that identity. Raises Refused when there is none."""
    return _pick(modules(), sheet_id, "$.module")


def inverter(sheet_id: str) -> Inverter:
    """The inverter sheet of that identity. Raises Refused when there is none."""
    return _pick(inverters(), sheet_id, "$.inverter")


def _data(name: str) -> object:
    return json.loads((SHELF_DIR / f"{name}.json").read_text(encoding="utf-8"))


def _pick(sheets: tuple[Sheet, ...], sheet_id: str, path: str) -> Sheet:
    for sheet in sheets:
        if sheet.id == sheet_id:
            return sheet
    raise Refused([problem(path, sheet_id, " · ".join(sheet.id for sheet in sheets))])
