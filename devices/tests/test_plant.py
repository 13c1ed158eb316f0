"""A simulated inverter that follows a job: its strings, its switches, the sun of its place."""

from __future__ import annotations

import tempfile
from contextlib import redirect_stderr
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from io import StringIO
from pathlib import Path
from unittest import TestCase

from core.files.job import read_job, write_job
from core.job.job import Job
from core.job.reading_values import from_pair
from core.job.readings import Reading
from core.stages.set.live import judged_live
from devices.client import Line
from devices.live import read_live
from devices.simulated.image import KINDS, Made
from devices.simulated.inverter import SimulatedInverter, running
from devices.simulated.plant import Followed, plant_now

NOON = datetime(2026, 11, 28, 11, 45, tzinfo=UTC)
NIGHT = datetime(2026, 11, 28, 23, 0, tzinfo=UTC)
FINISHED = Path("server/demo/jobs/beacon-row-7.json")


def finished() -> Job:
    return read_job(FINISHED.read_bytes())


def switched(job: Job, switch: str) -> Job:
    """The job with one switch put OFF after everything else."""
    last = max(job.readings, key=lambda one: one.taken_at)
    at = last.taken_at + timedelta(minutes=1)
    off = Reading(
        id=f"reading-off-{switch}",
        kind="switch_stands",
        subject=switch,
        value=from_pair("answer", -1, ""),
        basis="measured",
        taken_at=at,
        kept_at=at,
        by=last.by,
    )
    return replace(job, readings=(*job.readings, off))


class PlantNow(TestCase):
    def test_trackers_show_their_own_strings_and_night_shows_none(self) -> None:
        job = finished()
        noon = plant_now(job, 230.0, NOON)
        long, short = noon.trackers
        self.assertGreater(long.volts, short.volts * 10 / 9)
        self.assertTrue(0 < noon.power_w < job.source.rated_ac_w)
        night = plant_now(job, 230.0, NIGHT)
        self.assertEqual((night.state, night.power_w), ("sleeping", 0.0))
        self.assertEqual({one.volts for one in night.trackers}, {0.0})

    def test_an_open_switch_of_either_side_stops_it(self) -> None:
        job = finished()
        without_dc = plant_now(switched(job, "dc"), 230.0, NOON)
        self.assertEqual((without_dc.power_w, without_dc.trackers[0].volts), (0.0, 0.0))
        self.assertEqual(without_dc.supply_v, 230.0)
        without_ac = plant_now(switched(job, "breaker"), 230.0, NOON)
        self.assertEqual((without_ac.power_w, without_ac.supply_v), (0.0, 0.0))
        self.assertGreater(without_ac.trackers[0].volts, 300.0)


class OverTheLine(TestCase):
    now = NOON

    def test_what_is_polled_is_the_plant_and_nothing_of_it_is_judged_wrong(self) -> None:
        job = finished()
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "job.json"
            for kind in KINDS:
                file.write_text(write_job(job), encoding="utf-8")
                self.now = NOON
                follows = Followed(file, 230.0, now=lambda: self.now)
                made = Made(serial="VF26010001", kind=kind)
                with running(SimulatedInverter(made, follows=follows)) as port:
                    line = Line(host="127.0.0.1", port=port, unit_id=1)
                    live = read_live(line, 1)
                    wanted = plant_now(job, 230.0, NOON)
                    self.assertEqual(live.power_w, round(wanted.power_w))
                    for got, want in zip(live.trackers, wanted.trackers, strict=True):
                        self.assertAlmostEqual(got.volts or 0, want.volts, delta=0.06)
                    said = judged_live(job, live, elevation_deg=10.0)
                    self.assertEqual({one.verdict for one in said}, {"clear"})
                    self.now = NIGHT
                    self.assertEqual(read_live(line, 1).power_w, 0)
                    open_now = switched(job, "breaker")
                    file.write_text(write_job(open_now), encoding="utf-8")
                    dark = read_live(line, 1)
                    self.assertEqual(dark.lines[0].volts, 0.0)
                    said = judged_live(open_now, dark, elevation_deg=-40.0)
                    self.assertEqual({one.verdict for one in said}, {"clear"})

    def test_a_job_that_has_no_strings_is_not_followed_and_the_device_still_answers(self) -> None:
        follows = Followed(Path("server/demo/jobs/slipway-cottage.json"), 230.0, lambda: NOON)
        with (
            redirect_stderr(StringIO()) as said,
            running(SimulatedInverter(Made(serial="VF26010001"), follows=follows)) as port,
        ):
            live = read_live(Line(host="127.0.0.1", port=port, unit_id=1), 1)
        self.assertEqual(live.outcome, "read_back")
        self.assertIn("not followed: a simulated inverter follows", said.getvalue())

    def test_a_supply_behind_a_switch_said_off_is_a_stop(self) -> None:
        job = switched(finished(), "breaker")
        with running(SimulatedInverter(Made(serial="VF26010001"))) as port:
            live = read_live(Line(host="127.0.0.1", port=port, unit_id=1), 1)
        found = {one.rule_id: one.verdict for one in judged_live(job, live, elevation_deg=10.0)}
        self.assertEqual(found["live_open"], "stop")
