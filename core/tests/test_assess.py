"""The assessment of whole jobs: readings in time, corrections, settings, standing."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

from core.assess import assess
from core.assessment.whole import Assessment
from core.base.errors import Refused
from core.job.arrival import Permit
from core.job.readings import Outcome
from core.job.strings import StringPlan
from core.tests.commissioned import proved, ready_job, settings_made, talking, tried, woken, written
from core.tests.samples import (
    asked,
    measured_job,
    sample_job,
    settled,
    with_feed,
    with_reading,
)

VOC_A = "open_circuit/A"


def rule_verdict(assessment: Assessment, rule_id: str) -> str:
    return next(j.verdict for j in assessment.grid.judgements if j.rule_id == rule_id)


class ReadingStrings(TestCase):
    def test_nothing_read_is_waiting_and_names_what_is_missing(self) -> None:
        ask = asked(sample_job(), VOC_A)
        self.assertEqual(ask.verdict, "waiting")
        needs = " ".join(ask.judgements[0].needs)
        for word in ("reading", "irradiance on East", "temperature"):
            self.assertIn(word, needs)

    def test_a_reading_in_the_band_is_clear_and_one_module_short_is_stop(self) -> None:
        job = measured_job()
        expected = assess(job).string.strings[0].expected
        assert expected is not None
        sound = with_reading(job, "open_circuit", "A", expected.centre_v)
        short = with_reading(job, "open_circuit", "A", expected.centre_v * 10 / 11)
        self.assertEqual(asked(sound, VOC_A).verdict, "clear")
        ask = asked(short, VOC_A)
        self.assertEqual((ask.verdict, ask.causes[0].cause_id), ("stop", "missing_1"))
        self.assertTrue(ask.look_next)

    def test_conditions_older_than_the_pack_allows_do_not_judge(self) -> None:
        for minute, verdict in ((19.0, "clear"), (21.0, "waiting")):
            job = with_reading(measured_job(), "open_circuit", "A", 418.0, minute=minute)
            self.assertEqual(asked(job, VOC_A).verdict, verdict, minute)

    def test_each_reading_is_judged_by_the_sun_of_its_own_time(self) -> None:
        first = with_reading(measured_job(), "open_circuit", "A", 418.0)
        later = with_reading(first, "irradiance", "East", 200.0, minute=60)
        self.assertEqual(asked(first, VOC_A).judgements, asked(later, VOC_A).judgements)

    def test_weak_light_gives_no_expectation_but_the_hard_limit_still_holds(self) -> None:
        job = with_reading(measured_job(irradiance=100), "open_circuit", "A", 640.0)
        ask = asked(job, VOC_A)
        self.assertIsNone(ask.expected_low)
        self.assertEqual([j.verdict for j in ask.judgements], ["waiting", "stop"])

    def test_over_the_maximum_on_the_coldest_morning_is_stop(self) -> None:
        hot_day = with_reading(measured_job(950, 60), "open_circuit", "A", 545.0)
        ask = asked(hot_day, VOC_A)
        verdicts = {j.rule_id: j.verdict for j in ask.judgements}
        self.assertEqual(verdicts["string_under_max"], "clear")
        self.assertEqual(verdicts["string_projection"], "stop")

    def test_swapped_poles_stop(self) -> None:
        job = with_reading(measured_job(), "open_circuit", "A", -418.0)
        job = with_reading(job, "polarity", "A", -1)
        self.assertEqual(asked(job, VOC_A).causes[0].cause_id, "polarity_swapped")
        self.assertEqual(asked(job, "polarity/A").verdict, "stop")
        self.assertEqual(assess(settled(job)).stands_at, 4)

    def test_a_correction_counts_and_both_stay(self) -> None:
        job = with_reading(measured_job(), "open_circuit", "A", 481.0)
        first = job.readings[-1].id
        silent = with_reading(job, "open_circuit", "A", 418.0, supersedes=first)
        self.assertEqual(asked(silent, VOC_A).verdict, "watch")
        job = with_reading(job, "open_circuit", "A", 418.0, supersedes=first, note="digits swapped")
        ask = asked(job, VOC_A)
        self.assertEqual((ask.verdict, ask.reading and ask.reading.value), ("clear", 418.0))
        self.assertEqual([k.superseded_by for k in ask.history], [job.readings[-1].id, None])

    def test_a_reading_cannot_be_superseded_twice_or_by_another_kind(self) -> None:
        job = with_reading(measured_job(), "open_circuit", "A", 481.0)
        first = job.readings[-1].id
        corrected = with_reading(job, "open_circuit", "A", 418.0, supersedes=first)
        for kind, subject in (("open_circuit", "A"), ("open_circuit", "B"), ("polarity", "A")):
            with self.assertRaises(Refused) as caught:
                with_reading(corrected, kind, subject, 1, supersedes=first)
            path = f"$.readings[{len(corrected.readings)}].supersedes"
            self.assertEqual(caught.exception.problems[0].path, path)

    def test_unlike_strings_on_one_tracker_stop(self) -> None:
        strings = (
            StringPlan(name="A", tracker=2, plane="East", modules_in_series=11),
            StringPlan(name="B", tracker=2, plane="West", modules_in_series=9),
        )
        (tracker,) = assess(sample_job(strings=strings)).string.trackers
        verdicts = {j.rule_id: j.verdict for j in tracker.judgements}
        self.assertEqual(verdicts["tracker_alike"], "stop")


class Setting(TestCase):
    def test_settled_only_when_all_agrees_and_hand_points_are_read(self) -> None:
        job = with_reading(sample_job(), "supply_voltage", "L-N", 232.0)
        job = with_reading(job, "supply_frequency", "site", 50.0)
        assessment = assess(written(job))
        self.assertEqual(rule_verdict(assessment, "settings_agree"), "clear")
        self.assertEqual(assessment.stages[8].verdict, "waiting")
        self.assertEqual(assess(settings_made(job)).stages[8].verdict, "waiting")
        self.assertEqual(assess(tried(settings_made(job))).stages[8].verdict, "clear")

    def test_one_setting_off_is_a_stop_that_names_it(self) -> None:
        assessment = assess(written(sample_job(), over_voltage_1_v=262.0))
        self.assertEqual(rule_verdict(assessment, "settings_agree"), "stop")
        reason = next(j.reason for j in assessment.grid.judgements if j.rule_id == "settings_agree")
        self.assertIn("Over-voltage step 1", reason)

    def test_every_failed_attempt_is_a_stop_that_says_what_to_do(self) -> None:
        outcomes: tuple[Outcome, ...] = (
            "unreachable",
            "silent",
            "closed",
            "garbage",
            "refused",
            "wrong_device",
        )
        for outcome in outcomes:
            assessment = assess(written(sample_job(), outcome))
            self.assertEqual(rule_verdict(assessment, "device_answer"), "stop", outcome)
            self.assertNotEqual(rule_verdict(assessment, "settings_agree"), "clear", outcome)

    def test_another_profile_or_supply_is_not_settled(self) -> None:
        job = with_reading(written(sample_job()), "supply_voltage", "L-N", 232.0)
        moved = replace(job, grid=replace(job.grid, profile="uk-g98-type-a"))
        self.assertEqual(rule_verdict(assess(moved), "settings_profile"), "stop")
        self.assertEqual(rule_verdict(assess(moved), "profile_here"), "clear")
        far = replace(job, grid=replace(job.grid, profile="au-4777-a"))
        self.assertEqual(rule_verdict(assess(far), "profile_here"), "stop")
        other = replace(job, rule_pack="germany")
        self.assertEqual(rule_verdict(assess(other), "profile_here"), "stop")
        permit = Permit(operator="O", reference="R", granted_on=job.day, profile="uk-g98-type-a")
        asked_for = replace(job, arrival=replace(job.arrival, permit=permit))
        self.assertEqual(rule_verdict(assess(asked_for), "profile_permitted"), "stop")
        foreign = replace(job, grid=replace(job.grid, profile="na-1547-b"))
        self.assertEqual(rule_verdict(assess(foreign), "profile_fits_service"), "stop")
        low = with_reading(sample_job(), "supply_voltage", "L-N", 120.0, minute=1)
        self.assertEqual(rule_verdict(assess(low), "profile_fits_supply"), "stop")

    def test_a_setting_the_profile_does_not_have_is_found(self) -> None:
        job = sample_job()
        uk = replace(job, grid=replace(job.grid, profile="uk-g98-type-a"))
        extra = written(uk, over_frequency_2_hz=53.0, over_frequency_2_s=0.2)
        self.assertEqual(rule_verdict(assess(extra), "settings_agree"), "stop")


class Standing(TestCase):
    def test_a_whole_job_ends_at_leave(self) -> None:
        self.assertEqual(assess(measured_job()).stands_at, 1)
        self.assertEqual(assess(settled(with_feed(measured_job()))).stands_at, 4)
        job = ready_job()
        self.assertEqual(assess(job).stands_at, 6)
        job = talking(job)
        self.assertEqual(assess(job).stands_at, 7)
        job = proved(job)
        self.assertEqual(assess(job).stands_at, 8)
        assessment = assess(woken(settings_made(job)))
        self.assertEqual(assessment.stands_at, 10)
        self.assertNotIn("stop", {point.judgement.verdict for point in assessment.open_points})

    def test_assessing_is_repeatable(self) -> None:
        job = with_reading(measured_job(), "open_circuit", "A", 300.0)
        self.assertEqual(assess(job), assess(job))
