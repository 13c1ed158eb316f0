"""Random lines and devices: no wrong "clear", none past its limit, nothing lost.

Two hundred in every run; a thousand in a nightly one.
"""

from __future__ import annotations

import os
import random
import time
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from datetime import UTC, datetime
from unittest import TestCase

from core.assessment.grid import GridStage
from core.figures.grid_profiles import Profile, known_profiles, point_kinds, profile
from core.job.readings import DeviceLabel, DevicePlate, SettingsWritten
from core.stages.reading_index import Readings, kept_of
from core.stages.set.stage import grid_stage
from core.tests.samples import sample_job
from devices.client import Line, SetResult, read_profile, set_profile
from devices.newer_map import TRIPS
from devices.simulated.faults import Faults
from devices.simulated.image import KINDS, DeviceKind, Made
from devices.simulated.inverter import (
    SimulatedInverter,
    answering,
    register_device,
    running,
)

SCRIPTS = 1000 if os.environ.get("LONG_NOON_NIGHTLY") == "1" else 200
AT_ONCE = 8
LIMIT_S = 0.6
# What a busy machine may add; a hang has no such end.
OVER_S = 10.0
LOOKS = 5
SERIAL = "R-1"


def script(chance: random.Random) -> Faults:
    """Some faults at once, or none."""
    found = Faults()
    for name, values in (
        ("slow", (0.001, 0.005, 0.1)),
        ("drops", (1, 3, 9, 20, 45, 70)),
        ("refuses", (703, 705, 706, *TRIPS, 711, 121)),
        ("resets", (0.001, 0.01)),
    ):
        if chance.random() < 0.25:
            found = replace(found, **{name: chance.choice(values)})
    for name in ("locked", "rounds", "forgets", "stranger"):
        if chance.random() < 0.12:
            found = replace(found, **{name: True})
    return found


def not_the_stranger(device: DeviceLabel, plate: DevicePlate) -> str:
    return "" if device.serial == SERIAL else f"{device.serial} answers."


def play(one: tuple[Faults, DeviceKind, Profile]) -> tuple[SetResult, SetResult, float]:
    """The writing under these faults, what the device holds in truth, how long it took."""
    wrong, kind, chosen = one
    made = Made(serial=SERIAL, kind=kind, nominal_v=chosen.nominal_v)
    inverter = SimulatedInverter(made, wrong)
    with running(inverter) as port:
        begun = time.monotonic()
        result = set_profile(here(port), chosen, not_the_stranger, LIMIT_S)
        took_s = time.monotonic() - begun
    with answering([register_device(inverter.held())]) as port:
        return result, whole_look(here(port), chosen), took_s


def whole_look(line: Line, chosen: Profile) -> SetResult:
    """All that a device without faults holds. A starved machine may cut one look short, not all;
    what a half-written curve holds beyond a profile's words is refused, each time."""
    for _ in range(LOOKS):
        found = read_profile(line, chosen)
        if found.outcome in ("read_back", "refused"):
            return found
    raise AssertionError(f"a device without faults was not read: {found.outcome} {found.detail}")


def here(port: int) -> Line:
    return Line(host="127.0.0.1", port=port, unit_id=1)


def stage_of(result: SetResult, chosen: Profile) -> GridStage:
    """What the job says of the writing."""
    job = sample_job()
    written = SettingsWritten(
        id="script-1",
        at=datetime(2026, 6, 1, tzinfo=UTC),
        by="Ada Fenn",
        profile=chosen.id,
        host="127.0.0.1",
        port=1,
        unit_id=1,
        **vars(result),
    )
    job = replace(job, grid=replace(job.grid, profile=chosen.id), settings_written=(written,))
    return grid_stage(job, Readings(kept_of(job)))[0]


class FaultScripts(TestCase):
    def test_no_script_ends_in_a_wrong_clear_a_hang_or_a_lost_reading(self) -> None:
        chance = random.Random(20261125)
        scripts = [
            (script(chance), chance.choice(KINDS), profile(chance.choice(known_profiles())))
            for _ in range(SCRIPTS)
        ]
        ends: Counter[str] = Counter()
        with ThreadPoolExecutor(AT_ONCE) as pool:
            for (wrong, kind, chosen), played in zip(scripts, pool.map(play, scripts), strict=True):
                result, truth, took_s = played
                ends[result.outcome] += 1
                with self.subTest(faults=wrong, kind=kind, profile=chosen.id):
                    self.assertLess(took_s, LIMIT_S + OVER_S)
                    self.nothing_lost(result, wrong)
                    # Settings lost after they were read are the next look's to find.
                    if not wrong.resets:
                        self.nothing_wrongly_clear(result, truth, chosen)
        self.assertLessEqual(
            {"read_back", "refused", "closed", "silent", "other_device"}, set(ends)
        )

    def nothing_lost(self, result: SetResult, wrong: Faults) -> None:
        got = {one.id for one in result.readback}
        self.assertLessEqual(got, set(result.read))
        self.assertLessEqual(set(result.read), set(result.carried))
        self.assertLessEqual(set(result.refused), set(result.sent))
        self.assertLessEqual(set(result.sent), set(result.carried))
        if result.outcome == "other_device":
            self.assertTrue(wrong.stranger)
            self.assertEqual((result.sent, result.read), ((), ()))
        if result.outcome == "read_back":
            self.assertEqual((result.sent, result.read), (result.carried, result.carried))
            self.assertFalse(result.refused)
        if wrong.stranger:
            self.assertFalse(result.sent)

    def nothing_wrongly_clear(self, result: SetResult, truth: SetResult, chosen: Profile) -> None:
        stage = stage_of(result, chosen)
        held = {one.id: one.value for one in truth.readback}
        carried = [point for point in stage.points if not point.by_hand]
        for point in carried:
            if point.judgement.verdict != "clear":
                continue
            wanted, value = chosen.value(point.id), held.get(point.id)
            self.assertEqual(wanted is None, value is None, point.id)
            if wanted is not None and value is not None:
                tolerance = point_kinds()[point.id].tolerance
                self.assertLessEqual(abs(value - wanted), tolerance * 1.000001, point.id)
        verdicts = {one.rule_id: one.verdict for one in stage.judgements}
        if result.outcome != "read_back":
            self.assertNotEqual(verdicts["device_answer"], "clear")
        if len(result.read) < len(result.carried):
            self.assertNotEqual(verdicts["settings_agree"], "clear")
