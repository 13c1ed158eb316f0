"""Permissions: a sound job may be switched on, and with any one thing broken or missing it may not.

Another route to the same: every judgement is found by walking the whole assessment, not by the
list of open points, and what may be passed is written here anew.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from datetime import timedelta
from functools import cache
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from core.assess import assess
from core.assessment.judgements import every_judgement
from core.assessment.permissions import PermissionId, PermissionState
from core.assessment.whole import Assessment
from core.base.messages import table as words
from core.job.job import Job
from core.job.reading_kinds import KINDS
from core.job.reading_values import Answer, Measured
from core.stages.permissions.table import table
from core.tests.commissioned import proved, ready_job, settings_made, sound_roof, talking, woken
from core.tests.samples import with_reading

FEEDING: tuple[PermissionId, ...] = ("dc", "ac", "run")
# What no switching on waits for: making dead is for opening, goods were counted, the rest is read
# while it feeds or adds up what is read one by one.
NO_MATTER = {"dead_step", "goods_counted", "goods_here", "tests_complete", "awake", "proved_dead"}
# What a person or a portal sees from afar: nothing is less safe without it; Leave waits for it.
FROM_AFAR = {
    "talk_planned", "way_out_chosen", "range_ok", "network_up", "link_complete", "account_whole",
    "account_agrees", "default_password_gone", "role_ready", "step_account_step", "talk_noted",
    "other_page_saved",
}  # fmt: skip
# What Leave asks for, which begins once it all runs.
OF_LEAVING = {
    "label_fits", "label_says", "labels_apart", "labels_known", "emergency_says",
    "step_label_stuck", "record_signable", "watches_taken_on", "record_signed", "yield_as_due",
    "part_gives", "energy_sign", "days_complete", "look_due", "settings_drift",
}  # fmt: skip
# Which way round a meter is stays to be seen while it feeds; clamps that are known wrong do not.
ON_THE_METER = {("meter_loads", "waiting"), ("meter_sign", "waiting"), ("meter_sign", "stop")}
WHILE_IT_FEEDS = {"loss_stops", "loss_returns", "mean_voltage_under", "over_voltage_stops"}
# Readings without which a plant may be switched on all the same.
NOT_NEEDED = {
    "dead_step", "goods_found", "goods_damaged", "dc_switch", "wake_step", "loss_moment",
    "mean_voltage", "air_temperature", "nameplate_power",
    "network_answers", "status_row", "default_replaced", "account_step", "device_serial",
    "meter_reads", "meter_load",
}  # fmt: skip
BEFORE_LEAVING = {("look_over", "labels")}


@cache
def wall() -> Job:
    return settings_made(proved(ready_job()))


@cache
def roof() -> Job:
    return sound_roof()


@cache
def linked() -> Job:
    return talking(wall())


SOUND = {"wall": wall, "roof": roof, "linked": linked}


def state(assessment: Assessment, permission: PermissionId, scope: str = "") -> PermissionState:
    return next(p for p in assessment.permissions if (p.id, p.scope) == (permission, scope))


def without(job: Job, kind: str, subject: str) -> Job:
    left = tuple(r for r in job.readings if (r.kind, r.subject) != (kind, subject))
    return replace(job, readings=left)


def locked_by_another_route(assessment: Assessment) -> set[str]:
    """Ids of every judgement, wherever it stands, that must keep the plant from feeding."""
    return {
        one.rule_id
        for one in every_judgement(assessment).values()
        if one.verdict in ("stop", "waiting")
        and one.rule_id not in NO_MATTER | WHILE_IT_FEEDS | FROM_AFAR | OF_LEAVING
        and (one.rule_id, one.verdict) not in ON_THE_METER
        and not _may_be_left_out(assessment, one.rule_id)
    }


def _may_be_left_out(assessment: Assessment, rule_id: str) -> bool:
    """Whether that judgement only stands at things that may be left out, or come later."""
    asked = [a for a in assessment.asks if any(j.rule_id == rule_id for j in a.judgements)]
    later = ("look_over/labels", "operating/")
    return bool(asked) and all(
        (a.optional and a.reading is None) or a.key.startswith(later) or a.verdict == "clear"
        for a in asked
    )


def needed() -> Iterator[tuple[str, str, str]]:
    for name, job in SOUND.items():
        for kind, subject in dict.fromkeys((r.kind, r.subject) for r in job().readings):
            optional = KINDS[kind].optional
            if kind not in NOT_NEEDED and not optional and (kind, subject) not in BEFORE_LEAVING:
                yield name, kind, subject


class Sound(TestCase):
    def test_a_sound_plant_may_be_switched_on_and_is_woken_to_its_end(self) -> None:
        for name, job in SOUND.items():
            said = assess(job())
            for permission in ("plug", "awake", "dc", "ac"):
                with self.subTest(plant=name, permission=permission):
                    self.assertEqual(state(said, permission).verdict, "clear")
                    self.assertEqual(state(said, permission).locks, ())
        ended = assess(woken(wall()))
        self.assertEqual(ended.wake.phases[0].verdict, "clear")
        self.assertEqual(state(ended, "run").verdict, "clear")
        # What is ON is neither plugged nor opened.
        self.assertEqual(state(ended, "plug", "A").verdict, "stop")
        self.assertEqual(state(ended, "open").verdict, "stop")

    def test_nothing_read_grants_nothing(self) -> None:
        for job in SOUND.values():
            for permission in assess(replace(job(), readings=())).permissions:
                self.assertNotEqual(permission.verdict, "clear", permission.id)


class Broken(TestCase):
    def test_any_reading_that_is_missing_keeps_it_off(self) -> None:
        for name, kind, subject in needed():
            with self.subTest(plant=name, kind=kind, subject=subject):
                said = assess(without(SOUND[name](), kind, subject))
                for permission in FEEDING:
                    self.assertNotEqual(state(said, permission).verdict, "clear", permission)

    def test_any_answer_turned_to_bad_keeps_it_off(self) -> None:
        for name, kind, subject in needed():
            if KINDS[kind].form == "answer":
                with self.subTest(plant=name, kind=kind, subject=subject):
                    bad = with_reading(SOUND[name](), kind, subject, -1, minute=90)
                    for permission in FEEDING:
                        self.assertEqual(state(assess(bad), permission).verdict, "stop")

    def test_a_permit_of_less_than_the_plant_gives_keeps_it_off_until_that_is_held_back(
        self,
    ) -> None:
        for name, job in SOUND.items():
            for granted_w in (0.0, 1200.0, job().source.rated_ac_w - 1):
                with self.subTest(plant=name, granted_w=granted_w):
                    permit = job().arrival.permit
                    assert permit is not None
                    arrival = replace(job().arrival, permit=replace(permit, export_w=granted_w))
                    said = assess(replace(job(), arrival=arrival))
                    planned = job().talk is not None
                    for permission in ("dc", "ac"):
                        verdict = state(said, permission).verdict
                        self.assertEqual(verdict == "clear", planned, permission)
                    self.assertNotEqual(state(said, "run").verdict, "clear")
                    held = state(said, "run").locks
                    rules = {one.rule_id for one in said.locks if one.id in held}
                    wanted = "export_limit_kept" if planned else "export_limit_planned"
                    self.assertIn(wanted, rules)

    @given(st.data())
    def test_whatever_is_spoiled_what_is_judged_bad_locks_by_another_route_too(
        self, data: st.DataObject
    ) -> None:
        name, kind, subject = data.draw(st.sampled_from(list(needed())))
        job = SOUND[name]()
        spec = KINDS[kind]
        last = next(r for r in reversed(job.readings) if (r.kind, r.subject) == (kind, subject))
        if spec.form == "measured":
            factor = data.draw(st.sampled_from((0.0, 0.001, 0.1, 0.5, 0.9, 1.1, 2.0, 10.0, 1000.0)))
            number = min(max(last.number * factor, spec.low), spec.high)
            spoiled = replace(last, id="spoiled-1", value=Measured(number))
        elif spec.form == "answer":
            spoiled = replace(last, id="spoiled-1", value=Answer(good=False))
        else:
            return
        late = replace(spoiled, taken_at=last.taken_at + timedelta(minutes=90))
        said = assess(replace(job, readings=(*job.readings, late)))
        locks = locked_by_another_route(said)
        for permission in ("dc", "ac"):
            granted = state(said, permission).verdict == "clear"
            self.assertEqual(granted, not locks, (kind, subject, late.value, locks))


class Decided(TestCase):
    def test_what_keeps_a_compartment_shut_is_decided_for_every_judgement(self) -> None:
        """A new judgement is made or mended with it open, or keeps it shut: say which."""
        told = {
            rule_id
            for rule_id, said in words().items()
            if "title" in said and {"clear", "stop", "watch", "waiting"} & set(said)
        }
        passed = {
            rule_id for one in table().passes if "open" in one.permissions for rule_id in one.rules
        }
        shut = {
            "countersigned",
            "one_chosen",
            "licensed_present",
            "proved_dead",
            "light_alarm",
            "switch_off_now",
            "sister_off",
        }
        of_no_plan = {"lock_overridden"} | {one for one in told if one.startswith("live_")}
        self.assertEqual(told - passed, shut | of_no_plan)
        self.assertLessEqual(set(table().hard), told)
        self.assertLessEqual(passed, told)
