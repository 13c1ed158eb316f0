"""What the demo jobs are told, kept beside the code: a change of any verdict or figure is seen.

``python -m core.tests.golden`` writes it anew, once a change is meant.
"""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Iterator
from dataclasses import fields, is_dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from core.assess import assess
from core.assessment.whole import Assessment
from core.base.judgement import Judgement
from core.files.job import read_job
from core.tests.regions import regions

DEMO = Path(__file__).parents[2] / "server" / "demo" / "jobs"
KEPT = Path(__file__).parent / "cases" / "demo_jobs.json"
KEPT_REGIONS = KEPT.with_name("regions.json")
# The demo's day of work: nothing there has grown old yet.
AT = datetime(2026, 11, 24, 13, 0, tzinfo=UTC)


def told() -> dict[str, dict[str, Any]]:
    """By demo job the verdict of each stage, and every judgement with its value and its count."""
    return {path.stem: _told(path) for path in sorted(DEMO.glob("*.json"))}


def _told(path: Path) -> dict[str, Any]:
    return summary(assess(read_job(path.read_bytes()), at=AT))


def summary(assessment: Assessment) -> dict[str, Any]:
    """The verdict of each stage of an assessment, and every judgement with its count."""
    counted = Counter(_line(one) for one in _judgements(assessment))
    return {
        "stages": [stage.verdict for stage in assessment.stages],
        "judgements": [f"{count} x {line}" for line, count in sorted(counted.items())],
    }


def _line(one: Judgement) -> str:
    value = "" if one.value is None else f" {one.value:.6g} {one.unit}"
    return f"{one.rule_id} {one.verdict}{value}".strip()


def _judgements(of: Any) -> Iterator[Judgement]:
    if isinstance(of, Judgement):
        yield of
    elif is_dataclass(of):
        for field in fields(of):
            yield from _judgements(getattr(of, field.name))
    elif isinstance(of, tuple):
        for one in of:
            yield from _judgements(one)


if __name__ == "__main__":
    by_region = {name: summary(assess(job)) for name, job in regions().items()}
    for file, said in ((KEPT, told()), (KEPT_REGIONS, by_region)):
        file.write_text(json.dumps(said, indent=1, ensure_ascii=False) + "\n")
