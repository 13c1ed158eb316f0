"""The record: its data from the assessment, set as A4 pages, whole or part by part."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import Any, Literal, get_args
from uuid import UUID
from zoneinfo import ZoneInfo

from core.assess import assess
from core.assessment.whole import Assessment, OpenPoint
from core.base.drawing import svg
from core.base.form import write
from core.base.judgement import GRAVITY
from core.base.messages import figure, table
from core.edits.strings import modules_by_plane
from core.equipment.sheet import Sheet
from core.explain.sums import in_lines, sums
from core.job.job import KEPT_APART, KEPT_OF_HOUSE, Job
from core.sheets.owner import serial_lines
from core.stages.making import pieces_of
from server.documents.drawings import map_drawings, path_drawing
from server.documents.typesetting import TEMPLATES, typeset
from server.evidence.models import bytes_of
from server.evidence.pictures import is_sound
from server.jobs.views import files_of
from server.sun.views import wall_sun

RecordPart = Literal[
    "cover", "system", "string_tests", "inspection", "ac_tests", "earth", "settings",
    "single_line", "roof_map", "communication", "sequence", "labels", "follow_up", "open",
    "detail", "instruments", "evidence", "decisions",
]  # fmt: skip
PARTS: tuple[RecordPart, ...] = get_args(RecordPart)
CHECK_CODE = "check_code"
SUFFIXES = {"image/jpeg": ".jpg", "image/png": ".png"}
W_PER_KW = 1000.0


def record_pdf(job: Job, parts: tuple[RecordPart, ...] = PARTS) -> bytes:
    """The record as PDF, whole or in part."""
    return _record(job, "pdf", parts)[0]


def record_pages(job: Job) -> list[bytes]:
    """A picture of every page of the record, as SVG."""
    return _record(job, "svg", PARTS)


def _record(job: Job, kind: Literal["pdf", "svg"], parts: tuple[RecordPart, ...]) -> list[bytes]:
    """The record's pages; its pictures lie in a folder for as long as it is set."""
    with tempfile.TemporaryDirectory() as folder:
        pictures = _pictures(job, Path(folder)) if "evidence" in parts else {}
        data = record_data(job) | {"pictures": pictures, "parts": parts}
        return typeset(TEMPLATES / "record.typ", data, kind)


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
    hang = assess(job).hang
    data = {
        "name": job.name,
        "place": job.site.place,
        "wall": write(job.drawn_wall),
        "studs": list(hang.studs_mm),
        "devices": write(hang.devices),
        "walls": table()["walls"],
        "made": minute(datetime.now(UTC).astimezone(ZoneInfo(job.site.timezone))),
    }
    return typeset(TEMPLATES / "drill.typ", data, "pdf")[0]


def record_data(job: Job) -> dict[str, Any]:
    """What the record is set from."""
    zone = ZoneInfo(job.site.timezone)
    assessment = assess(job)
    moments = _moments(job, assessment)
    apart = (*KEPT_APART, *KEPT_OF_HOUSE)
    plan = {name: value for name, value in write(job).items() if name not in apart}
    by_plane = modules_by_plane(job)
    return {
        "assessment": _without_codes(job, write(assessment)),
        "job": plan,
        "modules": [by_plane[one.name] for one in job.planes],
        "cover": {"built": list(_built(job))},
        "sheets": list(_sheets(job)),
        "sums": {f"{one.rule_id} {one.reason}": in_lines(one) for one in sums(job)},
        "serials": write(serial_lines(job, assessment)),
        "gravest": write(tuple(sorted(assessment.open_points, key=_gravity))),
        "drawn": {o.role: _drawn(o.drawn) for o in assessment.leave.signing.roles if o.drawn},
        "energy_path": svg(path_drawing(job)),
        "maps": [svg(one) for one in map_drawings(job)] if job.micro else [],
        "wall_sun": write(wall_sun(job).judgement) if job.wall else None,
        "day": day(datetime.combine(job.day, datetime.min.time())),
        "made": minute(datetime.now(UTC).astimezone(zone)),
        "times": {key: minute(at.astimezone(zone)) for key, at in moments.items()},
        "files": [
            {
                "what": one.what,
                "name": one.name,
                "by": one.by,
                "at": minute(one.at.astimezone(zone)),
                "sha256": one.sha256,
                "readings": len(one.readings),
            }
            for one in files_of(UUID(job.id))
        ],
    }


