"""Typed entries to numbers: "412 V", "1.2 kV", "30 ft", "12,5" and what they must not be.

SI inside the core; other units live only here, at the edge.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from functools import cache

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
# From 1/0 on the number counts down: 0 is 1/0, -3 is 4/0.
AWG_MM2 = {
    14: 2.08, 12: 3.31, 10: 5.26, 8: 8.37, 6: 13.3, 4: 21.2, 3: 26.7, 2: 33.6, 1: 42.4,
    0: 53.5, -1: 67.4, -2: 85.0, -3: 107.2,
}  # fmt: skip
GAUGES = {area: gauge for gauge, area in AWG_MM2.items()}
FAHRENHEIT = Conversion(5 / 9, -32 * 5 / 9)

# SI prefixes (SI brochure, 9th edition, table 7). A prefix is exact: M is never m.
PREFIXES = {"": 1.0, "µ": 1e-6, "m": 1e-3, "c": 1e-2, "k": 1e3, "M": 1e6, "G": 1e9}
# What a prefix may stand before; a longer one first where one ends as another.
PREFIXED = ("W/m²", "Ω/m", "VA", "Nm", "V", "A", "W", "Ω", "m", "g", "s")
# What may be typed for a quantity kept in a unit, first that unit itself. A unit
# that is not here is taken as it is written and in no other way.
TAKEN: dict[str, tuple[str, ...]] = {
    "V": ("V", "mV", "kV"),
    "A": ("A", "µA", "mA", "kA"),
    "mA": ("mA", "µA", "A"),
    "W": ("W", "kW"),
    "VA": ("VA", "kVA"),
    "W/m²": ("W/m²", "kW/m²"),
    "Ω": ("Ω", "mΩ", "kΩ", "MΩ", "GΩ"),
    "kΩ": ("kΩ", "Ω", "MΩ"),
    "MΩ": ("MΩ", "Ω", "kΩ", "GΩ"),
    "Ω/m": ("Ω/m", "mΩ/m"),
    "m": ("m", "mm", "cm"),
    "mm": ("mm", "cm", "m"),
    "kg": ("kg", "g"),
    "Nm": ("Nm", "cNm"),
    "s": ("s", "ms"),
    "ms": ("ms", "s"),
}
# Units of another family, by the unit in which the quantity is kept.
OTHERS: dict[str, dict[str, Conversion]] = {
    "m": {"ft": Conversion(FOOT_M)},
    "mm": {"in": Conversion(INCH_MM)},
    "kg": {"lb": Conversion(POUND_KG)},
    "Nm": {name: Conversion(INCH_POUND_NM) for name in ("in-lb", "inlb", "lbin")},
    "m/s": {"km/h": Conversion(1 / 3.6)},
    "mm/m": {"%": Conversion(10)},
    "s": {"min": Conversion(60)},
    "°C": {"C": Conversion(1), "°F": FAHRENHEIT, "F": FAHRENHEIT},
    "°": {"deg": Conversion(1)},
    "modules": {"module": Conversion(1)},
    "cores": {"core": Conversion(1)},
    "ohm/km": {"Ω/km": Conversion(1)},
}
# Units whose own letters are written either way, for none of them has another meaning so. The
# letters m, g, s, K and every prefix stay as they are.
EITHER_WAY = ("V", "A", "W", "VA", "W/m²", "Hz", "Nm", "°C", "C", "°F", "F", "ft", "in", "lb")

_ENTRY = re.compile(
    r"^([+-]?[\d.,\s]*\d[.,]?(?:[eE][+-]?\d+)?|[+-]?(?i:nan|inf(?:inity)?))\s*(\D.*)?$"
)
_GAUGE = re.compile(r"^#?\s*(\d+(?:/0)?)\s*awg$|^awg\s*(\d+(?:/0)?)$", re.IGNORECASE)
_OHM = re.compile("ohms?|\u2126", re.IGNORECASE)
_PLAIN_LETTERS = str.maketrans(
    {"−": "-", "–": "-", "’": "'", "\u00a0": " ", "\u202f": " ", "\u03bc": "µ"}
)


def parse_quantity(
    text: str, quantity: Quantity, path: str = "$", *, any_size: bool = False
) -> float:
    """The number meant by a typed entry, in the quantity's own unit.

    any_size: the range is held later, when what looks like a slip has been asked about.

    A decimal comma and a unit typed with the number are accepted where they are clear.
    Raises Refused with the entry and what is allowed: empty, not a number, a unit of another
    kind, a separator that could mean two things, or a value outside the quantity's range.
    """
    cleaned = text.translate(_PLAIN_LETTERS).strip()
    if not cleaned:
        raise Refused([_wrong(path, text, quantity, "nothing was entered")])
    gauge = _GAUGE.match(cleaned) if quantity.unit == "mm²" else None
    if gauge:
        return _gauge_mm2(gauge_number(gauge.group(1) or gauge.group(2)), text, path)
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


def gauge_number(name: str) -> int:
    """The number of a gauge from its name: 1/0 is 0, 2/0 is -1."""
    return 1 - int(name.removesuffix("/0")) if name.endswith("/0") else int(name)


def gauge_name(gauge: int) -> str:
    """What a gauge is called: 10, or 2/0 for -1."""
    return str(gauge) if gauge > 0 else f"{1 - gauge}/0"


def size_name(section_mm2: float) -> str:
    """What a conductor of this size is called: a gauge where it is one, else its area."""
    gauge = gauge_of(section_mm2)
    return f"{section_mm2:g}\u00a0mm²" if gauge is None else f"{gauge_name(gauge)}\u00a0AWG"


def _gauge_mm2(gauge: int, text: str, path: str) -> float:
    if gauge in AWG_MM2:
        return AWG_MM2[gauge]
    known = " · ".join(f"{gauge_name(one)} AWG" for one in AWG_MM2)
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
    conversion = _spellings(quantity.unit).get(_spelled(unit))
    if conversion is None:
        taken = " · ".join(units_taken(quantity.unit)) or "plain numbers"
        said = f"“{text.strip()}” is not in {taken}"
        raise Refused([_wrong(path, text, quantity, said)])
    return number * conversion.factor + conversion.offset


def units_taken(unit: str) -> tuple[str, ...]:
    """The units in which a quantity kept in `unit` may be typed; none for a plain number."""
    return (*TAKEN.get(unit, (unit,) if unit else ()), *OTHERS.get(unit, ()))


def _spelled(unit: str) -> str:
    """A unit as it was typed, in the letters of our tables: ohm in words, u for micro, m2."""
    plain = _OHM.sub("Ω", unit.replace(" ", ""))
    plain = plain.removesuffix("2") + "²" if plain.endswith("m2") else plain
    return "µ" + plain[1:] if plain in ("uA", "uV") else plain


@cache
def _spellings(unit: str) -> dict[str, Conversion]:
    """Every spelling that a quantity kept in `unit` takes, with its conversion."""
    found: dict[str, Conversion] = {}
    own, _ = _parted(unit)
    for one in TAKEN.get(unit, (unit,)):
        prefix, base = _parted(one)
        conversion = Conversion(PREFIXES[prefix] / PREFIXES[own])
        for spelled in _either_way(base):
            found[_spelled(prefix + spelled)] = conversion
    for one, conversion in OTHERS.get(unit, {}).items():
        found.update(dict.fromkeys(map(_spelled, _either_way(one)), conversion))
    return found


def _parted(unit: str) -> tuple[str, str]:
    """The prefix of a unit, and the unit that it stands before."""
    for base in PREFIXED:
        prefix = unit.removesuffix(base)
        if prefix != unit and prefix in PREFIXES:
            return prefix, base
    return "", unit


def _either_way(base: str) -> tuple[str, ...]:
    return (base, base.lower(), base.upper()) if base in EITHER_WAY else (base,)


def _wrong(path: str, text: str, quantity: Quantity, said: str) -> Problem:
    return problem(
        path,
        text,
        quantity.allowed,
        f"{quantity.meaning}: {said}. Allowed: {quantity.allowed}.",
    )
