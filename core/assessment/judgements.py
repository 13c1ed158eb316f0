"""Every judgement of an assessment, wherever it stands, with what it is of."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import fields, is_dataclass
from typing import Any

from core.base.judgement import Judgement
from core.base.messages import say

# How the holder of a judgement is named to the user, where its own name alone does not say it.
NAMED_AS = {
    "StringAssessment": "String {name}",
    "TrackerAssessment": "Tracker {number}",
    "BranchState": "Branch {name}",
    "UnitState": "Unit {name}",
    "StringStage": "Inverter",
    "RoofStage": "Roof",
    "MapState": "Serial map",
    "GatewayState": "Gateway",
}
# The fields by which any other holder is named, the first that it has.
OWN_NAMES = ("title", "name", "what")
# What only repeats judgements that stand elsewhere.
REPEATS = {"OpenPoint"}
# Judgements of a stage as a whole are of the stage.
STAGES = {
    "ArriveStage": "1",
    "HangStage": "2",
    "EarthStage": "3",
    "FeedStage": "5",
    "TalkStage": "6",
    "ProveStage": "7",
    "WakeStage": "8",
    "GridStage": "9",
}


def every_judgement(assessment: object) -> dict[tuple[str, str, str], Judgement]:
    """Each judgement once, by what it is of, its title and its rule."""
    return {(where, one.title, one.rule_id): one for where, one in _walk(assessment, "")}


def _walk(value: Any, where: str) -> Iterator[tuple[str, Judgement]]:
    if type(value).__name__ in REPEATS:
        return
    if isinstance(value, Judgement):
        yield where, value
    elif isinstance(value, tuple):
        for item in value:
            yield from _walk(item, where)
    elif is_dataclass(value):
        inner = _name(value) or where
        for field in fields(value):
            yield from _walk(getattr(value, field.name), inner)


def _name(holder: Any) -> str:
    """What a holder is called; nothing for one without a name, which is then part of its own."""
    kind = type(holder).__name__
    if kind in NAMED_AS:
        return NAMED_AS[kind].format_map(vars(holder))
    if kind in STAGES:
        return say("stages", STAGES[kind])
    return next((str(getattr(holder, name)) for name in OWN_NAMES if hasattr(holder, name)), "")
