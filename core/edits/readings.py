"""Readings as they are typed, to values: one way for every kind."""

from __future__ import annotations

from core.base.errors import Refused, problem
from core.base.quantity import Quantity
from core.base.units import parse_quantity
from core.figures.grid_profiles import point_kinds
from core.job.reading_kinds import KINDS, ReadingKind
from core.job.reading_values import BEYOND, Answer, Measured, Said, Value
from core.rules.arrival.nameplate import serial_in

# An answer as it is sent: 1 is the good one.
ANSWERS = {"1": True, "-1": False}
MOST_TEXT_CHARS = 200
SERIALS: frozenset[ReadingKind] = frozenset({"nameplate_serial", "unit_serial"})


def reading_quantity(kind: ReadingKind, subject: str) -> Quantity:
    """What a reading of this kind and subject may be; a setting takes its own unit."""
    quantity = KINDS[kind].quantity
    point = point_kinds().get(subject) if kind == "setting" else None
    if point is None:
        return quantity
    return Quantity(point.title, point.unit, quantity.low, quantity.high)


def parse_reading(kind: ReadingKind, subject: str, entered: str, serial_form: str) -> Value:
    """The value of a typed reading: a figure in its own unit, an answer, or a text.

    A serial is taken out of a scanned label. Raises Refused at ``$.entered``.
    """
    form = KINDS[kind].form
    if form == "answer":
        return _answer(kind, entered)
    if form == "said":
        return Said(_text(kind, entered.strip(), serial_form))
    is_beyond = KINDS[kind].ranged and entered.strip().startswith(BEYOND)
    plain = entered.strip().removeprefix(BEYOND) if is_beyond else entered
    number = parse_quantity(plain, reading_quantity(kind, subject), "$.entered")
    return Measured(number, beyond=is_beyond)


def _answer(kind: ReadingKind, entered: str) -> Answer:
    if entered.strip() not in ANSWERS:
        raise Refused([problem("$.entered", entered, KINDS[kind].meaning)])
    return Answer(ANSWERS[entered.strip()])


def _text(kind: ReadingKind, text: str, serial_form: str) -> str:
    if not text:
        raise Refused([problem("$.entered", text, KINDS[kind].meaning)])
    if len(text) > MOST_TEXT_CHARS:
        raise Refused([problem("$.entered", text, f"at most {MOST_TEXT_CHARS} characters")])
    return serial_in(scanned=text, form=serial_form) if kind in SERIALS else text
