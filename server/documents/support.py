"""The support bundle: what a maker or the office needs to help, without personal data."""

from __future__ import annotations

import io
import json
import platform
import zipfile
from dataclasses import replace
from datetime import UTC, datetime
from importlib.metadata import PackageNotFoundError, version
from typing import Any

from core.assess import assess
from core.base.form import write
from core.job.house import views
from core.job.job import Job
from core.job.leave import NOTHING_LEFT
from core.sheets.owner import serials_csv
from server.evidence.models import bytes_of

# Who somebody is, where they live, what opens their devices.
PERSONAL = frozenset({
    "by", "customer", "call_name", "call_number", "owner_name", "owner_mail", "address", "place",
    "latitude_deg", "longitude_deg", "host", "owner", "crew", "note", "reason", "licence",
    "secrets", "operator", "reference", "owner_note", "signatures",
})  # fmt: skip
PAGES = ("page_saved", "status_row", "setting", "light")
CODES = ("check_code",)
GONE = "left out"
LEAST_NAME_CHARS = 3
SUFFIXES = {"image/jpeg": ".jpg", "image/png": ".png"}


def support_zip(house: Job, *, personal: bool) -> bytes:
    """Sheets, serials, settings, alarms, readings, pictures of pages and versions, as one ZIP.

    personal: with who, where and why as well; it is left out else, check codes always.
    """
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for number, one in enumerate(views(house), start=1):
            folder = f"inverter {number}/"
            for name, data in _parts(one, personal=personal).items():
                archive.writestr(folder + name, _text(data))
            archive.writestr(f"{folder}serials.csv", serials_csv(one, assess(one)))
        archive.writestr("versions.json", _text(_versions(house)))
        for kept in house.evidence:
            data = bytes_of(kept.sha256) if kept.step.startswith(PAGES) else None
            if data is not None and kept.form in SUFFIXES:
                name = f"pages/{kept.sha256[:12]}{SUFFIXES[kept.form]}"
                archive.writestr(name, data, zipfile.ZIP_STORED)
        archive.writestr("about.txt", _about(personal=personal))
    return out.getvalue()


def _parts(job: Job, *, personal: bool) -> dict[str, Any]:
    said = assess(job)
    kept = [one for one in job.readings if one.kind not in CODES]
    plan = write(replace(job, readings=(), evidence=(), signatures=(), leave=NOTHING_LEFT))
    found = {
        "plan.json": plan,
        "sheets.json": _sheets(plan),
        "readings.json": write(tuple(kept)),
        "settings.json": {
            "fingerprint": said.grid.fingerprint,
            "points": write(said.grid.points),
            "attempts": write(said.grid.attempts),
        },
        "lights.json": {"shown": write(said.wake.light), "table": write(said.wake.lights)},
        "open.json": write(said.open_points),
        "yields.json": write(said.leave.yields),
    }
    if personal:
        return found
    names = said_of_people(plan | {"readings": found["readings.json"]})
    return {name: impersonal(data, names) for name, data in found.items()}


def _sheets(plan: Any) -> list[Any]:
    """Every sheet anywhere in a plan, once."""
    found: dict[str, Any] = {}

    def walk(data: Any) -> None:
        if isinstance(data, dict):
            if "sheet_revision" in data:
                found[f"{data['id']}"] = data
            for one in data.values():
                walk(one)
        elif isinstance(data, list):
            for one in data:
                walk(one)

    walk(plan)
    return list(found.values())


def said_of_people(data: Any) -> frozenset[str]:
    """Every name, place and number that stands where a person is told: sentences tell them too."""
    found: set[str] = set()

    def walk(data: Any, of_people: bool) -> None:
        if isinstance(data, dict):
            for key, one in data.items():
                walk(one, of_people or key in PERSONAL)
        elif isinstance(data, list):
            for one in data:
                walk(one, of_people)
        elif of_people and isinstance(data, str) and len(data.strip()) >= LEAST_NAME_CHARS:
            found.add(data.strip())

    walk(data, False)
    return frozenset(found)


def impersonal(data: Any, names: frozenset[str] = frozenset()) -> Any:
    """The same without what says who, where or why."""
    if isinstance(data, dict):
        return {
            key: GONE if key in PERSONAL and one else impersonal(one, names)
            for key, one in data.items()
        }
    if isinstance(data, list):
        return [impersonal(one, names) for one in data]
    if isinstance(data, str):
        for name in names:
            data = data.replace(name, GONE)
    return data


def _versions(house: Job) -> dict[str, str]:
    try:
        ours = version("long-noon")
    except PackageNotFoundError:
        ours = "from its folder"
    return {
        "long-noon": ours,
        "python": platform.python_version(),
        "job file": str(house.version),
        "rules": f"{house.rules.name}, {house.rules.edition}",
        "made": f"{datetime.now(UTC):%Y-%m-%dT%H:%MZ}",
    }


def _about(*, personal: bool) -> str:
    told = "With personal data." if personal else "Names, places and reasons are left out."
    return f"Support bundle of Long Noon. {told} Check codes and secrets are never in it.\n"


def _text(data: Any) -> str:
    return json.dumps(data, indent=1, ensure_ascii=False) + "\n"
