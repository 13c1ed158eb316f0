"""Job files of an earlier version, brought to the present one before they are read."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from core.base.form import write
from core.job.feed import one_run
from core.job.reading_kinds import KINDS
from core.job.reading_values import BEYOND, BEYOND_FIELD


def present(data: object) -> object:
    """A job file's JSON as the present version has it; what is no older job stays as it is."""
    if isinstance(data, dict):
        for version, newer in NEWER.items():
            if data.get("version") == version:
                data = newer(data) | {"version": version + 1}
    return data


def _from_first(data: dict[str, Any]) -> dict[str, Any]:
    """Version 1 had one AC run, and one piece of home run for each string."""
    strings = data.get("strings")
    found: dict[str, Any] = {**data}
    if isinstance(strings, list):
        found["strings"] = [_string(one) for one in strings]
    feed = data.get("feed")
    if isinstance(feed, dict) and set(feed) == {"length_m", "section_mm2", "cores"}:
        found["feed"] = _feed(feed)
    return found


def _from_second(data: dict[str, Any]) -> dict[str, Any]:
    """Version 2 had every reading as a number and a text beside it, an answer as 1 or -1."""
    readings = data.get("readings")
    return data | ({"readings": [*map(_reading, readings)]} if isinstance(readings, list) else {})


def _reading(reading: Any) -> Any:
    """A reading with one value; what makes none stays, to be refused by name."""
    if not isinstance(reading, dict) or reading.get("kind") not in KINDS:
        return reading
    spec, number, text = KINDS[reading["kind"]], reading.get("value"), reading.get("text", "")
    left = {name: given for name, given in reading.items() if name != "text"}
    if isinstance(number, bool) or not isinstance(number, int | float):
        return left
    if spec.form == "answer":
        return reading if text or number not in (1, -1) else left | {"value": number == 1}
    if spec.form == "said":
        return reading if number or not isinstance(text, str) else left | {"value": text}
    if text == BEYOND and spec.ranged:
        return left | {"value": {BEYOND_FIELD: number}}
    return reading if text else left


def _string(string: Any) -> Any:
    if not isinstance(string, dict) or "home_run" not in string:
        return string
    run = string["home_run"]
    return {**string, "home_run": [] if run is None else [run]}


def _feed(feed: dict[str, Any]) -> dict[str, Any]:
    made: dict[str, Any] = write(one_run(length_m=1.0, section_mm2=6.0, cores=3))
    made["runs"][0] |= feed
    return made


# What brings a file of a version to the next.
NEWER: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {1: _from_first, 2: _from_second}
