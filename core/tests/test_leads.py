"""What comes next, and where what is missing is entered: on every job, at every moment."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from unittest import TestCase

from core.assess import assess
from core.base.messages import table
from core.base.stage_numbers import LEAVE, PROVE
from core.edits.new_job import NewJob, begun
from core.equipment.catalogue import SHIPPED
from core.job.testers import NO_TESTERS
from core.stages.leads import leads
from core.tests.test_begin import ID, UNITS, WALL
from core.tests.test_sums import demo_jobs

RULES = {"rule_pack": "uk-small"}


class Leads(TestCase):
    def test_every_rule_and_need_that_leads_somewhere_is_one(self) -> None:
        known = {one for one in table() if {"title", "waiting"} & set(table()[one])}
        for step in leads().next:
            self.assertLessEqual(set(step.rules), known)
            for words in ("next_does", "next_why"):
                self.assertIn(step.does, table()[words])
        self.assertLessEqual({one.of for one in leads().rules}, known)
        self.assertLessEqual({one.of for one in leads().needs}, set(table()["needs"]))

    def test_whatever_waits_leads_to_where_it_is_entered(self) -> None:
        for job in demo_jobs():
            said = assess(job)
            keys = {ask.key: ask for ask in said.asks}
            for point in said.open_points:
                with self.subTest(job=job.name, rule=point.judgement.rule_id):
                    is_waiting = point.judgement.verdict == "waiting"
                    self.assertEqual(point.lead is not None, is_waiting)
                    if point.lead and point.lead.key in keys:
                        ask = keys[point.lead.key]
                        self.assertIn(point.lead.stage, (ask.stage, *ask.also_at, point.stage))

    def test_a_new_job_is_led_through_its_plan_before_its_goods(self) -> None:
        for typed in (WALL | {"roof": ""}, WALL | UNITS | {"roof": ""}):
            job = begun(NewJob(**typed, **RULES), SHIPPED, job_id=ID, today=date(2026, 11, 30))
            said = assess(job)
            assert said.next is not None
            self.assertEqual(said.next.does, "Say what lies on the roof")
            self.assertEqual(said.next.lead.stage, 4)
        job = begun(
            NewJob(**WALL, **RULES, strung="1"), SHIPPED, job_id=ID, today=date(2026, 11, 30)
        )
        said = assess(job)
        assert said.next is not None
        self.assertEqual((said.next.lead.stage, said.next.lead.key), (5, ""))

    def test_a_stop_comes_before_everything_and_the_tester_before_the_first_test(self) -> None:
        for job in demo_jobs():
            said = assess(job)
            stops = [one for one in said.open_points if one.judgement.verdict == "stop"]
            if stops:
                first = min(stops, key=lambda one: one.stage)
                assert said.next is not None
                self.assertEqual(said.next.lead.stage, first.stage)
            elif job.testing.instruments and said.next is not None:
                bare = assess(replace(job, testing=NO_TESTERS)).next
                tests = {test.key for group in said.prove.groups for test in group.tests}
                if said.next.lead.key in tests:
                    assert bare is not None
                    self.assertEqual((bare.does, bare.lead.stage), ("Name the tester", PROVE))

    def test_where_nothing_is_left_but_the_signature_that_is_next(self) -> None:
        signed_next = [
            said.next.lead.stage
            for job in demo_jobs()
            if (said := assess(job)).next is not None and said.stands_at == LEAVE
        ]
        self.assertTrue(signed_next)
        self.assertEqual(set(signed_next), {LEAVE})
