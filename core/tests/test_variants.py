"""Variants of one inverter family on one sheet: asked for, several DC switches, surge, fuses."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

from core.assess import assess
from core.base.errors import Refused
from core.edits.every import read_edit
from core.equipment import catalogue
from core.equipment.catalogue import SHIPPED
from core.files.job import read_job, write_job
from core.job.fingerprints import stamped
from core.job.job import Job
from core.planning.goods.load_list import load_in
from core.tests.samples import sample_job, settled, with_feed, with_reading

FAMILY = catalogue.inverter("veyrick-quay-5")
PLANNED = replace(with_feed(settled(sample_job())), inverter=FAMILY)


def told(name: str, job: Job = PLANNED) -> Job:
    return read_edit({"do": "tell_variant", "name": name}).apply(job, SHIPPED)


def variant_said(job: Job) -> list[str]:
    stage = assess(job).string
    return [one.verdict for one in stage.whole if one.rule_id == "variant_told"]


class Variants(TestCase):
    def test_it_is_asked_for_and_locks_until_it_is_told(self) -> None:
        self.assertEqual(variant_said(PLANNED), ["waiting"])
        self.assertIn("variant_told", {lock.rule_id for lock in assess(PLANNED).locks})
        self.assertEqual(variant_said(told("F5-B")), ["clear"])
        self.assertEqual(variant_said(replace(PLANNED, variant="F9")), ["stop"])
        plain = replace(PLANNED, inverter=catalogue.inverter("veyrick-5"))
        self.assertEqual(variant_said(plain), [])
        with self.assertRaises(Refused) as refused:
            told("F9")
        self.assertIn("F5-A", refused.exception.problems[0].allowed)
        with self.assertRaises(Refused):
            told("F5-A", plain)
        job = told("F5-C")
        self.assertEqual(read_job(write_job(job).encode()).variant, "F5-C")
        take = {"do": "take_sheet", "kind": "inverters", "id": "veyrick-36"}
        self.assertEqual(read_edit(take).apply(job, SHIPPED).variant, "")

    def test_off_is_all_of_its_switches_and_asked_again_once_it_has_more(self) -> None:
        off = stamped(with_reading(told("F5-A"), "dc_switch", "inverter", 1))
        ask = next(one for one in assess(off).asks if one.kind == "dc_switch")
        self.assertIsNotNone(ask.reading)
        self.assertEqual(ask.expected_text, "")
        # Read of one switch it says nothing of two.
        both = next(one for one in assess(told("F5-B", off)).asks if one.kind == "dc_switch")
        self.assertIsNone(both.reading)
        self.assertEqual(both.expected_text, "OFF only when all 2 are")

    def test_built_in_surge_and_fuses_count(self) -> None:
        def surge(job: Job) -> str:
            whole = assess(job).string.whole
            return next(one.verdict for one in whole if one.rule_id == "variant_surge")

        fused = tuple(replace(one, fuse_a=15.0) for one in PLANNED.strings)
        bare = replace(PLANNED.feed, dc=replace(PLANNED.feed.dc, surge="none"))
        job = replace(PLANNED, strings=fused, feed=bare)
        self.assertEqual(surge(told("F5-A", job)), "watch")
        self.assertEqual(surge(told("F5-B", job)), "clear")
        planned = replace(job, feed=replace(bare, dc=replace(bare.dc, surge="2")))
        self.assertEqual(surge(told("F5-A", planned)), "clear")

        def fuses(one: Job) -> float | None:
            return sum(line.count or 0 for line in load_in(one) if line.id == "fuses")

        self.assertEqual(fuses(told("F5-A", job)), 2.0 * len(job.strings))
        self.assertEqual(fuses(told("F5-C", job)), 0.0)
