"""The record as A4 pages, set by typst from the assessment."""

from __future__ import annotations

import json
from datetime import UTC, datetime
from pathlib import Path
from typing import Any, Literal
from zoneinfo import ZoneInfo

import typst
from django.conf import settings

from core.assess import assess
from core.form import write
from core.job import KEPT_APART, Job
from core.wall_layout import wall_of
from core.words import table

FOLDER = Path(__file__).parent
RECORD, DRILL_SHEET = FOLDER / "record.typ", FOLDER / "drill.typ"
PAGE_PPI = 96.0


def record_pdf(job: Job) -> bytes:
    """The whole record as PDF."""
    return _set(RECORD, _data(job), "pdf")[0]


def record_page(job: Job, number: int) -> bytes | None:
    """One page of the record as PNG, from 1; None beyond the last."""
    pages = _set(RECORD, _data(job), "png")
    return pages[number - 1] if 1 <= number <= len(pages) else None


def drill_pdf(job: Job) -> bytes:
    """The hole marks of a wall, listed and at full scale on A4 tiles. Raises Refused: no wall."""
    return _set(DRILL_SHEET, _drill_data(job), "pdf")[0]


def _set(template: Path, data: dict[str, Any], kind: Literal["pdf", "png"]) -> list[bytes]:
    compiled: bytes | list[bytes] = typst.compile(
        str(template),
        format=kind,
        ppi=PAGE_PPI,
        font_paths=[str(settings.RECORD_FONTS)],
        ignore_system_fonts=True,
        sys_inputs={"data": json.dumps(data)},
    )
    return compiled if isinstance(compiled, list) else [compiled]


def _drill_data(job: Job) -> dict[str, Any]:
    hang = assess(job).hang
    now = datetime.now(UTC).astimezone(ZoneInfo(job.site.timezone))
    return {
        "name": job.name,
        "place": job.site.place,
        "wall": write(wall_of(job)),
        "studs": list(hang.studs_mm),
        "devices": write(hang.devices),
        "walls": table()["walls"],
        "made": _minute(now),
    }


def _data(job: Job) -> dict[str, Any]:
    zone = ZoneInfo(job.site.timezone)
    moments = {reading.id: reading.taken_at for reading in job.readings}
    moments |= {written.id: written.at for written in job.settings_written}
    moments |= {kept.id: kept.kept_at for kept in job.evidence}
    plan = {name: value for name, value in write(job).items() if name not in KEPT_APART}
    return {
        "assessment": write(assess(job)),
        "job": plan,
        "day": _day(datetime.combine(job.day, datetime.min.time())),
        "made": _minute(datetime.now(UTC).astimezone(zone)),
        "times": {key: _minute(at.astimezone(zone)) for key, at in moments.items()},
    }


def _day(at: datetime) -> str:
    return f"{at.day} {at:%B %Y}"


def _minute(at: datetime) -> str:
    return f"{at.day} {at:%B %Y, %H:%M}"
