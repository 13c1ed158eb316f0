"""What a screen has after it was told what changed, in plain JSON."""

from __future__ import annotations

from typing import Any


def after(before: Any, told: dict[str, Any]) -> Any:
    """JSON data after the changes that were told of it."""
    if "whole" in told:
        return told["whole"]
    for name, one in told.get("fields", {}).items():
        before = before | {name: after(before[name], one)}
    if "where" in told:
        before = [before[at] if at >= 0 else None for at in told["where"]]
    for number, one in told.get("items", {}).items():
        at = int(number)
        before = [*before[:at], after(before[at], one), *before[at + 1 :]]
    return before
