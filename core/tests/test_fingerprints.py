"""A reading belongs to what it was read of: another of it, and the reading is past."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import timedelta
from functools import cache
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from core.assess import assess
from core.base.errors import Refused
from core.equipment import catalogue
from core.equipment.cables_switches_fixings import Breaker
from core.files.job import copied, read_job, refuse_future, write_job
from core.job.fingerprints import past_ids, stamp, stamped
from core.job.job import Job
from core.job.reading_kinds import KINDS
from core.tests.commissioned import proved, ready_job, settings_made, sound_roof, woken
from core.tests.samples import NOON, with_reading
from core.tests.test_permissions import state

NEVER = {"goods_found", "air_temperature", "dead_step", "dc_switch", "lead_null", "test_current"}


@cache
def wall() -> Job:
    return stamped(settings_made(proved(ready_job())))


@cache
def roof() -> Job:
    return stamped(sound_roof())


def past_kinds(job: Job) -> set[str]:
    gone = past_ids(job)
    return {one.kind for one in job.readings if one.id in gone}


def with_string(job: Job, **changes: object) -> Job:
    strings = (replace(job.strings[0], **changes), *job.strings[1:])  # type: ignore[arg-type]
    return replace(job, strings=strings)


class Past(TestCase):
    def test_as_it_was_read_nothing_is_past(self) -> None:
        for job in (wall(), roof(), woken(wall())):
            self.assertEqual(past_ids(job), frozenset())

    def test_each_change_voids_what_rests_on_it_and_nothing_else(self) -> None:
        job = wall()
        longer_run = replace(job.strings[0].home_run[0], length_m=30.0)
        other = next(one for one in catalogue.sheets("modules") if one.id != job.module.id)
        run = next(one for one in job.feed.runs if one.name == "To Inverter")
        longer = tuple(replace(one, length_m=9.0) if one is run else one for one in job.feed.runs)
        string = {"open_circuit", "polarity", "insulation_plus", "short_circuit"}
        for changed, gone, stays in (
            (replace(job, module=other), string, {"continuity", "torque", "nameplate_model"}),
            (with_string(job, modules_in_series=10), string, {"irradiance", "insulation_ac"}),
            (with_string(job, tracker=2), string, {"torque"}),
            (
                with_string(job, home_run=(longer_run,)),
                string,
                {"loop_impedance"},
            ),
            (
                replace(job, feed=replace(job.feed, runs=longer)),
                {"torque", "pull", "insulation_ac", "loop_impedance"},
                {"open_circuit", "continuity"},
            ),
            (
                replace(job, grid=replace(job.grid, profile="uk-g98-type-a")),
                {"setting"},
                {"torque", "open_circuit"},
            ),
            (
                replace(job, feed=replace(job.feed, earth_system="TT")),
                {"supply_voltage", "conductor_voltage"},
                {"torque"},
            ),
        ):
            with self.subTest(gone=sorted(gone)):
                kinds = past_kinds(changed)
                self.assertLessEqual(gone, kinds)
                self.assertFalse(kinds & (stays | NEVER))
                # No permission rests on what is past, and it is asked for again.
                said = assess(changed)
                self.assertNotEqual(state(said, "ac").verdict, "clear")
                unread = {ask.kind for ask in said.asks if ask.reading is None}
                self.assertLessEqual(gone, unread)
                kept = [k for ask in said.asks for k in ask.history if k.is_past]
                self.assertTrue(kept or said.past_readings)

    def test_another_inverter_voids_its_hang_ends_tests_settings_and_trials(self) -> None:
        job = woken(wall())
        swapped = with_reading(
            job, "nameplate_serial", "inverter", 0, text="VF26010002", minute=600
        )
        kinds = past_kinds(stamped(swapped))
        self.assertLessEqual({"hooks", "locked", "setting", "loss_moment", "mean_voltage"}, kinds)
        self.assertLessEqual({"nameplate_model", "look_over"}, kinds)
        self.assertNotEqual(state(assess(swapped), "run").verdict, "clear")
        # A label that was only misread and corrected is no other inverter.
        first = next(one for one in job.readings if one.kind == "nameplate_serial")
        corrected = with_reading(
            job, "nameplate_serial", "inverter", 0,
            text="VF26010007", minute=600, supersedes=first.id,
        )  # fmt: skip
        self.assertEqual(past_ids(corrected), frozenset())

    def test_a_breaker_of_another_kind_voids_its_trials(self) -> None:
        job = wall()
        c40 = catalogue.pick(catalogue.sheets("breakers"), "stobmoor-c40-b-type", Breaker, "$")
        devices = tuple(
            replace(one, breaker=c40) if one.name == "Board" else one for one in job.feed.devices
        )
        kinds = past_kinds(replace(job, feed=replace(job.feed, devices=devices)))
        self.assertLessEqual({"residual_ms", "residual_ma", "loop_impedance", "torque"}, kinds)
        self.assertNotIn("open_circuit", kinds)

    def test_units_moved_to_another_branch_void_its_trunk(self) -> None:
        job = roof()
        first, second, *rest = job.roof_plan.branches
        moved = (
            replace(first, units=first.units[:-1], links=()),
            replace(second, units=(first.units[-1], *second.units), links=()),
            *rest,
        )
        kinds = past_kinds(replace(job, micro=replace(job.roof_plan, branches=moved)))
        self.assertLessEqual({"trunk_marks", "drops_sealed"}, kinds)

    @given(st.integers(1, 30))
    def test_a_file_keeps_what_was_read_of_what(self, count: int) -> None:
        job = wall()
        changed = with_string(job, modules_in_series=count, places=())
        again = read_job(write_job(changed).encode())
        self.assertEqual(past_ids(again), past_ids(changed))
        self.assertEqual(bool(past_ids(again)), count != job.strings[0].modules_in_series)

    def test_a_new_reading_is_of_what_stands_there_now(self) -> None:
        changed = with_string(wall(), modules_in_series=10, places=())
        read = with_reading(changed, "open_circuit", "A", 380.0, minute=300).readings[-1]
        job = replace(changed, readings=(*changed.readings, stamp(changed, read)))
        self.assertNotIn(read.id, past_ids(job))
        self.assertTrue(all(KINDS[r.kind].rests_on for r in job.readings if r.id in past_ids(job)))


class FromElsewhere(TestCase):
    def test_a_copy_for_another_house_brings_the_plan_and_no_reading(self) -> None:
        job = woken(wall())
        made = copied(job, "0a000000-0000-4000-8000-00000000000f")
        self.assertEqual((made.readings, made.settings_written, made.evidence), ((), (), ()))
        self.assertEqual((made.strings, made.feed), (job.strings, job.feed))
        self.assertIsNone(made.arrival.permit)
        for permission in assess(made).permissions:
            self.assertNotEqual(permission.verdict, "clear")

    def test_what_a_file_claims_of_the_future_is_refused_by_its_path(self) -> None:
        job = wall()
        refuse_future(job, NOON + timedelta(days=1))
        with self.assertRaises(Refused) as caught:
            refuse_future(job, NOON - timedelta(days=1))
        paths = {one.path for one in caught.exception.problems}
        self.assertIn("$.readings[0].taken_at", paths)
        self.assertIn("$.settings_written[0].at", paths)

    def test_a_lock_lifted_in_a_file_lifts_nothing_here(self) -> None:
        job = wall()
        job = replace(job, arrival=replace(job.arrival, permit=None))
        data = json.loads(write_job(job))
        data["step_overrides"] = [
            {
                "id": "override-0001", "at": (NOON + timedelta(minutes=40)).isoformat(),
                "by": "Somebody", "licence": "L 1", "key": "dc_first on clear",
                "reason": "it was fine there", "lifted": "permit", "lock": "1 permit_on_file",
            }
        ]  # fmt: skip
        here = read_job(json.dumps(data).encode())
        step = assess(here).wake.phases[0].steps[0]
        self.assertEqual(step.standing, "locked")
        self.assertIn("1 permit_on_file", {lock.id for lock in step.locks})
        lifted = replace(
            here, step_overrides=tuple(replace(o, from_file=False) for o in here.step_overrides)
        )
        self.assertEqual(assess(lifted).wake.phases[0].steps[0].standing, "now")


class Age(TestCase):
    def test_old_readings_wait_and_the_same_file_always_says_the_same(self) -> None:
        job = wall()
        self.assertEqual(assess(job), assess(job))
        for days, verdict in ((1, "clear"), (29, "clear"), (31, "waiting")):
            said = assess(job, at=NOON + timedelta(days=days))
            self.assertEqual(state(said, "ac").verdict, verdict, days)
        late = assess(job, at=NOON + timedelta(days=31))
        old = [lock for lock in late.locks if lock.rule_id == "reading_old"]
        self.assertIn("31 days ago", old[0].reason.replace("\u00a0", " "))
        # What runs was proved when it was left to run: it is not switched off for its age.
        ended = woken(job)
        self.assertEqual(state(assess(ended, at=NOON + timedelta(days=90)), "run").verdict, "clear")

    def test_no_switching_on_by_the_sun_of_the_morning(self) -> None:
        job = wall()
        now = assess(job, at=NOON + timedelta(hours=5))
        locks = {lock.rule_id for lock in now.locks}
        self.assertNotIn("reading_old", locks)
        steps = {one.id for one in now.wake.phases[0].steps}
        self.assertIn("dc_on", steps)

    def test_a_correction_without_a_reason_is_watched(self) -> None:
        job = with_reading(wall(), "polarity", "A", -1, minute=60)
        bad = job.readings[-1]
        told, retested = {"note": "read the other string"}, {"retest": True}
        for more, wanted in (({}, "watch"), (told, "clear"), (retested, "clear")):
            good = with_reading(job, "polarity", "A", 1, minute=61, supersedes=bad.id, **more)
            ask = next(one for one in assess(good).asks if one.key == "polarity/A")
            self.assertEqual(ask.verdict, wanted, more)
