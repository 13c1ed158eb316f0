"""Days as worked cases have them, and small ones drawn by chance."""

from __future__ import annotations

from copy import deepcopy
from typing import Any

from core.base.form import read
from core.planning.day.problem import DayProblem


def problem_of(instance: dict[str, Any]) -> DayProblem:
    """A day from a case's instance."""
    data = {
        "people": [_with_spans(one, "away") for one in instance["people"]],
        "visits": [
            {
                "id": v["id"],
                "start_min": v["start_min"],
                "end_min": v["end_min"],
                "rest": v["break"],
            }
            for v in instance["visits"]
        ],
        "tasks": [_with_spans(one, "windows") for one in instance["tasks"]],
        "tools": [{"id": name, "count": count} for name, count in instance["tools"].items()],
        "goods": [{"id": n, "comes_min": at} for n, at in instance["goods"].items()],
        "supply": _with_spans(instance["supply"], "windows") if instance["supply"] else None,
        "not_together": [{"one": a, "other": b} for a, b in instance["not_together"]],
    }
    return read(DayProblem, data)


def _with_spans(one: dict[str, Any], field: str) -> dict[str, Any]:
    spans = one.get(field)
    if spans is None:
        return one
    return one | {field: [{"start_min": a, "end_min": b} for a, b in spans]}


def relaxed(instance: dict[str, Any], changes: list[dict[str, Any]]) -> dict[str, Any]:
    """An instance with one relaxation made."""
    made = deepcopy(instance)
    for change in changes:
        at: Any = made
        *way, last = change["path"]
        for step in way:
            at = at[step]
        if "set" in change:
            at[last] = change["set"]
        else:
            at[last].append(change["add"])
    return made
