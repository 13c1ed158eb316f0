"""Job files of an earlier version, brought to the present one before they are read."""

from __future__ import annotations

from typing import Any

from core.base.form import write
from core.job.feed import one_run

FIRST_VERSION = 1


def present(data: object) -> object:
    """A job file's JSON as the present version has it; what is no older job stays as it is.

    Version 1 had one AC run, and one piece of home run for each string.
    """
    if not isinstance(data, dict) or data.get("version") != FIRST_VERSION:
        return data
    strings = data.get("strings")
    found: dict[str, Any] = {**data, "version": FIRST_VERSION + 1}
    if isinstance(strings, list):
        found["strings"] = [_string(one) for one in strings]
    feed = data.get("feed")
    if isinstance(feed, dict) and set(feed) == {"length_m", "section_mm2", "cores"}:
        found["feed"] = _feed(feed)
    return found


def _string(string: Any) -> Any:
    if not isinstance(string, dict) or "home_run" not in string:
        return string
    run = string["home_run"]
    return {**string, "home_run": [] if run is None else [run]}


def _feed(feed: dict[str, Any]) -> dict[str, Any]:
    made: dict[str, Any] = write(one_run(length_m=1.0, section_mm2=6.0, cores=3))
    made["runs"][0] |= feed
    return made
