"""Readings as they are typed, to values: one way for every kind."""

from __future__ import annotations

from core.errors import Refused, problem
from core.job import READING_QUANTITIES, ReadingKind
from core.profiles import point_kinds
from core.quantity import Quantity
from core.units import parse_quantity

POLARITIES = {"1": 1.0, "-1": -1.0}


def reading_quantity(kind: ReadingKind, subject: str) -> Quantity:
    """What a reading of this kind and subject may be; a setting takes its own unit."""
    quantity = READING_QUANTITIES[kind]
    point = point_kinds().get(subject) if kind == "setting" else None
    if point is None:
        return quantity
    return Quantity(point.title, point.unit, quantity.low, quantity.high)


def parse_reading(kind: ReadingKind, subject: str, entered: str) -> float:
    """The value of a typed reading in its own unit. Raises Refused at ``$.entered``."""
    if kind == "polarity":
        if entered.strip() not in POLARITIES:
            raise Refused([problem("$.entered", entered, "1 (as marked) or -1 (swapped)")])
        return POLARITIES[entered.strip()]
    return parse_quantity(entered, reading_quantity(kind, subject), "$.entered")
