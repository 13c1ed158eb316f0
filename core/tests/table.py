"""Judging rules as rows of a table: inside, on and beyond a limit."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any
from unittest import TestCase

from core.base.judgement import Judgement, Verdict

# Fixed parameters of a rule, the one that is moved, a value well inside, on and beyond the limit,
# and the verdict beyond it. Expected by hand from the rule's own sentence.
# Limits that a sound plan meets exactly: standard sizes, what is granted, a permitted count.
MET_ON_PURPOSE = {
    "bond_size",
    "permit_export",
    "optimiser_string_count",
    "terminal_grips",
    "module_fuse",
    "ac_isolator_voltage",
    "live_power",
    "hook_span",
    "backup_units",
    "meter_carries",
    "range_ok",
    "bus_length",
    "bus_devices",
    "devices_served",
    "export_limit_kept",
    "export_held",
    "label_fits",
    "part_gives",
    "yield_as_due",
    "supply_side",
    "exposed_earth",
    "surge_leads",
}
Row = tuple[Callable[..., Judgement], dict[str, Any], str, float, float, float, Verdict]


def check_row(test: TestCase, row: Row) -> None:
    """A rule inside, on and beyond its limit."""
    rule, fixed, moved, inside, edge, beyond, verdict = row
    exact: Verdict = "clear" if rule.__name__ in MET_ON_PURPOSE else "watch"
    for value, wanted, sign in ((inside, "clear", 1), (edge, exact, 0), (beyond, verdict, -1)):
        with test.subTest(rule=rule.__name__, value=value):
            judged = rule(**fixed, **{moved: value})
            test.assertEqual(judged.verdict, wanted, judged.reason)
            assert judged.margin is not None
            test.assertEqual((judged.margin > 0) - (judged.margin < 0), sign)
            test.assertEqual(judged.rule_id, rule.__name__)
            test.assertTrue(judged.source and judged.title and judged.reason.endswith("."))
