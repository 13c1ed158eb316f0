"""The test record as a table."""

from __future__ import annotations

from core.assessment.prove import ProveStage, TestState
from core.base.csv_text import csv_text

RECORD = (
    "group", "test", "expected", "read", "verdict", "reason", "tester", "serial",
    "calibrated_until", "by", "at", "times_read",
)  # fmt: skip


def record_csv(stage: ProveStage) -> str:
    """The test record as a table: a line of names, then every test, unread ones too."""
    rows = (_row(group.title, test) for group in stage.groups for test in group.tests)
    return csv_text((RECORD, *rows))


def _row(group: str, test: TestState) -> tuple[object, ...]:
    return (
        group,
        test.title,
        test.expected_text,
        test.read_text,
        test.verdict,
        test.line,
        test.instrument,
        test.serial,
        test.due_on.isoformat() if test.due_on else "",
        test.by,
        test.at.isoformat() if test.at else "",
        test.retests + 1 if test.read_text else 0,
    )
