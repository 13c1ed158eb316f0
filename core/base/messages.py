"""Words for the user, kept as data: one sentence for each rule and verdict."""

from __future__ import annotations

from functools import cache

from core.data import load

WORDS = "words"
PLAIN_DIGITS = 1
# Units in which a tenth is coarse.
LEAST_DIGITS = {"Ω": 2}
# Two figures further apart than this differ in their first decimal.
PLAINLY_APART = 0.1
MOST_DIGITS = 9
FORMATS = tuple(f"%.{digits}f" for digits in range(MOST_DIGITS + 1))
# Between a number and its unit a line never breaks.
NO_BREAK = "\u00a0"


@cache
def table() -> dict[str, dict[str, str]]:
    """All words: section -> key -> sentence, with {names} where facts go."""
    loaded: dict[str, dict[str, str]] = load(WORDS)
    return loaded


def say(section: str, key: str, **facts: str) -> str:
    """The sentence of a section and key with its facts filled in; KeyError when not written."""
    words = sentence(section, key)
    return words.format_map(facts) if facts else words


def sentence(section: str, key: str) -> str:
    """The sentence of a section and key as it is written, {names} and all."""
    return table()[section][key]


def figure(value: float, unit: str = "", digits: int = PLAIN_DIGITS) -> str:
    """A number as the user reads it: fixed digits, no trailing zero, true minus, its unit."""
    text = FORMATS[digits] % value
    if digits and text[-1] == "0":
        text = text.rstrip("0").rstrip(".")
    if value < 0:
        text = text.replace("-", "−") if text != "-0" else "0"
    return f"{text}{NO_BREAK}{unit}" if unit and unit != "°" else text + unit


def digits_apart(value: float, limit: float, unit: str = "") -> int:
    """Digits needed so that a value and its limit never look equal when they are not."""
    least = LEAST_DIGITS.get(unit, PLAIN_DIGITS)
    if value == limit or abs(value - limit) > PLAINLY_APART:
        return least
    for digits in range(least, MOST_DIGITS):
        if round(value, digits) != round(limit, digits):
            return digits
    return MOST_DIGITS
