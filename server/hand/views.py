"""What a device takes along to judge a job by itself, and the short answers to what it did."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any
from uuid import UUID

from django.conf import settings
from django.contrib.auth.models import User
from django.db.models import Q
from django.http import HttpRequest

from core.base.form import as_text, write
from core.hand.held import digest, kept_count
from core.shown import shown
from core.sky import CarriedSky
from core.version import core_version
from server.catalogue.stored import shelf_of
from server.jobs.models import JobRow, PressRow
from server.jobs.schemas import Brief, JobView
from server.jobs.stored import Stored, house_of, row_of
from server.jobs.views import job_view
from server.people.audit import shown_name
from server.people.policy import SWITCHING, is_learner
from server.sun.views import sky_carried

# More than a device sends in a day without signal.
PRESSED_TOLD = 400
BRIEFLY = "return=minimal"


@dataclass(frozen=True, kw_only=True)
class Given:
    """A job as a device takes it along: the house, its revision, the crew's own of the shelf.

    core: the version that judges here; only_with_server: kinds that are kept nowhere else;
    pressed: changes of the plan made on devices that are in it, the last of them. sky: over it,
    around the visit and today.
    """

    house: Any
    revision: int
    core: str
    by: str
    learner: bool
    only_with_server: tuple[str, ...]
    sheets: dict[str, dict[str, Any]]
    packs: dict[str, Any]
    pressed: tuple[str, ...]
    sky: CarriedSky


def given_text(person: User, job_id: UUID) -> str:
    """What a device takes along of a job, as JSON. Raises Http404."""
    row = row_of(job_id)
    row = row.house or row
    shelf = shelf_of(person)
    house = house_of(row)
    return as_text(
        Given(
            house=house,
            revision=row.revision,
            core=core_version(),
            by=shown_name(person)[:60],
            learner=is_learner(person),
            only_with_server=tuple(sorted(SWITCHING)),
            sheets=shelf.own_sheets(),
            pressed=tuple(_pressed(row)),
            sky=sky_carried(house, datetime.now(UTC)),
            packs={name: write(pack) for name, pack in shelf.own_packs().items()},
        )
    )


def _pressed(row: JobRow) -> list[str]:
    of = Q(job=row) | Q(job__house=row)
    rows = PressRow.objects.filter(of).order_by("-id")
    return list(rows.values_list("identity", flat=True)[:PRESSED_TOLD])


def core_for_devices() -> str:
    """The version of the core that devices may judge with; empty where none is packed."""
    root = settings.ENGINE_ROOT
    version = core_version()
    return version if root is not None and (root / "engine" / version).is_dir() else ""


def answered(
    request: HttpRequest, stored: Stored, reading: str | None = None
) -> tuple[int, JobView | Brief]:
    """A job after something was done with it: whole, or briefly to a device that judges itself.

    reading: the identity of one that was kept just now.
    """
    if request.headers.get("Prefer") != BRIEFLY:
        return 200, job_view(stored)
    job, at = stored.job, datetime.now(UTC)
    kept = next((one for one in job.readings if one.id == reading), None) if reading else None
    return 201, Brief(
        revision=stored.revision,
        count=kept_count(job),
        at=at,
        digest=digest(shown(job, at)),
        core=core_version(),
        reading=None if kept is None else write(kept),
    )
