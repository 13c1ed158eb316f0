"""Readings as they are typed, to values: one way for every kind."""

from __future__ import annotations

from core.base.errors import Refused, problem
from core.base.quantity import Quantity
from core.base.units import parse_quantity
from core.figures.grid_profiles import point_kinds
from core.job.readings import BEYOND, RANGED, READING_QUANTITIES, TEXTS, TWO_WAY, ReadingKind
from core.rules.arrival.nameplate import serial_in

# A two-way answer as it is sent: 1 is the good one.
ANSWERS = {"1": 1.0, "-1": -1.0}
MOST_TEXT_CHARS = 200
SERIALS: frozenset[ReadingKind] = frozenset({"nameplate_serial", "unit_serial"})


def reading_quantity(kind: ReadingKind, subject: str) -> Quantity:
    """What a reading of this kind and subject may be; a setting takes its own unit."""
    quantity = READING_QUANTITIES[kind]
    point = point_kinds().get(subject) if kind == "setting" else None
    if point is None:
        return quantity
    return Quantity(point.title, point.unit, quantity.low, quantity.high)


def parse_reading(kind: ReadingKind, subject: str, entered: str) -> float:
    """The value of a typed reading in its own unit; 0 for a text.

    Raises Refused at ``$.entered``.
    """
    if kind in TEXTS:
        return 0.0
    if kind in TWO_WAY:
        if entered.strip() not in ANSWERS:
            raise Refused([problem("$.entered", entered, READING_QUANTITIES[kind].meaning)])
        return ANSWERS[entered.strip()]
    plain = entered.strip().removeprefix(BEYOND) if kind in RANGED else entered
    return parse_quantity(plain, reading_quantity(kind, subject), "$.entered")


def parse_text(kind: ReadingKind, entered: str, serial_form: str) -> str:
    """The text of a reading that is read as one; a serial is taken out of a scanned label.

    Of a tester that shows more than its range, that it did.

    Raises Refused at ``$.entered``.
    """
    if kind in RANGED:
        return BEYOND if entered.strip().startswith(BEYOND) else ""
    if kind not in TEXTS:
        return ""
    text = entered.strip()
    if not text:
        raise Refused([problem("$.entered", entered, READING_QUANTITIES[kind].meaning)])
    if len(text) > MOST_TEXT_CHARS:
        raise Refused([problem("$.entered", entered, f"at most {MOST_TEXT_CHARS} characters")])
    return serial_in(scanned=text, form=serial_form) if kind in SERIALS else text
