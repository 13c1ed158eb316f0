"""The day over the API: laid for the demo's jobs, moved, refused, said why it does not fit."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import date, timedelta
from typing import Any

from django.test import Client, TestCase

from core.files.job import read_job, write_job
from core.job.day import DayLayout, PlannedVisit
from core.tests.golden import DEMO
from server.day.views import day_view
from server.people.membership import add_person, found_crew


class Day(TestCase):
    def setUp(self) -> None:
        owner = add_person(found_crew("Fenn"), "ada", "owner", "a long way to the sea", "Ada Fenn")
        self.client = Client()
        self.client.force_login(owner)

    def taken_in(self, name: str, visits: int) -> str:
        job = read_job((DEMO / f"{name}.json").read_bytes())
        days = tuple(
            PlannedVisit(number=n + 1, day=job.day + timedelta(days=n)) for n in range(visits)
        )
        roof = tuple(one.name for one in job.arrival.crew)
        job = replace(job, days=DayLayout(visits=days, roof=roof, sky=1.0))
        raw = write_job(job).encode()
        answer = self.client.post("/api/jobs/file", raw, content_type="application/json")
        self.assertEqual(answer.status_code, 201, answer.content)
        return str(answer.json()["id"])

    def day(self, job: str, **query: Any) -> Any:
        return self.client.get(f"/api/jobs/{job}/day", query).json()

    def edit(self, job: str, **edit: Any) -> Any:
        revision = self.client.get(f"/api/jobs/{job}").json()["revision"]
        body = json.dumps({"revision": revision, "edit": edit})
        return self.client.post(f"/api/jobs/{job}/edits", body, content_type="application/json")

    def test_a_job_is_laid_and_a_task_that_is_moved_says_what_it_breaks(self) -> None:
        job = self.taken_in("slipway-cottage", 3)
        laid = self.day(job)
        self.assertIn(laid["standing"], ("best", "good"))
        self.assertEqual(laid["broken"], [])
        self.assertTrue(all(one["why"] for one in laid["tasks"]))
        self.assertEqual(self.day(job), laid)
        on = next(one for one in laid["tasks"] if one["id"] == "switch_on")
        early = {"moved": [{"task": "switch_on", "start_min": 450}]}
        path = f"/api/jobs/{job}/day"
        tried = self.client.post(path, json.dumps(early), content_type="application/json").json()
        self.assertTrue(any(one["rule"] == "after" for one in tried["broken"]))
        self.assertEqual(self.day(job)["tasks"], laid["tasks"])
        self.assertGreater(on["start_min"], 450)

    def test_a_day_that_does_not_fit_says_what_would_let_it(self) -> None:
        laid = self.day(self.taken_in("sail-loft", 1))
        self.assertEqual(laid["standing"], "impossible")
        self.assertEqual(laid["line"], "It does not fit.")

    def test_a_task_is_put_where_it_is_typed_and_laid_again(self) -> None:
        job = self.taken_in("slipway-cottage", 3)
        for task, visit, at in (("labels", 3, "11:02"), ("hand_over", 3, "12:07")):
            answer = self.edit(job, do="move_task", task=task, visit=visit, at=at)
            self.assertEqual(answer.status_code, 200, answer.content)
            put = next(one for one in self.day(job)["tasks"] if one["id"] == task)
            self.assertEqual((put["visit"], put["clock"][-5:], put["moved"]), (visit - 1, at, True))
            self.assertIn("by hand", put["why"])
        self.edit(job, do="move_task", task="labels")
        labels = next(one for one in self.day(job)["tasks"] if one["id"] == "labels")
        self.assertFalse(labels["moved"])

    def test_without_anybody_for_the_roof_it_says_so_and_what_would_help(self) -> None:
        job = self.taken_in("slipway-cottage", 3)
        self.assertEqual(self.edit(job, do="set_days", roof=[], sky="1").status_code, 200)
        laid = self.day(job)
        self.assertEqual(laid["standing"], "impossible")
        self.assertTrue(any("who go on the roof; there are 0" in one for one in laid["nowhere"]))
        relaxed = self.client.get(f"/api/jobs/{job}/day/relax").json()
        self.assertIn("The crew may be on the roof", [one["what"] for one in relaxed])

    def test_who_may_be_on_the_roof_is_ticked_and_kept(self) -> None:
        job = self.taken_in("slipway-cottage", 1)
        crew = self.client.get(f"/api/jobs/{job}").json()["plan"]["arrival"]["crew"]
        names = [one["name"] for one in crew][:1]
        answer = self.edit(job, do="set_days", roof=names, sky="0.5")
        self.assertEqual(answer.status_code, 200, answer.content)
        days = self.client.get(f"/api/jobs/{job}").json()["plan"]["days"]
        self.assertEqual((days["roof"], days["sky"]), (names, 0.5))

    def test_the_sun_over_a_visit_on_the_day_of_a_clock_change(self) -> None:
        job = read_job((DEMO / "slipway-cottage.json").read_bytes())
        noons, bands = [], []
        for day in (date(2026, 3, 28), date(2026, 3, 29), date(2026, 3, 30)):
            days = DayLayout(visits=(PlannedVisit(number=1, day=day),), sky=1.0)
            laid = day_view(replace(job, day=day, days=days))
            noons.append(laid.visits[0].noon_min)
            bands.append(laid.bands[0].spans[0])
        self.assertAlmostEqual(noons[1] - noons[0], 60, delta=2)
        self.assertAlmostEqual(noons[2], noons[1], delta=2)
        for before, after, by in ((bands[0], bands[1], 60), (bands[1], bands[2], 0)):
            self.assertAlmostEqual(after.start_min - before.start_min, by, delta=10)
            self.assertAlmostEqual(after.end_min - before.end_min, by, delta=10)

    def test_what_is_typed_wrong_is_refused(self) -> None:
        job = self.taken_in("slipway-cottage", 1)
        for wrong in (
            {"do": "put_visit", "day": "2026-11-24", "begins": "noon"},
            {"do": "put_visit", "day": "2026-11-24", "begins": "16:00", "ends": "08:00"},
            {"do": "put_visit", "day": "2026-11-24", "begins": "24:30"},
            {"do": "remove_visit", "number": 7},
            {"do": "set_days", "roof": ["Nobody here"], "sky": "0.6"},
            {"do": "set_days", "roof": [], "sky": "7"},
            {"do": "set_days", "roof": [], "sky": "0.6", "dark_begins": "10:00"},
            {"do": "move_task", "task": "sleep", "at": "10:00"},
            {"do": "move_task", "task": "labels", "visit": 9, "at": "10:00"},
            {"do": "set_late_goods", "what": "the moon", "day": "2026-11-24"},
        ):
            self.assertEqual(self.edit(job, **wrong).status_code, 422, wrong)
        bad = self.client.get(f"/api/jobs/{job}/day", {"goal": "fun"})
        self.assertEqual(bad.status_code, 422)
