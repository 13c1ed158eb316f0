"""The record as A4 pages, set by typst from the assessment."""

from __future__ import annotations

import json
import tempfile
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import Any, Literal
from uuid import UUID
from zoneinfo import ZoneInfo

import typst
from django.conf import settings

from core.assess import assess
from core.assessment.whole import Assessment
from core.base.drawing import svg
from core.base.form import write
from core.base.messages import figure, table
from core.base.palette import lights
from core.job.job import KEPT_APART, Job
from core.stages.making import pieces_of
from server.documents.drawings import map_drawings, path_drawing
from server.evidence.models import bytes_of
from server.evidence.pictures import is_sound
from server.jobs.views import files_of
from server.platform.heavy import heavy
from server.sun.views import wall_sun

FOLDER = Path(__file__).parent / "templates"
RECORD, DRILL_SHEET = FOLDER / "record.typ", FOLDER / "drill.typ"
PAGE_PPI = 96.0
MOST_PRINTED_DIGITS = 4
CHECK_CODE = "check_code"
SUFFIXES = {"image/jpeg": ".jpg", "image/png": ".png"}


def record_pdf(job: Job) -> bytes:
    """The whole record as PDF."""
    return _record(job, "pdf")[0]


def record_page(job: Job, number: int) -> bytes | None:
    """One page of the record as PNG, from 1; None beyond the last."""
    pages = _record(job, "png")
    return pages[number - 1] if 1 <= number <= len(pages) else None


def _record(job: Job, kind: Literal["pdf", "png"]) -> list[bytes]:
    """The record's pages; its pictures lie in a folder for as long as it is set."""
    with tempfile.TemporaryDirectory() as folder:
        pictures = _pictures(job, Path(folder))
        return typeset(RECORD, {**record_data(job), "pictures": pictures}, kind)


def _pictures(job: Job, folder: Path) -> dict[str, str]:
    """A file for each picture of a job that is on this machine, by the evidence's identity."""
    found = {}
    for kept in job.evidence:
        data = bytes_of(kept.sha256) if kept.form != "application/pdf" else None
        # One that a record from elsewhere brought damaged is named, and stops no page.
        if data is not None and is_sound(data):
            file = folder / f"{kept.sha256}{SUFFIXES[kept.form]}"
            file.write_bytes(data)
            found[kept.id] = str(file)
    return found


def drill_pdf(job: Job) -> bytes:
    """The hole marks of a wall, listed and at full scale on A4 tiles. Raises Refused: no wall."""
    return typeset(DRILL_SHEET, _drill_data(job), "pdf")[0]


def typeset(template: Path, data: dict[str, Any], kind: Literal["pdf", "png"]) -> list[bytes]:
    """The pages of a template with its data."""
    with heavy("typeset"):
        compiled: bytes | list[bytes] = typst.compile(
            str(template),
            root="/",
            format=kind,
            ppi=PAGE_PPI,
            font_paths=[str(settings.RECORD_FONTS)],
            ignore_system_fonts=True,
            sys_inputs={"data": json.dumps(_printed(data))},
        )
    return compiled if isinstance(compiled, list) else [compiled]


def _printed(data: dict[str, Any]) -> dict[str, Any]:
    """The data with its colours, and every number in it as the core writes it, by its digits."""
    numbers = sorted({float(one) for one in _numbers(data)})
    texts = {
        _key(number): [figure(number, "", digits) for digits in range(MOST_PRINTED_DIGITS + 1)]
        for number in numbers
    }
    return {**data, "palette": lights()["paper"], "texts": texts}


def _numbers(data: Any) -> Iterator[float]:
    if isinstance(data, dict | list):
        for one in data.values() if isinstance(data, dict) else data:
            yield from _numbers(one)
    elif isinstance(data, int | float) and not isinstance(data, bool):
        yield data


def _key(number: float) -> str:
    """A number as the typesetter names it."""
    return repr(number).removesuffix(".0")


def _drill_data(job: Job) -> dict[str, Any]:
    hang = assess(job).hang
    now = datetime.now(UTC).astimezone(ZoneInfo(job.site.timezone))
    return {
        "name": job.name,
        "place": job.site.place,
        "wall": write(job.drawn_wall),
        "studs": list(hang.studs_mm),
        "devices": write(hang.devices),
        "walls": table()["walls"],
        "made": _minute(now),
    }


def record_data(job: Job) -> dict[str, Any]:
    """What the record is set from."""
    zone = ZoneInfo(job.site.timezone)
    moments = {reading.id: reading.taken_at for reading in job.readings}
    moments |= {written.id: written.at for written in job.settings_written}
    moments |= {kept.id: kept.kept_at for kept in job.evidence}
    moments |= {lifted.id: lifted.at for lifted in job.step_overrides}
    assessment = assess(job)
    moments |= _stage_moments(assessment)
    plan = {name: value for name, value in write(job).items() if name not in KEPT_APART}
    return {
        "assessment": _without_codes(job, write(assessment)),
        "job": plan,
        "energy_path": svg(path_drawing(job)),
        "maps": [svg(one) for one in map_drawings(job)] if job.micro else [],
        "wall_sun": write(wall_sun(job).judgement) if job.wall else None,
        "day": _day(datetime.combine(job.day, datetime.min.time())),
        "made": _minute(datetime.now(UTC).astimezone(zone)),
        "times": {key: _minute(at.astimezone(zone)) for key, at in moments.items()},
        "files": [
            {
                "what": one.what,
                "name": one.name,
                "by": one.by,
                "at": _minute(one.at.astimezone(zone)),
                "sha256": one.sha256,
                "readings": len(one.readings),
            }
            for one in files_of(UUID(job.id))
        ],
    }


def _without_codes(job: Job, said: dict[str, Any]) -> dict[str, Any]:
    """The assessment as others may see it: check codes are for the crew only."""
    codes = {one.id for one in job.readings if one.kind == CHECK_CODE}
    asks = [one for one in said["asks"] if one["kind"] != CHECK_CODE]
    past = [one for one in said["past_readings"] if one["reading"]["id"] not in codes]
    return said | {"asks": asks, "past_readings": past}


def _stage_moments(assessment: Assessment) -> dict[str, datetime]:
    """When tests, steps and moments were, by what the record finds them by."""
    tests = (test for group in assessment.prove.groups for test in group.tests)
    phases = (*assessment.wake.phases, assessment.wake.emergency)
    steps = (step for phase in phases for step in phase.steps)
    found = {f"test {test.key}": test.at for test in tests}
    found |= {step.key: step.at for step in steps}
    found |= {moment.key: moment.at for moment in assessment.grid.loss}
    found["light"] = assessment.wake.light_at
    found |= {f"made {piece.subject}": piece.at for piece in pieces_of(assessment)}
    return {key: at for key, at in found.items() if at is not None}


def _day(at: datetime) -> str:
    return f"{at.day} {at:%B %Y}"


def _minute(at: datetime) -> str:
    return f"{at.day} {at:%B %Y, %H:%M}"
