"""The bench without a job: a module on an inverter, a count, a reading, and the verdict.

It makes the smallest job that can be judged, so that the one way through serves here too.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime

from core.assessment.whole import Prompt, StringAssessment, TrackerAssessment, WindowLimits
from core.base.form import Checked
from core.base.glossary import (
    IrradianceWPerM2,
    ModulesInSeries,
    Mounting,
    Name,
    TAirC,
    TAirMaxC,
    TAirMinC,
    TModuleC,
    VocReadV,
)
from core.base.judgement import Judgement
from core.edits.edit import Entered
from core.edits.fields import typed_value
from core.equipment.inverter import Inverter
from core.equipment.module import Module
from core.job.feed import one_run
from core.job.grid import GridPlan
from core.job.job import FORMAT, VERSION, Job, Site
from core.job.reading_kinds import ReadingKind
from core.job.reading_values import Measured
from core.job.readings import SITE, Reading
from core.job.roof import Plane
from core.job.strings import StringPlan
from core.stages.reading_index import Readings, kept_of
from core.stages.string.stage import string_stage

BENCH_ID = "00000000-0000-4000-8000-00000000be4c"
PLANE, STRING = "Roof", "A"


@dataclass(frozen=True, kw_only=True)
class BenchRead(Checked):
    """What was read on the bench. Readings that were not taken are None."""

    irradiance_w_per_m2: IrradianceWPerM2 | None = None
    t_module_c: TModuleC | None = None
    t_air_c: TAirC | None = None
    read_v: VocReadV | None = None


@dataclass(frozen=True, kw_only=True)
class Bench(BenchRead):
    """What lies on the bench."""

    module: Module
    inverter: Inverter
    rule_pack: Name
    modules_in_series: ModulesInSeries
    mounting: Mounting
    t_air_min_c: TAirMinC
    t_air_max_c: TAirMaxC


@dataclass(frozen=True, kw_only=True)
class BenchTyped(Checked):
    """What was read on the bench, as typed; empty where it was not taken."""

    irradiance_w_per_m2: Entered = ""
    t_module_c: Entered = ""
    t_air_c: Entered = ""
    read_v: Entered = ""


NOTHING_READ = BenchTyped()


@dataclass(frozen=True, kw_only=True)
class BenchVerdict:
    """What the bench says: the string on its window, its tracker, and the reading."""

    window: WindowLimits
    string: StringAssessment
    tracker: TrackerAssessment
    whole: tuple[Judgement, ...]
    ask: Prompt


def bench_verdict(bench: Bench, at: datetime) -> BenchVerdict:
    """Judge what lies on the bench, read at this moment."""
    job = _job(bench, at)
    stage, asks = string_stage(job, Readings(kept_of(job)))
    key = f"open_circuit/{STRING}"
    return BenchVerdict(
        window=stage.window,
        string=stage.strings[0],
        tracker=stage.trackers[0],
        whole=stage.whole,
        ask=next(ask for ask in asks if ask.key == key),
    )


def bench_readings(bench: BenchRead, at: datetime) -> tuple[Reading, ...]:
    """What was read on the bench, as readings of a job's first string."""
    taken: tuple[tuple[ReadingKind, str, float | None], ...] = (
        ("irradiance", PLANE, bench.irradiance_w_per_m2),
        ("module_temperature", PLANE, bench.t_module_c),
        ("air_temperature", SITE, bench.t_air_c),
        ("open_circuit", STRING, bench.read_v),
    )
    return tuple(
        Reading(
            id=f"bench-{kind}",
            kind=kind,
            subject=subject,
            value=Measured(value),
            basis="measured",
            taken_at=at,
            kept_at=at,
            by="bench",
        )
        for kind, subject, value in taken
        if value is not None
    )


def bench_reads(typed: BenchTyped) -> BenchRead:
    """What was read on the bench, from what was typed. Raises Refused with every problem."""
    return typed_value(BenchRead, typed)


def bench_plan(bench: Bench) -> tuple[tuple[Plane, ...], tuple[StringPlan, ...]]:
    """The plane and the string that lie on the bench; how the plane lies nobody said."""
    count = bench.modules_in_series
    string = StringPlan(name=STRING, tracker=1, plane=PLANE, modules_in_series=count)
    return (Plane(name=PLANE, mounting=bench.mounting),), (string,)


def _job(bench: Bench, at: datetime) -> Job:
    planes, strings = bench_plan(bench)
    return Job(
        format=FORMAT,
        version=VERSION,
        id=BENCH_ID,
        name="Bench",
        day=date(at.year, at.month, at.day),
        rule_pack=bench.rule_pack,
        site=Site(
            place="Bench",
            latitude_deg=0.0,
            longitude_deg=0.0,
            altitude_m=0.0,
            timezone="UTC",
            t_air_min_c=bench.t_air_min_c,
            t_air_max_c=bench.t_air_max_c,
            climate_source="typed on the bench",
        ),
        planes=planes,
        module=bench.module,
        inverter=bench.inverter,
        strings=strings,
        feed=one_run(length_m=1.0, section_mm2=6.0, cores=5),
        grid=GridPlan(profile=None, host="none", port=502, unit_id=1),
        readings=bench_readings(bench, at),
    )
