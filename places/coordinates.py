"""Coordinates in any usual way of writing them; what could be read in two ways is refused."""

from __future__ import annotations

import re

from core.base.errors import Refused, problem
from core.base.form import quantity_of
from core.base.glossary import LatitudeDeg, LongitudeDeg

FORMS = "54.2, 0.6 · 54,2; 0,6 · 54°12'30\"N 0°36'W · 54° 12.5' N, 0° 36' E · geo:54.2,0.6"
MOST_CHARS = 400
MIN_PER_DEG, S_PER_DEG = 60.0, 3600.0
NUMBER = r"\d+(?:[.,]\d+)?"
# Degrees, then minutes and seconds where they are marked; a letter before or behind.
ANGLE = re.compile(
    rf"([NSEW])?\s*([+-]?{NUMBER})\s*°?\s*"
    rf"(?:({NUMBER})\s*'\s*)?(?:({NUMBER})\s*\"\s*)?([NSEW])?"
)
# The same with blanks or colons between them: 54 12 30 N, N54 12.5, 54:12:30N.
SPACED = re.compile(rf"([NSEW])?\s*([+-]?\d+)[\s:]+({NUMBER})(?:[\s:]+({NUMBER}))?\s*([NSEW])?")
# How the links of maps carry a point.
LINK = re.compile(
    r"(?:@|[?&]q=|[?&]ll=|/)(-?\d+\.\d+)(?:,|/|%2C)(-?\d+\.\d+)"
    r"|mlat=(-?\d+\.\d+)&mlon=(-?\d+\.\d+)"
)
ALIKE = str.maketrans({"′": "'", "’": "'", "″": '"', "”": '"', "º": "°", "−": "-", "\u00a0": " "})


def is_meant(text: str) -> bool:
    """Whether a text is meant as coordinates and not as a town: it has a figure in it."""
    return any(one.isdigit() for one in text)


def coordinates(text: str, path: str = "$.where") -> tuple[float, float]:
    """Latitude north and longitude east of what was typed or pasted, in degrees.

    Raises Refused: not two angles, two of one side, outside the globe, or to be read in two ways.
    """
    plain = text.translate(ALIKE).replace("''", '"').strip()[:MOST_CHARS]
    if (link := LINK.search(plain)) is not None and "://" in plain:
        latitude, longitude = (one for one in link.groups() if one is not None)
        return _checked(float(latitude), float(longitude), text, path)
    plain = plain.removeprefix("geo:").split("?")[0].upper()
    first, second = _halves(plain, text, path)
    one, other = _angle(first, text, path), _angle(second, text, path)
    sides = (one[1], other[1])
    if sides in (("E", "N"), ("", "N"), ("E", "")):
        one, other = other, one
    elif sides not in (("", ""), ("N", "E"), ("N", ""), ("", "E")):
        raise _refused(text, path, "One figure is north or south, the other east or west.")
    return _checked(one[0], other[0], text, path)


def _halves(plain: str, text: str, path: str) -> tuple[str, str]:
    """What is written of one angle, and of the other."""
    for parted in (
        plain.split(";"),
        # A letter behind each, or before each, parts them whatever stands between.
        re.findall(r"[^NSEW]*[NSEW]", plain) if re.search(r"[NSEW]\s*$", plain) else [],
        re.findall(r"[NSEW][^NSEW]*", plain),
        re.split(r",\s+", plain),
        plain.split(",") if "." in plain or "°" in plain else [],
        plain.split(),
    ):
        halves = [one.strip(" ,;") for one in parted if one.strip(" ,;")]
        match halves:
            case [first, second]:
                return first, second
    raise _refused(text, path, "Two angles are needed: how far north, and how far east.")


def _angle(half: str, text: str, path: str) -> tuple[float, str]:
    """An angle in degrees, north and east positive; the axis it is on, empty where no letter is."""
    found = ANGLE.fullmatch(half) or SPACED.fullmatch(half)
    if found is None:
        raise _refused(text, path, f"“{half}” is no angle.")
    before, degrees, minutes, seconds, behind = found.groups()
    if before and behind:
        raise _refused(text, path, f"“{half}” has two letters.")
    numbers = [float(one.replace(",", ".")) if one else 0.0 for one in (degrees, minutes, seconds)]
    if any(one >= MIN_PER_DEG for one in numbers[1:]):
        raise _refused(text, path, f"“{half}” has 60 minutes or seconds, or more.")
    size = abs(numbers[0]) + numbers[1] / MIN_PER_DEG + numbers[2] / S_PER_DEG
    letter = before or behind or ""
    if letter and degrees.startswith("-"):
        raise _refused(text, path, f"“{half}” has a minus sign and a letter.")
    is_negative = letter in ("S", "W") or degrees.startswith("-")
    return (-size if is_negative else size), {"S": "N", "W": "E"}.get(letter, letter)


def _checked(latitude: float, longitude: float, text: str, path: str) -> tuple[float, float]:
    for value, hint in ((latitude, LatitudeDeg), (longitude, LongitudeDeg)):
        if (wrong := quantity_of(hint).problem(path, value)) is not None:
            raise Refused([wrong])
    return round(latitude, 5), round(longitude, 5)


def _refused(text: str, path: str, said: str) -> Refused:
    return Refused([problem(path, text, FORMS, f"{said} Write it as {FORMS}.")])
