"""Worked cases, each with its expected figures found by independent routes."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any
from unittest import TestCase

Case = dict[str, Any]


def load(folder: Path, name: str) -> list[Case]:
    """The worked cases of one subject."""
    cases: list[Case] = json.loads((folder / f"{name}.json").read_text(encoding="utf-8"))
    return cases


def compare(test: TestCase, case: Case, key: str, got: Any) -> None:
    """Hold what the rule gave against the case's figure, within the case's tolerance."""
    wanted, tolerance = case["expected"][key], case["tolerance"][key]
    if isinstance(wanted, list) and isinstance(got, list | tuple):
        test.assertEqual(len(wanted), len(got), f"{case['id']} {key}")
        pairs = list(zip(wanted, got, strict=True))
    else:
        pairs = [(wanted, got)]
    for want, have in pairs:
        with test.subTest(case=case["id"], key=key):
            if want is None or tolerance.get("exact"):
                test.assertEqual(have, want)
            else:
                allowed = tolerance.get("abs", tolerance.get("rel", 0) * abs(want))
                test.assertLessEqual(abs(have - want), allowed, f"{key}: {have} for {want}")
