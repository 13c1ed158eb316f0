"""A house in each region, from plan to record: its own gear, pack and grid profile, all read."""

from __future__ import annotations

from dataclasses import replace

from core.assess import assess
from core.base.stage_numbers import FEED, PROVE, STRING
from core.equipment import catalogue
from core.equipment.cables_switches_fixings import Breaker
from core.figures.grid_profiles import point_kinds, profile
from core.figures.rule_packs import known_packs
from core.job.feed import AcRun, HomeRun
from core.job.grid import GridPlan
from core.job.job import Job
from core.job.safety import SafetyFacts, Shutdown
from core.job.testers import Testing
from core.tests.commissioned import IN_DATE, sound_value, written
from core.tests.samples import DISCHARGE_MIN, sample_job, settled, with_feed, with_reading

PROFILES = {
    "generic-iec": "en-50549-1",
    "uk-small": "uk-g98-type-a",
    "germany": "de-4105",
    "australia-nz": "au-4777-a",
    "north-america": "na-1547-b",
}
PLACES = {
    "generic-iec": "Europe/Lisbon",
    "uk-small": "Europe/London",
    "germany": "Europe/Berlin",
    "australia-nz": "Australia/Hobart",
    "north-america": "America/Denver",
}
# By gauge in a raceway: 2/0 AWG behind 150 A, 8 AWG behind 40 A, 10 AWG from the roof.
TESTED = (STRING, FEED, PROVE)
VALUES = {"loop_impedance": 0.4, "test_current": 0.21}
SERVICE_MM2, FEEDER_MM2, ROOF_MM2 = 67.4, 8.37, 5.26
US_HERTZ = 60.0


def regions() -> dict[str, Job]:
    """A job for each pack that ships, everything read as it should be."""
    return {name: region_job(name) for name in known_packs()}


def region_job(pack: str) -> Job:
    """One house of a region with everything read that is asked for before it is switched on."""
    is_us = pack == "north-america"
    job = sample_job(
        rule_pack=pack,
        inverter=catalogue.inverter("hathmoor-76-split" if is_us else "veyrick-36"),
        grid=GridPlan(profile=PROFILES[pack], host="127.0.0.1", port=15020, unit_id=1),
    )
    job = replace(job, site=replace(job.site, timezone=PLACES[pack]))
    for plane in ("East", "West"):
        job = with_reading(job, "irradiance", plane, 700.0)
        job = with_reading(job, "module_temperature", plane, 35.0)
    job = with_reading(job, "air_temperature", "site", 18.0)
    job = with_feed(job)
    job = settled(_by_gauge(job) if is_us else job)
    way = HomeRun(length_m=18.0, section_mm2=ROOF_MM2 if is_us else 4.0, air_c=60.0)
    ways = tuple(replace(one, home_run=(way,)) for one in job.strings)
    job = replace(job, strings=ways, testing=Testing(instruments=(IN_DATE,)))
    form = job.wall_inverter.serial_form
    serial = form.replace("@", "A").replace("#", "1")
    job = with_reading(job, "nameplate_serial", "inverter", 0, text=serial)
    minute = 0.0
    for ask in sorted(assess(job).asks, key=lambda one: one.stage == FEED):
        if ask.stage in TESTED and ask.reading is None and not ask.optional:
            minute += DISCHARGE_MIN if ask.subject == "waited" else 0.1
            value = VALUES.get(ask.kind, sound_value(ask))
            value = US_HERTZ if is_us and ask.kind == "supply_frequency" else value
            job = with_reading(job, ask.kind, ask.subject, value, minute=minute)
    for point in profile(PROFILES[pack]).points:
        if point_kinds()[point.id].by_hand:
            job = with_reading(job, "setting", point.id, point.value, minute=minute)
    return written(job, minute=minute)


def _by_gauge(job: Job) -> Job:
    """The feed of a split-phase house by gauge, with what its code asks of the array."""
    breaker = catalogue.pick(catalogue.sheets("breakers"), "stobmoor-b25", Breaker, "$")
    two_pole = replace(breaker, rated_a=40.0, poles=2, two_way=True)

    def run(one: AcRun) -> AcRun:
        size = SERVICE_MM2 if one.end == "Board" else FEEDER_MM2
        return replace(one, section_mm2=size, cores=4, method="raceway")

    devices = tuple(
        replace(one, breaker=two_pole, busbar_a=200.0, supply_a=150.0, far_end=True)
        if one.breaker is not None
        else one
        for one in job.feed.devices
    )
    shutdown = Shutdown(
        initiator="Switch beside the meter",
        inside_v=80.0,
        outside_v=30.0,
        seconds=20.0,
        listed=True,
    )
    feed = replace(
        job.feed,
        devices=devices,
        runs=tuple(run(one) for one in job.feed.runs),
        supply_service="split",
        safety=SafetyFacts(shutdown=shutdown),
    )
    return replace(job, feed=feed)
