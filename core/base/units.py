"""Typed entries to numbers: "412 V", "1.2 kV", "30 ft", "12,5" and what they must not be.

SI inside the core; other units live only here, at the edge.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass

from core.base.errors import Problem, Refused, problem
from core.base.quantity import Quantity


@dataclass(frozen=True)
class Conversion:
    """value_in_base = value * factor + offset."""

    factor: float
    offset: float = 0.0


# Exact by definition: international foot, inch and pound (1959), Fahrenheit scale.
FOOT_M = 0.3048
INCH_MM = 25.4
POUND_KG = 0.45359237
# Pound-force over an inch: pound, standard gravity and inch.
INCH_POUND_NM = POUND_KG * 9.80665 * INCH_MM / 1000
# ASTM B258: conductor area of American Wire Gauge sizes, mm2 (NEC chapter 9, Table 8).
AWG_MM2 = {14: 2.08, 12: 3.31, 10: 5.26, 8: 8.37, 6: 13.3, 4: 21.2}
GAUGES = {area: gauge for gauge, area in AWG_MM2.items()}
FAHRENHEIT = Conversion(5 / 9, -32 * 5 / 9)

CONVERSIONS: dict[str, dict[str, Conversion]] = {
    "V": {"v": Conversion(1), "kv": Conversion(1e3), "mv": Conversion(1e-3)},
    "A": {"a": Conversion(1), "ma": Conversion(1e-3)},
    "W": {"w": Conversion(1), "kw": Conversion(1e3)},
    "W/m²": {"w/m2": Conversion(1), "kw/m2": Conversion(1e3)},
    "°C": {"c": Conversion(1), "f": FAHRENHEIT},
    "m": {
        "m": Conversion(1),
        "cm": Conversion(1e-2),
        "mm": Conversion(1e-3),
        "ft": Conversion(FOOT_M),
    },
    "mm²": {"mm2": Conversion(1)},
    "mm": {
        "mm": Conversion(1),
        "cm": Conversion(10),
        "m": Conversion(1000),
        "in": Conversion(INCH_MM),
    },
    "m/s": {"m/s": Conversion(1), "km/h": Conversion(1 / 3.6)},
    "Hz": {"hz": Conversion(1)},
    "s": {"s": Conversion(1), "ms": Conversion(1e-3), "min": Conversion(60)},
    "%": {"%": Conversion(1)},
    "°": {"": Conversion(1), "deg": Conversion(1)},
    "modules": {"modules": Conversion(1), "module": Conversion(1)},
    "kg": {"kg": Conversion(1), "g": Conversion(1e-3), "lb": Conversion(POUND_KG)},
    "Nm": {
        "nm": Conversion(1),
        "cnm": Conversion(1e-2),
        "in-lb": Conversion(INCH_POUND_NM),
        "inlb": Conversion(INCH_POUND_NM),
        "lbin": Conversion(INCH_POUND_NM),
    },
    "mm/m": {"mm/m": Conversion(1), "%": Conversion(10)},
    "Ω": {
        "ω": Conversion(1),
        "ohm": Conversion(1),
        "mω": Conversion(1e-3),
        "mohm": Conversion(1e-3),
    },
    "MΩ": {
        "mω": Conversion(1),
        "mohm": Conversion(1),
        "kω": Conversion(1e-3),
        "kohm": Conversion(1e-3),
        "gω": Conversion(1e3),
        "gohm": Conversion(1e3),
    },
    "ms": {"ms": Conversion(1), "s": Conversion(1e3)},
    "mA": {"ma": Conversion(1), "a": Conversion(1e3)},
    "cores": {"cores": Conversion(1), "core": Conversion(1)},
}

_ENTRY = re.compile(r"^([+-]?[\d.,\s]*\d[.,]?(?:e[+-]?\d+)?|[+-]?(?:nan|inf(?:inity)?))\s*(\D.*)?$")
_GAUGE = re.compile(r"^#?\s*(\d+)\s*awg$|^awg\s*(\d+)$")
_PLAIN_LETTERS = str.maketrans({"²": "2", "−": "-", "–": "-", "’": "'", "\u00a0": " "})


def parse_quantity(
    text: str, quantity: Quantity, path: str = "$", *, any_size: bool = False
) -> float:
    """The number meant by a typed entry, in the quantity's own unit.

    any_size: the range is held later, when what looks like a slip has been asked about.

    A decimal comma and a unit typed with the number are accepted where they are clear.
    Raises Refused with the entry and what is allowed: empty, not a number, a unit of another
    kind, a separator that could mean two things, or a value outside the quantity's range.
    """
    cleaned = text.translate(_PLAIN_LETTERS).strip().lower()
    if not cleaned:
        raise Refused([_wrong(path, text, quantity, "nothing was entered")])
    gauge = _GAUGE.match(cleaned) if quantity.unit == "mm²" else None
    if gauge:
        return _gauge_mm2(int(gauge.group(1) or gauge.group(2)), text, path)
    match = _ENTRY.match(cleaned)
    if not match:
        raise Refused([_wrong(path, text, quantity, f"“{text.strip()}” is not a number")])
    number = _number(match.group(1), text, quantity, path)
    value = _in_base_unit(number, (match.group(2) or "").strip(), text, quantity, path)
    found = None if any_size and math.isfinite(value) else quantity.problem(path, value)
    if found:
        raise Refused([found])
    return value


def gauge_of(section_mm2: float) -> int | None:
    """The American Wire Gauge of a conductor; None for a metric size."""
    return GAUGES.get(section_mm2)


def size_name(section_mm2: float) -> str:
    """What a conductor of this size is called: a gauge where it is one, else its area."""
    gauge = gauge_of(section_mm2)
    return f"{section_mm2:g}\u00a0mm²" if gauge is None else f"{gauge}\u00a0AWG"


def _gauge_mm2(gauge: int, text: str, path: str) -> float:
    if gauge in AWG_MM2:
        return AWG_MM2[gauge]
    known = " · ".join(f"{one} AWG" for one in AWG_MM2)
    said = f"conductor size: {text.strip()} is none of {known}."
    raise Refused([problem(path, text, known, said)])


def parse_count(text: str, quantity: Quantity, path: str = "$") -> int:
    """As `parse_quantity`, for things that are counted: refuses a fraction."""
    value = parse_quantity(text, quantity, path)
    if value != int(value):
        raise Refused([_wrong(path, text, quantity, f"“{text.strip()}” is not a whole number")])
    return int(value)


def _number(digits: str, text: str, quantity: Quantity, path: str) -> float:
    compact = digits.replace(" ", "")
    if "," in compact and "." in compact:
        compact = _without_grouping(compact)
    elif re.fullmatch(r"[+-]?[1-9]\d{0,2},\d{3}", compact):
        plain, decimal = compact.replace(",", ""), compact.replace(",", ".")
        said = f"“{text.strip()}” can mean {plain} or {decimal}: write one of them"
        raise Refused([_wrong(path, text, quantity, said)])
    compact = compact.replace(",", ".")
    try:
        return float(compact)
    except ValueError:
        raise Refused([_wrong(path, text, quantity, f"“{text.strip()}” is not a number")]) from None


def _without_grouping(compact: str) -> str:
    decimal = max(",", ".", key=compact.rfind)
    grouping = "." if decimal == "," else ","
    return compact.replace(grouping, "")


def _in_base_unit(number: float, unit: str, text: str, quantity: Quantity, path: str) -> float:
    if not unit:
        return number
    known = CONVERSIONS.get(quantity.unit, {})
    conversion = known.get(unit.replace(" ", "").removeprefix("°"))
    if conversion is None:
        said = f"“{text.strip()}” is not in {quantity.unit or 'plain numbers'}"
        raise Refused([_wrong(path, text, quantity, said)])
    return number * conversion.factor + conversion.offset


def _wrong(path: str, text: str, quantity: Quantity, said: str) -> Problem:
    return problem(
        path,
        text,
        quantity.allowed,
        f"{quantity.meaning}: {said}. Allowed: {quantity.allowed}.",
    )
