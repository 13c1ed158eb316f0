"""A gateway's own list of its units, typed or read from a picture of it."""

from __future__ import annotations

import re
from collections import Counter

from core.base.errors import Problem, Refused, problem
from core.base.signs import unwritten
from core.job.microinverter import GatewayUnit

MOST_UNITS, MOST_SERIAL_CHARS, MOST_CHARS = 400, 60, 40_000
BETWEEN = re.compile(r"[\s,;]+")


def read_unit_list(text: str) -> tuple[GatewayUnit, ...]:
    """The serials of a typed list, in its order; between them a space, comma, semicolon or line.

    That a unit is listed says nothing of whether it reports. Raises Refused for an empty list,
    signs that cannot be read, and a list that was pasted twice; then nothing is kept.
    """
    if len(text) > MOST_CHARS:
        raise Refused([problem("$.text", f"{len(text)} signs", f"at most {MOST_CHARS}")])
    serials = [one for one in BETWEEN.split(text.strip()) if one]
    if not 1 <= len(serials) <= MOST_UNITS:
        allowed = f"1 to {MOST_UNITS} serials, one on each line"
        raise Refused([problem("$.text", f"{len(serials)} serials", allowed)])
    found = [*_unreadable(serials)]
    counted = Counter(serials)
    if len(serials) > 1 and all(count > 1 for count in counted.values()):
        said = f"All {len(counted)} serials stand there twice: was the list pasted twice?"
        found.append(problem("$.text", f"{len(serials)} serials", "each serial once", said))
    if found:
        raise Refused(found)
    return tuple(GatewayUnit(serial=one, reporting=False) for one in serials)


def _unreadable(serials: list[str]) -> list[Problem]:
    found = []
    for number, one in enumerate(serials, start=1):
        wrong = unwritten(one)
        if wrong is not None or len(one) > MOST_SERIAL_CHARS:
            allowed = f"at most {MOST_SERIAL_CHARS} signs that can be read"
            found.append(problem(f"$.text, serial {number}", ascii(one)[:60], allowed))
    return found
