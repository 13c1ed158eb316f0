"""Set in the core: what counts as held, what a broken writing leaves, drift, curves, trials."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from core.assess import assess
from core.assessment.grid import GridStage
from core.base.errors import Refused
from core.edits.commission import with_hand_setting
from core.figures.grid_profiles import curve, droop, known_profiles, point_kinds, profile
from core.job.job import Job
from core.job.live import LineVolts, Live, LiveTracker
from core.job.readings import DeviceLabel, DevicePlate
from core.rules.grid.grid_settings import setting_fingerprint
from core.stages.set.live import judged_live
from core.stages.set.points import standing
from core.stages.set.stage import objection
from core.tests.commissioned import proved, ready_job, settings_made, tried, written
from core.tests.samples import micro_job, sample_job, with_reading

LABEL = DeviceLabel(maker="V", model="Five", serial="S-1", version="1")
PLATE = DevicePlate(rated_w=5000.0, nominal_v=230.0, phases=1, models=(1, 701), speaks="newer")
AUTO = tuple(kind.id for kind in point_kinds().values() if not kind.by_hand)


def stage(job: Job) -> GridStage:
    return assess(job).grid


def verdicts(job: Job) -> dict[str, str]:
    return {one.rule_id: one.verdict for one in stage(job).judgements}


def last(job: Job, **changes: Any) -> Job:
    """The job with its last attempt as it would be kept today, with changes."""
    *before, attempt = job.settings_written
    whole = {"carried": AUTO, "sent": AUTO, "read": AUTO, "device": LABEL, "plate": PLATE}
    return replace(job, settings_written=(*before, replace(attempt, **(whole | changes))))


def points(job: Job) -> dict[str, str]:
    return {point.id: point.judgement.verdict for point in stage(job).points}


AFTERWARDS_MIN = 900.0


class Held(TestCase):
    def test_what_was_read_counts_and_what_was_not_waits(self) -> None:
        read = tuple(one for one in AUTO if not one.startswith("over_frequency"))
        job = last(written(sample_job(), "closed"), read=read)
        # A line that broke: nothing of it is held for sure, read or not.
        self.assertEqual(set(points(job).values()), {"waiting"})
        partly = last(written(sample_job(), "refused"), read=read, refused=("over_frequency_1_hz",))
        self.assertEqual(points(partly)["over_voltage_1_v"], "clear")
        self.assertEqual(points(partly)["over_frequency_1_hz"], "waiting")
        self.assertEqual(verdicts(partly)["settings_agree"], "waiting")
        self.assertEqual(verdicts(partly)["device_answer"], "stop")

    def test_how_far_each_setting_came_is_told(self) -> None:
        sent = AUTO[:10]
        job = last(written(sample_job(), "closed"), sent=sent, refused=AUTO[:2], read=())
        by_id = {point.id: point.sent for point in stage(job).points}
        self.assertEqual((by_id[AUTO[0]], by_id[AUTO[5]]), ("refused", "sent"))
        self.assertEqual(by_id["droop_pct"], "not_sent")
        attempt = stage(job).attempts[0]
        self.assertEqual((len(attempt.sent), len(attempt.refused)), (8, 2))
        self.assertEqual(len(attempt.not_sent), len(AUTO) - 10)
        self.assertEqual(len(attempt.unread), len(AUTO))

    def test_records_from_before_parts_were_kept_still_speak(self) -> None:
        self.assertEqual(verdicts(written(sample_job()))["settings_agree"], "clear")
        self.assertEqual(verdicts(written(sample_job(), "refused"))["settings_agree"], "waiting")

    def test_a_look_that_failed_takes_nothing_away_but_a_writing_does(self) -> None:
        job = last(written(sample_job()))
        looked = last(written(job, "silent"), only_read=True, sent=(), read=())
        self.assertEqual(standing(looked), job.settings_written[0])
        broken = last(written(job, "silent"), read=())
        self.assertEqual(verdicts(broken)["device_answer"], "stop")

    def test_by_hand_every_setting_is_asked_for_and_summed_up(self) -> None:
        job = with_hand_setting(sample_job(), by_hand=True)
        self.assertEqual(verdicts(job)["settings_agree"], "waiting")
        self.assertNotIn("device_answer", verdicts(job))
        for point in stage(job).points:
            self.assertTrue(point.by_hand and point.where)
            job = with_reading(job, "setting", point.id, point.wanted or 0.0)
        self.assertEqual(verdicts(job)["settings_agree"], "clear")
        self.assertIsNotNone(stage(job).fingerprint)
        off = with_reading(job, "setting", "ramp_s", 60.0, minute=1)
        self.assertEqual(verdicts(off)["settings_agree"], "stop")

    def test_unknown_settings_are_refused_in_a_record(self) -> None:
        for field in ("carried", "sent", "refused", "read"):
            with self.assertRaises(Refused, msg=field):
                last(written(sample_job()), **{field: ("ramp_h",)})


class Drift(TestCase):
    def test_the_same_is_clear_and_each_change_is_named(self) -> None:
        job = last(written(sample_job()))
        same = last(written(job), only_read=True, sent=())
        self.assertEqual(verdicts(same)["settings_unchanged"], "clear")
        moved = last(written(job, over_voltage_1_v=262.0), only_read=True, sent=())
        judged = next(j for j in stage(moved).judgements if j.rule_id == "settings_unchanged")
        self.assertEqual(judged.verdict, "stop")
        self.assertIn("264.5\xa0V → 262\xa0V", judged.reason)
        self.assertEqual(verdicts(moved)["settings_agree"], "stop")

    def test_never_written_is_no_drift(self) -> None:
        looked = last(written(sample_job()), only_read=True, sent=())
        self.assertNotIn("settings_unchanged", verdicts(looked))

    @given(st.sampled_from(AUTO), st.floats(0.01, 50))
    def test_a_fingerprint_changes_with_any_setting(self, changed: str, by: float) -> None:
        held = [(point, 1.0) for point in AUTO]
        other = [(point, 1.0 + by if point == changed else 1.0) for point in AUTO]
        self.assertNotEqual(setting_fingerprint(held), setting_fingerprint(other))
        self.assertEqual(setting_fingerprint(held), setting_fingerprint(reversed(held)))


class Devices(TestCase):
    def test_a_device_that_is_not_the_planned_one_is_objected_to(self) -> None:
        job = sample_job()
        self.assertEqual(objection(job, LABEL, PLATE), "")
        self.assertIn("3", objection(job, LABEL, replace(PLATE, phases=3)))
        self.assertIn("6000", objection(job, LABEL, replace(PLATE, rated_w=6000.0)))
        named = with_reading(job, "nameplate_serial", "inverter", 0, text="VF26010001")
        self.assertIn("VF26010001", objection(named, LABEL, PLATE))
        # A roof of microinverters is set through a gateway of the units' own maker.
        self.assertIn("Skerrow", objection(micro_job(), LABEL, PLATE))
        gateway = replace(LABEL, maker="Skerrow")
        self.assertEqual(objection(micro_job(), gateway, replace(PLATE, rated_w=None)), "")
        # What its registers do not say is no objection; the judgement waits for the nameplate.
        silent = replace(PLATE, rated_w=None, phases=None)
        self.assertEqual(objection(job, LABEL, silent), "")
        self.assertEqual(verdicts(last(written(job)))["device_planned"], "waiting")


class Curves(TestCase):
    def test_every_profile_draws_its_responses(self) -> None:
        for name in known_profiles():
            chosen = profile(name)
            job = sample_job()
            job = replace(job, grid=replace(job.grid, profile=name))
            drawn = {one.name: one for one in stage(job).responses}
            with self.subTest(profile=name):
                corners = [(one.at, one.pct) for one in drawn["volt_watt"].wanted]
                self.assertEqual(bool(corners), bool(chosen.value("volt_watt_on")))
                falls = drawn["frequency_watt"].wanted
                self.assertEqual([one.pct for one in falls], [100.0, 100.0, 0.0])
                self.assertEqual(falls[1].at, chosen.value("droop_start_hz"))
                self.assertFalse(drawn["volt_var"].read)

    def test_corners_by_hand(self) -> None:
        # AS/NZS 4777.2:2020 A: volt-var 207 V 44 %, 220 V 0, 240 V 0, 258 V 60 % absorbed;
        # droop of 3.5 % of 50 Hz is 1.75 Hz: from 50.25 Hz it ends at 52 Hz.
        chosen = profile("au-4777-a")
        corners = ((207.0, 44.0), (220.0, 0.0), (240.0, 0.0), (258.0, -60.0))
        self.assertEqual(curve(chosen.value, "volt_var"), corners)
        self.assertEqual(droop(chosen.value, 50.0)[-1], (52.0, 0.0))
        self.assertEqual(curve(profile("de-4105").value, "volt_var"), ())


class Trials(TestCase):
    def test_in_time_is_clear_late_and_early_are_stops(self) -> None:
        job = sample_job()
        sound = verdicts(tried(job))
        self.assertEqual((sound["loss_stops"], sound["loss_returns"]), ("clear", "clear"))
        self.assertEqual(verdicts(tried(job, stopped_s=2.4))["loss_stops"], "stop")
        self.assertEqual(verdicts(tried(job, returned_s=30.0))["loss_returns"], "stop")
        self.assertEqual(verdicts(tried(job, returned_s=900.0))["loss_returns_late"], "watch")

    def test_a_profile_without_a_time_is_judged_by_the_islanding_standard(self) -> None:
        job = sample_job()
        uk = replace(job, grid=replace(job.grid, profile="uk-g98-type-a"))
        judged = next(j for j in stage(tried(uk)).judgements if j.rule_id == "loss_stops")
        self.assertEqual((judged.limit, judged.verdict), (2.0, "clear"))
        self.assertNotIn("mean_voltage/site", {one.key for one in assess(uk).asks})

    def test_moments_out_of_order_are_of_an_earlier_trial(self) -> None:
        job = with_reading(tried(sample_job()), "loss_moment", "opened", 1, minute=300)
        moments = {one.moment: one for one in stage(job).loss}
        self.assertIsNone(moments["stopped"].at)
        self.assertTrue(moments["stopped"].is_next)
        self.assertEqual(verdicts(job)["loss_stops"], "waiting")

    def test_a_mean_over_the_limit_and_a_slow_stop_are_told(self) -> None:
        high = with_reading(sample_job(), "mean_voltage", "site", 254.0)
        ask = next(one for one in assess(high).asks if one.key == "mean_voltage/site")
        self.assertEqual(ask.verdict, "stop")
        slow = with_reading(sample_job(), "over_voltage_stop", "site", 3.4)
        ask = next(one for one in assess(slow).asks if one.key == "over_voltage_stop/site")
        self.assertEqual((ask.verdict, ask.optional), ("stop", True))


class Now(TestCase):
    """What the inverter measures at this moment, against the plan that it should be of."""

    def verdicts(self, **changes: Any) -> dict[str, str]:
        whole: dict[str, Any] = {
            "outcome": "read_back",
            "detail": "",
            "lines": (LineVolts(pair="L-N", volts=232.0),),
            "power_w": 2100.0,
            "trackers": (
                LiveTracker(number=1, volts=380.0, amps=3.0, watts=1140.0),
                LiveTracker(number=2, volts=310.0, amps=3.0, watts=930.0),
            ),
        }
        elevation_deg = changes.pop("elevation_deg", 30.0)
        job = settings_made(proved(ready_job()))
        for switch in changes.pop("on", ("breaker", "ac")):
            job = with_reading(job, "switch_stands", switch, 1, minute=AFTERWARDS_MIN)
        live = Live(**(whole | changes))
        found = judged_live(job, live, elevation_deg)
        return {f"{one.rule_id} {one.reason.partition(':')[0]}": one.verdict for one in found}

    def test_a_sound_plant_is_clear_and_no_answer_says_nothing(self) -> None:
        self.assertEqual(set(self.verdicts().values()), {"clear"})
        self.assertEqual(self.verdicts(outcome="silent"), {})

    def test_another_plant_than_planned_is_found(self) -> None:
        tall = (LiveTracker(number=2, volts=420.0, amps=None, watts=None),)
        for changes, rule in (
            ({"trackers": tall}, "live_tracker_volts Tracker 2"),
            ({"power_w": 9000.0}, "live_power"),
            ({"elevation_deg": -12.0}, "live_dark"),
            ({"lines": (LineVolts(pair="L-N", volts=290.0),)}, "live_supply L-N"),
            # It is there, and nobody said that both switches are ON.
            ({"on": ("breaker",)}, "live_open L-N"),
        ):
            with self.subTest(rule=rule):
                bad = [name for name, one in self.verdicts(**changes).items() if one == "stop"]
                self.assertTrue(bad and all(name.startswith(rule) for name in bad), bad)
        no_supply = (LineVolts(pair="L-N", volts=1.5),)
        self.assertEqual(set(self.verdicts(on=(), lines=no_supply).values()), {"clear"})
        # An open input wanders about nothing; a pole the wrong way round is never clear.
        small, swapped = (
            (LiveTracker(number=1, volts=volts, amps=0.0, watts=0.0),) for volts in (-0.3, -350.0)
        )
        self.assertEqual(set(self.verdicts(trackers=small).values()), {"clear"})
        with self.assertRaises(Refused):
            self.verdicts(trackers=swapped)
        # At night it may rest with a few watts of its own.
        self.assertEqual(set(self.verdicts(power_w=4.0, elevation_deg=-12.0).values()), {"clear"})
