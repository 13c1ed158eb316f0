"""Grid profiles: what a whole one is, what was right before, and one from the operator's letter."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta
from typing import Any
from unittest import TestCase

from core.assess import assess
from core.base.errors import Refused
from core.base.form import read, write
from core.edits.every import read_edit
from core.equipment.catalogue import SHIPPED
from core.figures.grid_profiles import Profile, known_profiles, profile
from core.job.arrival import Permit
from core.job.grid import LETTER
from core.job.job import Job
from core.tests.commissioned import written
from core.tests.samples import NOON, sample_job, with_reading

OLD = {"over_voltage_1_v": 253.0, "over_voltage_1_s": 3.0}
FIRST, MEAN = "over_voltage_1_v", "over_voltage_mean_v"
# What is done to a sound profile, the path that is named, and a word of what is said.
SPOILED: tuple[tuple[str, dict[str, float | None], str, str], ...] = (
    ("en-50549-1", {FIRST: 253.0}, "points", "mean"),
    ("en-50549-1", {FIRST: 229.0}, "points", "nominal"),
    ("uk-g98-type-a", {"over_voltage_2_v": 250.0}, "points", "step 1"),
    ("uk-g98-type-a", {"over_voltage_2_s": 4.0}, "points", "4"),
    ("na-1547-b", {"under_voltage_2_v": 200.0}, "points", "step 2"),
    ("na-1547-b", {"under_frequency_2_hz": 59.0}, "points", "step 2"),
    ("de-4105", {"connect_low_v": 100.0}, "points", "Under-voltage"),
    ("de-4105", {"connect_high_hz": 52.0}, "points", "52"),
    ("de-4105", {"droop_start_hz": 51.6}, "points", "droop"),
    ("de-4105", {"observe_s": None}, "points", "Watches"),
    ("de-4105", {"loss_of_mains_s": None}, "points", "Loss of mains"),
    ("de-4105", {"under_voltage_2_s": None}, "points", "step 2, time"),
    ("au-4777-a", {"volt_var_2_v": 200.0}, "points", "corner before"),
    ("au-4777-a", {"volt_watt_2_pct": None}, "points", "Volt-watt"),
    ("au-4777-a", {"under_frequency_1_hz": 470.0}, "points", "40 to 70"),
)


def spoiled(name: str, changes: dict[str, float | None]) -> dict[str, Any]:
    """A shipped profile with settings replaced, or taken out (None)."""
    data: dict[str, Any] = write(profile(name))
    values = {one["id"]: one["value"] for one in data["points"]} | changes
    points = [{"id": key, "value": value} for key, value in values.items() if value is not None]
    return data | {"points": points}


def point_verdicts(job: Job) -> dict[str, str]:
    return {one.id: one.judgement.verdict for one in assess(job).grid.points}


def done(job: Job, **fields: Any) -> Job:
    return read_edit(fields).apply(job, SHIPPED)


def letter(**changes: Any) -> dict[str, Any]:
    """The operator's letter as typed, from a shipped profile."""
    typed = {
        "do": "put_letter",
        "operator": "North Net",
        "reference": "NN-7",
        "dated": "2026-05-01",
        "by": "Ada Fenn",
        "licence": "L-1",
        "based_on": "na-1547-b",
        "points": [],
    }
    return typed | changes


class Whole(TestCase):
    def test_what_ships_is_whole_and_each_slip_is_named_where_it_stands(self) -> None:
        for name in known_profiles():
            read(Profile, write(profile(name)))
        for name, changes, path, said in SPOILED:
            with self.subTest(profile=name, **{k: str(v) for k, v in changes.items()}):
                with self.assertRaises(Refused) as refused:
                    read(Profile, spoiled(name, changes))
                told = " ".join(
                    f"{one.path} {one.value} {one.allowed} {one.message}"
                    for one in refused.exception.problems
                )
                self.assertIn(path, told)
                self.assertIn(said.casefold(), told.casefold())


