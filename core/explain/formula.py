"""A rule's formula, and the same with the figures of one call in it.

In the docstring of a rule the formula names parameters, figures of the pack (`circuit.continuous`)
and other rules; each is replaced by what it was in the call, all else stands as written.
"""

from __future__ import annotations

import inspect
import math
import re
from collections.abc import Iterator
from dataclasses import fields, is_dataclass
from functools import cache
from typing import Any

from core.base.form import hints, limits_of
from core.base.judgement import Judgement
from core.base.messages import figure, say
from core.base.quantity import Quantity
from core.base.trace import Call
from core.figures.rule_packs import Figure, RulePack
from core.registry import rule

NAME = re.compile(r"[A-Za-z_][A-Za-z0-9_]*(?:\.[a-z][a-z0-9_]*)*")
KEPT_DIGITS = 4
# A longer unit is a word, as modules, and one of them is none too many.
LONGEST_SYMBOL = 2
MOST_DECIMALS = 6


def parts(name: str) -> tuple[str, str]:
    """The formula and the source in a rule's docstring, each empty where it has none.

    The formula is its first sentence; what follows says where it holds.
    """
    said = " ".join((inspect.getdoc(rule(name)) or "").split())
    before, _, source = said.partition("Source: ")
    formula = before.partition("Formula: ")[2].split(". ")[0]
    return formula.strip().rstrip("."), source.strip().rstrip(".")


def written(value: float, unit: str = "") -> str:
    """A figure of a sum: four digits that count, with its unit."""
    if not math.isfinite(value):
        return "none"
    large = math.floor(math.log10(abs(value))) + 1 if value else 1
    if value == 1 and unit.endswith("s") and len(unit) > LONGEST_SYMBOL:
        unit = unit[:-1]
    return figure(value, unit, min(MOST_DECIMALS, max(1, KEPT_DIGITS - large)))


def named_in(formula: str) -> Iterator[str]:
    """The names that stand in a formula, dotted ones whole."""
    return (found.group() for found in NAME.finditer(formula))


def figure_of(name: str, call: Call) -> tuple[float, str] | None:
    """What a name of a formula was in a call, with its unit; None where it names no figure."""
    found = thing_of(name, call)
    if found is None:
        return None
    value, unit = found
    is_number = isinstance(value, int | float) and not isinstance(value, bool)
    return (float(value), unit) if is_number else None


def thing_of(name: str, call: Call) -> tuple[Any, str] | None:
    """What a name of a formula stands for in a call, the very object, with its unit."""
    first, *rest = name.split(".")
    given = arguments(call)
    if first in given and (not rest or not isinstance(given[first], RulePack)):
        return _attribute(given[first], unit_taken(call.rule, first), rest)
    pack = given.get("rule_pack")
    if len(rest) == 1 and isinstance(pack, RulePack):
        found = getattr(getattr(pack, first, None), rest[0], None)
        return (found.value, found.unit) if isinstance(found, Figure) else None
    inside = next((one for one in call.inside if one.rule == first), None)
    if inside is None:
        return None
    return _attribute(inside.result, unit_given(first), rest)


def _attribute(value: Any, unit: str, rest: list[str]) -> tuple[Any, str] | None:
    for name in rest:
        if not is_dataclass(value) or name not in {one.name for one in fields(value)}:
            return None
        unit, value = _field_unit(value, name), getattr(value, name)
    return (value.value, value.unit) if isinstance(value, Figure) else (value, unit)


def arguments(call: Call) -> dict[str, Any]:
    """Every argument of a call, those left to their defaults too."""
    return {name: call.given.get(name, usual) for name, usual in _usual(call.rule).items()}


@cache
def _usual(name: str) -> dict[str, Any]:
    signature = inspect.signature(rule(name)).parameters
    return {parameter: one.default for parameter, one in signature.items()}


def unit_taken(name: str, parameter: str) -> str:
    """The unit of a rule's parameter; empty where it takes no plain figure."""
    return _unit_of(hints(rule(name)).get(parameter), parameter)


def _field_unit(owner: Any, name: str) -> str:
    return _unit_of(hints(type(owner)).get(name), name)


# What the end of a plain name says of its unit.
ENDINGS = {
    "v": "V",
    "a": "A",
    "w": "W",
    "va": "VA",
    "ohm": "Ω",
    "mm2": "mm²",
    "mm": "mm",
    "m": "m",
    "pct": "%",
    "c": "°C",
    "s": "s",
    "n": "N",
    "nm": "Nm",
    "kg": "kg",
    "mohm": "MΩ",
    "kohm": "kΩ",
    "ma": "mA",
    "ms": "ms",
    "hz": "Hz",
    "kwh": "kWh",
    "min": "min",
    "w_per_m2": "W/m²",
}


def _unit_of(hint: Any, name: str) -> str:
    limits = limits_of(hint) if hint is not None else None
    if isinstance(limits, Quantity):
        return limits.unit
    return ENDINGS.get(name.rpartition("_")[2], "") if "_" in name else ""


def unit_given(name: str) -> str:
    """The unit of what a rule gives; empty where it gives no plain figure."""
    return _unit_of(hints(rule(name)).get("return"), name)


def with_numbers(call: Call) -> str:
    """The formula with the figures of a call in it, and what came of it."""
    formula, _ = parts(call.rule)
    filled = NAME.sub(lambda found: _filled(found.group(), call), formula)
    if filled == formula:
        # Nothing but words: the figures stand beside them.
        filled = ""
    if isinstance(call.result, Judgement):
        return _judged(filled, call.result)
    came = _came(call)
    return " = ".join(one for one in (filled, came) if one)


def _filled(name: str, call: Call) -> str:
    found = figure_of(name, call)
    if found is not None:
        return written(*found)
    given = arguments(call)
    return say("origins", "none") if name in given and given[name] is None else name


def _came(call: Call) -> str:
    result = call.result
    if isinstance(result, bool) or result is None:
        return ""
    if isinstance(result, int | float):
        return written(result, unit_given(call.rule))
    if not is_dataclass(result):
        return ""
    plain = (
        (one.name, getattr(result, one.name))
        for one in fields(result)
        if isinstance(getattr(result, one.name), int | float)
        and not isinstance(getattr(result, one.name), bool)
    )
    return " · ".join(
        f"{spoken(name)} {written(v, _field_unit(result, name))}" for name, v in plain
    )


def spoken(name: str) -> str:
    """A name of the code as words: without its unit, without the signs between."""
    stem, _, end = name.rpartition("_")
    return (stem if stem and end in ENDINGS else name).replace("_", " ")


def _judged(filled: str, found: Judgement) -> str:
    """The two sides of a judgement with what each came to; plain where it compares nothing."""
    if found.value is None or found.limit is None or found.margin is None:
        return filled
    value, limit = written(found.value, found.unit), written(found.limit, found.unit)
    left, _, right = filled.partition(" ≤ ") if " ≤ " in filled else filled.partition(" ≥ ")
    if " ≤ " in right or " ≥ " in right:
        return filled
    return f"{_side(left, value)} {_relation(found)} {_side(right, limit)}"


def _side(filled: str, came: str) -> str:
    return came if filled in ("", came) else f"{filled} = {came}"


def _relation(found: Judgement) -> str:
    """How value and limit really stand to each other."""
    assert found.value is not None and found.limit is not None and found.margin is not None
    if found.margin == 0:
        return "="
    above = found.value > found.limit
    if found.margin > 0:
        return "≥" if above else "≤"
    return ">" if above else "<"
