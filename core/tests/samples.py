"""A sound job to start tests from, and short ways to read on it."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from typing import Any

from core import shelf
from core.assess import assess
from core.assessment import Ask
from core.job import FeedPlan, GridPlan, Job, Site, StringPlan
from core.kept import Reading, ReadingKind
from core.layout import (
    painted,
    serpentine,
    shaped,
    with_override,
    with_pack,
    with_sheet,
    without_string,
)
from core.overrides import Override, OwnPack
from core.roof import Plane

NOON = datetime(2026, 6, 18, 12, 0, tzinfo=UTC)


def sample_job(**changes: Any) -> Job:
    """Eleven and nine modules on two planes of a one-phase inverter; nothing read yet."""
    whole: dict[str, Any] = {
        "format": "long-noon-job",
        "version": 1,
        "id": "0a000000-0000-4000-8000-000000000001",
        "name": "Sample",
        "day": date(2026, 6, 18),
        "rule_pack": "generic-iec",
        "site": Site(
            place="Nowhere",
            latitude_deg=54.0,
            longitude_deg=0.5,
            altitude_m=10.0,
            timezone="Europe/London",
            t_air_min_c=-9.0,
            t_air_max_c=31.0,
            climate_source="test",
        ),
        "planes": (
            Plane(name="East", tilt_deg=35.0, azimuth_deg=100.0),
            Plane(name="West", tilt_deg=35.0, azimuth_deg=260.0),
        ),
        "module": shelf.module("ostrel-430"),
        "inverter": shelf.inverter("veyrick-5"),
        "strings": (
            StringPlan(name="A", tracker=1, plane="East", modules_in_series=11),
            StringPlan(name="B", tracker=2, plane="West", modules_in_series=9),
        ),
        "feed": FeedPlan(length_m=20.0, section_mm2=6.0, cores=3),
        "grid": GridPlan(profile="en-50549-1", host="127.0.0.1", port=15020, unit_id=1),
    }
    return Job(**(whole | changes))


def with_reading(
    job: Job, kind: ReadingKind, subject: str, value: float, *, minute: float = 0, **more: Any
) -> Job:
    """The job with one more reading, taken `minute` minutes after noon."""
    at = NOON + timedelta(minutes=minute)
    reading = Reading(
        **{
            "id": f"reading-{len(job.readings):04d}",
            "kind": kind,
            "subject": subject,
            "value": value,
            "basis": "measured",
            "taken_at": at,
            "kept_at": at,
            "by": "Tester",
        }
        | more
    )
    return replace(job, readings=(*job.readings, reading))


def measured_job(irradiance: float = 700.0, back_c: float = 35.0) -> Job:
    """The sample with sun and module temperature read on both planes."""
    job = sample_job()
    for plane in ("East", "West"):
        job = with_reading(job, "irradiance", plane, irradiance)
        job = with_reading(job, "module_temperature", plane, back_c)
    return with_reading(job, "air_temperature", "site", 18.0)


def asked(job: Job, key: str) -> Ask:
    """One thing asked for in the job's assessment."""
    return next(ask for ask in assess(job).asks if ask.key == key)


def whole_job() -> Job:
    """A job that uses every part of the file: drawn roof, optimisers, own pack, retired names."""
    job = with_reading(measured_job(), "open_circuit", "B", 342.0)
    job = shaped(without_string(job, "B"), "East", ("######", "#####."))
    job = painted(job, "A", tuple(serpentine(job.planes[0])))
    own = OwnPack(
        id="our-island",
        name="Our island",
        edition="note 4",
        checked_on="2026-11-24",
        based_on="uk-small",
        figures=(Override(path="cold.flat_factor", value=1.2, reason="salt and wind"),),
    )
    job = with_sheet(with_pack(job, own.id, own), shelf.optimiser("fenbrow-500"))
    job = with_reading(job, "safety_voltage", "A", 11.0)
    return with_override(job, Override(path="agree.on", choice="max", reason="as the client asks"))