class Former(TestCase):
    def test_what_was_set_before_the_profile_was_mended_is_watch_and_later_a_stop(self) -> None:
        job = sample_job()
        before = written(job, **OLD)
        self.assertEqual({point_verdicts(before)[one] for one in OLD}, {"watch"})
        said = next(one for one in assess(before).grid.points if one.id == FIRST)
        self.assertIn("264.5", said.judgement.reason)
        self.assertEqual(point_verdicts(written(job, over_voltage_1_v=262.0))[FIRST], "stop")
        until = profile("en-50549-1").former[0].until
        last = before.settings_written[-1]
        late = replace(last, at=last.at + timedelta(days=(until - NOON.date()).days))
        after = replace(job, settings_written=(late,))
        self.assertEqual({point_verdicts(after)[one] for one in OLD}, {"stop"})
        # A look after that day sets nothing: what it finds was set before it.
        look = replace(late, id="attempt-0009", only_read=True)
        looked = replace(job, settings_written=(last, look))
        self.assertEqual({point_verdicts(looked)[one] for one in OLD}, {"watch"})

    def test_a_trial_made_then_is_held_against_what_was_asked_then(self) -> None:
        slow = with_reading(sample_job(), "over_voltage_stop", "site", 2.4)
        ask = next(one for one in assess(slow).asks if one.key == "over_voltage_stop/site")
        self.assertEqual(ask.verdict, "clear")


class Letter(TestCase):
    def setUp(self) -> None:
        self.job = sample_job()

    def test_a_response_that_the_operator_asks_for_is_switched_on_over_a_shipped_profile(
        self,
    ) -> None:
        points = [
            {"id": "volt_watt_on", "entered": "1"},
            {"id": "volt_watt_1_v", "entered": "253 V"},
            {"id": "volt_watt_1_pct", "entered": "100"},
            {"id": "volt_watt_2_v", "entered": "260"},
            {"id": "volt_watt_2_pct", "entered": "20"},
        ]
        job = done(self.job, **letter(based_on="en-50549-1", points=points))
        stage = assess(job).grid
        self.assertEqual((job.grid.profile, stage.profile_name), (LETTER, "Letter of North Net"))
        self.assertIn("NN-7", stage.profile_edition)
        self.assertIn("Ada Fenn", stage.profile_note)
        watt = next(one for one in stage.responses if one.name == "volt_watt")
        self.assertEqual([(one.at, one.pct) for one in watt.wanted], [(253, 100), (260, 20)])
        self.assertNotIn("profile_here", {one.rule_id for one in stage.judgements})

    def test_the_letter_is_held_against_the_permit(self) -> None:
        permit = Permit(operator="North Net", reference="NN-7", granted_on=NOON.date())
        for reference, verdict in (("NN-7", "clear"), ("NN-8", "stop")):
            arrival = replace(self.job.arrival, permit=replace(permit, reference=reference))
            job = done(replace(self.job, arrival=arrival), **letter(based_on="en-50549-1"))
            judged = {one.rule_id: one.verdict for one in assess(job).grid.judgements}
            self.assertEqual(judged["letter_permitted"], verdict)

    def test_a_blank_one_is_whole_or_refused(self) -> None:
        every = [{"id": one.id, "entered": f"{one.value:g}"} for one in profile("de-4105").points]
        blank = letter(based_on="", nominal_v="230 V", nominal_hz="50", points=every)
        made = done(self.job, **blank)
        assert made.grid_profile is not None
        self.assertEqual(made.grid_profile.value("over_voltage_1_v"), 287.5)
        for changes, path in (
            ({"points": every[:-1]}, "points"),
            ({"nominal_v": ""}, "nominal_v"),
            ({"points": [*every, {"id": "magic", "entered": "1"}]}, "points"),
            ({"points": [*every, {"id": FIRST, "entered": "2000 V"}]}, "entered"),
            ({"points": [*every, {"id": MEAN, "entered": "300 V"}]}, "points"),
            ({"operator": ""}, "operator"),
            ({"licence": ""}, "licence"),
            ({"dated": "May"}, "dated"),
        ):
            with self.subTest(**{k: str(v)[:40] for k, v in changes.items()}):
                with self.assertRaises(Refused) as refused:
                    done(self.job, **(blank | changes))
                self.assertIn(path, " ".join(one.path for one in refused.exception.problems))

    def test_taken_out_nothing_is_chosen_and_what_was_read_of_it_is_of_another(self) -> None:
        job = done(self.job, **letter(based_on="en-50549-1"))
        self.assertIsNone(done(job, do="remove_letter").grid.profile)
        self.assertEqual(done(self.job, do="remove_letter").grid.profile, self.job.grid.profile)
        held = written(self.job)
        moved = done(held, **letter(based_on="en-50549-1"))
        judged = {one.rule_id: one.verdict for one in assess(moved).grid.judgements}
        self.assertEqual(judged["settings_profile"], "stop")
