"""A battery by its sheet: on the list, in the window, behind its fuse; each thing that is not."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from unittest import TestCase

from core.assess import assess
from core.base.errors import Refused
from core.edits.every import read_edit
from core.equipment import catalogue
from core.equipment.battery import Battery
from core.equipment.catalogue import SHIPPED
from core.job.job import Job
from core.tests.samples import sample_job, settled, wired_roof, with_feed

EIGHT = catalogue.inverter("veyrick-8-battery")
BUILT = replace(with_feed(settled(sample_job())), inverter=EIGHT)
LEADS = {"length_m": "3 m", "section_mm2": "16 mm²", "fuse_a": "63 A", "fuse_rated_v": "1000 V",
         "fuse_breaks_a": "20000 A"}  # fmt: skip


def planned(job: Job = BUILT, leads: dict[str, str] | None = LEADS, **changes: Any) -> Job:
    battery = {"units": "3", "most_units": "4", "discharge_a": "40 A", "breaker_a": "50 A",
               "approved": False, "sheet": "veyrick-store-hv5", "leads": leads}  # fmt: skip
    edit = {"do": "put_backup", "limit_a": "40 A", "three_phase": False, "shutdown_line": True,
            "battery": battery | changes}  # fmt: skip
    return read_edit(edit).apply(job, SHIPPED)


def said(job: Job) -> dict[str, tuple[str, float | None]]:
    backup = assess(job).feed.backup
    return {
        one.rule_id: (one.verdict, one.value)
        for one in backup.judgements
        if one.rule_id.startswith("battery")
    }


class BesideRoofUnits(TestCase):
    def test_what_the_controller_holds_back_is_asked_and_judged(self) -> None:
        roof = wired_roof()
        units_va = roof.source.rated_ac_w
        for limit, verdict in (("", "waiting"), (f"{units_va:g} VA", "clear"), ("400 VA", "stop")):
            edit = {"do": "put_backup", "limit_a": "40 A", "three_phase": False,
                    "shutdown_line": True, "battery": None, "units_va": limit}  # fmt: skip
            job = read_edit(edit).apply(roof, SHIPPED)
            said = next(
                one for one in assess(job).feed.backup.judgements if one.rule_id == "backup_units"
            )
            self.assertEqual(said.verdict, verdict, said.reason)
            self.assertEqual(assess(job).wake.offers[0].id, "micro_backup")
        walled = planned()
        self.assertNotIn("backup_units", {o.rule_id for o in assess(walled).feed.backup.judgements})


class OnTheInput(TestCase):
    def test_a_sound_battery_is_clear_throughout(self) -> None:
        found = said(planned())
        self.assertEqual({verdict for verdict, _ in found.values()}, {"clear"}, found)
        # 8000 W at 0.96 from 180 V over 6 m of 16 mm²: a little over 46 A, held to the input's 40.
        self.assertAlmostEqual(found["battery_unit_current"][1], 40 / 3)
        self.assertAlmostEqual(found["battery_window"][1], 180)

    def test_each_thing_that_is_wrong_stops(self) -> None:
        port = EIGHT.battery
        not_released = replace(EIGHT, battery=replace(port, released=False))
        no_input = catalogue.inverter("veyrick-5")
        for job, rule in (
            (planned(sheet="marram-bank-51"), "battery_window"),
            (planned(replace(BUILT, inverter=not_released)), "battery_released"),
            (planned(replace(BUILT, inverter=no_input)), "battery_input"),
            (planned(replace(BUILT, inverter=no_input)), "battery_approved"),
            (planned(units="5"), "battery_count"),
            (planned(units="1"), "battery_unit_current"),
            (planned(breaker_a="32 A"), "battery_breaker"),
            (planned(leads=LEADS | {"fuse_a": "40 A"}), "battery_fuse"),
            (planned(leads=LEADS | {"section_mm2": "4 mm²"}), "battery_cable"),
            (planned(leads=LEADS | {"fuse_rated_v": "80 V"}), "battery_fuse_v"),
            (planned(leads=LEADS | {"fuse_breaks_a": "1000 A"}), "battery_breaks"),
        ):
            with self.subTest(rule=rule):
                self.assertEqual(said(job)[rule][0], "stop")
                self.assertIn(rule, {lock.rule_id for lock in assess(job).locks})

    def test_what_is_not_known_waits(self) -> None:
        unknown = replace(BUILT, inverter=replace(EIGHT, battery=None))
        for job, rule in (
            (planned(leads=None), "battery_fuse"),
            (planned(unknown), "battery_window"),
            (planned(leads=LEADS | {"section_mm2": "95 mm²"}), "battery_fuse"),
        ):
            with self.subTest(rule=rule):
                self.assertEqual(said(job)[rule][0], "waiting")

    def test_on_the_ac_side_it_needs_no_input(self) -> None:
        found = said(planned(sheet="skerrow-keep-5", leads=None, breaker_a="63 A"))
        self.assertEqual(set(found), {"battery_approved", "battery_count", "battery_breaker"})
        # Three units of 16.7 A behind 63 A, not the 40 A that was typed.
        self.assertEqual(found["battery_breaker"], ("clear", 63))
        small = said(planned(sheet="skerrow-keep-5", leads=None, breaker_a="50 A"))
        self.assertEqual(small["battery_breaker"][0], "stop")

    def test_wrong_entries_and_sheets_that_say_too_little(self) -> None:
        for changes, path in (
            ({"leads": LEADS | {"length_m": "long"}}, "length_m"),
            ({"sheet": "moon"}, "batteries"),
            ({"units": "0"}, "units"),
        ):
            with self.subTest(path=path), self.assertRaises(Refused) as refused:
                planned(**changes)
            self.assertIn(path, refused.exception.problems[0].path)
        sheet = catalogue.pick(catalogue.sheets("batteries"), "marram-bank-51", Battery, "$")
        for changes in ({"unit_v_max": 40.0}, {"internal_ohm": None}):
            with self.assertRaises(Refused):
                replace(sheet, **changes)