def _gravity(point: OpenPoint) -> int:
    return -GRAVITY.index(point.judgement.verdict)


def _built(job: Job) -> Iterator[str]:
    """What was built, a line each."""
    source = job.source
    if job.micro is not None:
        yield f"{len(job.micro.units)} × {source.label}"
    else:
        yield f"{source.label}, {figure(source.rated_ac_w / W_PER_KW, 'kW')}"
    by_plane = modules_by_plane(job)
    for plane in job.planes:
        if by_plane[plane.name]:
            module = job.module_on(plane.name)
            yield f"{by_plane[plane.name]} × {module.maker} {module.model} on {plane.name}"
    if job.optimiser is not None:
        yield f"Optimisers {job.optimiser.maker} {job.optimiser.model}"
    backup = job.feed.backup
    if backup is not None:
        battery = backup.battery
        yield "Backup" + (f", battery of {battery.units} units" if battery is not None else "")


def _sheets(job: Job) -> Iterator[dict[str, str]]:
    """Every sheet that the job is judged by, with its revision."""
    every: list[tuple[str, Sheet | None]] = [("Module", one) for one in job.module_types]
    every += [("Inverter", job.inverter), ("Optimiser", job.optimiser)]
    if job.micro is not None:
        every += [("Unit", job.micro.unit), ("Trunk", job.micro.trunk)]
    for device in job.feed.devices:
        every += [(device.name, one) for one in (device.breaker, device.isolator, device.meter)]
    every += [("DC switch", job.feed.dc.isolator), ("Safety switch", job.feed.dc.safety)]
    every += [("DC plug", job.feed.dc.plug)]
    if job.feed.backup is not None:
        battery = job.feed.backup.battery
        every += [("Backup", job.feed.backup.controller)]
        every += [("Battery", battery.sheet if battery else None)]
    every += [(one.name, one.sheet) for one in (job.talk.devices if job.talk else ())]
    seen = set()
    for what, sheet in every:
        if sheet is not None and (what, sheet.id) not in seen:
            seen.add((what, sheet.id))
            yield {
                "what": what,
                "label": f"{sheet.maker} {sheet.model}",
                "revision": sheet.sheet_revision,
            }


def _drawn(lines: str) -> str:
    """A drawn signature as a picture."""
    return (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 400">'
        f'<path d="{lines}" fill="none" stroke="#000" stroke-width="8" '
        'stroke-linecap="round" stroke-linejoin="round"/></svg>'
    )


def _without_codes(job: Job, said: dict[str, Any]) -> dict[str, Any]:
    """The assessment as others may see it: check codes are for the crew only."""
    codes = {one.id for one in job.readings if one.kind == CHECK_CODE}
    asks = [one for one in said["asks"] if one["kind"] != CHECK_CODE]
    past = [one for one in said["past_readings"] if one["reading"]["id"] not in codes]
    return said | {"asks": asks, "past_readings": past}


def _moments(job: Job, assessment: Assessment) -> dict[str, datetime]:
    """When everything was, by what the record finds it by."""
    found: dict[str, datetime | None] = {one.id: one.taken_at for one in job.readings}
    found |= {one.id: one.at for one in job.settings_written}
    found |= {one.id: one.at for one in job.step_overrides}
    found |= {kept.id: kept.kept_at for kept in job.evidence}
    tests = (test for group in assessment.prove.groups for test in group.tests)
    phases = (*assessment.wake.phases, assessment.wake.emergency)
    steps = (step for phase in phases for step in phase.steps)
    found |= {f"test {test.key}": test.at for test in tests}
    found |= {step.key: step.at for step in steps}
    found |= {moment.key: moment.at for moment in assessment.grid.loss}
    found["light"] = assessment.wake.light_at
    found |= {f"made {piece.subject}": piece.at for piece in pieces_of(assessment)}
    found |= {f"signed {one.role}": one.at for one in assessment.leave.signing.roles}
    return {key: at for key, at in found.items() if at is not None}


def day(at: datetime) -> str:
    """A day as papers write it."""
    return f"{at.day} {at:%B %Y}"


def minute(at: datetime) -> str:
    """A moment as papers write it."""
    return f"{at.day} {at:%B %Y, %H:%M}"
