"""One job for each kind of plant, and for each order of switching."""

from __future__ import annotations

from dataclasses import replace

from core.edits.commission import with_sequence
from core.equipment import catalogue
from core.job.feed import BackupPlan, BatteryPlan, DcSwitching
from core.job.job import Job
from core.tests.samples import sample_job, wired_roof, with_feed


def plants() -> dict[str, Job]:
    """Every kind of plant by the sequence that it takes, some by more than one."""
    plain = with_feed(sample_job())
    manual = replace(plain, feed=replace(plain.feed, dc=DcSwitching(school="manual")))
    optimised = replace(plain, optimiser=catalogue.optimiser("fenbrow-500"))
    safe = replace(plain, feed=replace(plain.feed, dc=DcSwitching(school="automatic")))
    battery = BatteryPlan(units=1, most_units=2, discharge_a=20.0, breaker_a=32.0, approved=True)
    backup = BackupPlan(limit_a=40.0, battery=battery, shutdown_line=True)
    backed = replace(plain, feed=replace(plain.feed, backup=backup))
    everything = replace(
        backed,
        optimiser=catalogue.optimiser("fenbrow-500"),
        feed=replace(backed.feed, dc=DcSwitching(school="both")),
    )
    no_battery = replace(plain, feed=replace(plain.feed, backup=BackupPlan(limit_a=40.0)))
    roof = wired_roof()
    return {
        "plain": plain,
        "roof isolator": manual,
        "AC first": with_sequence(plain, "ac_first"),
        "without sun": with_sequence(manual, "no_sun"),
        "optimisers": optimised,
        "safety switch": safe,
        "backup": backed,
        "backup without battery": no_battery,
        "everything": everything,
        "roof": roof,
        "roof with backup": replace(roof, feed=replace(roof.feed, backup=backup)),
    }
