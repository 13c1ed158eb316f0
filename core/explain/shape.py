"""The shape of a sum: what is shown beside a judgement's reason, on screen, on paper, as JSON."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class Input:
    """One figure that went into a step. origin: sheet, reading, pack, plan, default or a step."""

    name: str
    value: str
    origin: str


@dataclass(frozen=True, kw_only=True)
class Step:
    """One rule's part of a sum.

    rule: its name. title: what it answers. formula: as its data sheet has it. numbers: the same
    with the figures in it, and what came of it. source: standard and clause.
    """

    rule: str
    title: str
    formula: str
    numbers: str
    inputs: tuple[Input, ...]
    source: str


@dataclass(frozen=True, kw_only=True)
class Sum:
    """How a judgement came about: its steps in the order of working, the judgement last."""

    rule_id: str
    reason: str
    steps: tuple[Step, ...]
