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


# Two units of 16.7 A and 5 kWh on the AC side, kitchen and lights, a controller of 63 A.
AC_SIDE = {"units": "2", "most_units": "3", "discharge_a": "34 A", "breaker_a": "40 A",
           "approved": False, "sheet": "skerrow-keep-5", "leads": None}  # fmt: skip
ALONE = {"do": "put_backup", "limit_a": "40 A", "three_phase": False, "shutdown_line": True,
         "battery": AC_SIDE, "controller": "skerrow-harbour-63", "neutral_link": "unit",
         "residual": "30", "wanted_h": "1.5 h"}  # fmt: skip
KITCHEN = {"do": "put_load", "was": None, "name": "Kitchen", "phase": "1", "current_a": "16 A",
           "backed_up": True, "inrush": "3"}  # fmt: skip
LIGHTS = KITCHEN | {"name": "Lights", "current_a": "6 A", "inrush": "1"}
OVEN = KITCHEN | {"name": "Oven", "current_a": "14 A", "backed_up": False}


def edited(job: Job, *edits: dict[str, Any]) -> Job:
    for edit in edits:
        job = read_edit(edit).apply(job, SHIPPED)
    return job


class OnItsOwn(TestCase):
    """The house while the supply is gone."""

    def alone(self, job: Job = BUILT, **changes: Any) -> Any:
        return assess(edited(job, ALONE | changes, KITCHEN, LIGHTS, OVEN)).feed.backup

    def judged(self, backup: Any) -> dict[str, tuple[str, float | None]]:
        return {one.rule_id: (one.verdict, one.value) for one in backup.judgements}

    def test_what_runs_how_it_starts_and_how_long_it_lasts(self) -> None:
        backup = self.alone()
        found = self.judged(backup)
        # 22 A run; the kitchen's start adds two times its own 16 A.
        self.assertEqual(found["backup_start"], ("clear", 54))
        self.assertEqual(found["island_from_battery"], ("clear", 22))
        # 10 kWh over 22 A at 230 V and the standby of two units.
        self.assertAlmostEqual(backup.lasts_h, 10 / (22 * 0.23 + 2 * 0.018))
        self.assertEqual(found["backup_hours"][0], "clear")
        self.assertIn("run: Kitchen, Lights. These do not: Oven", backup.alone)
        self.assertNotIn("stop", {verdict for verdict, _ in found.values()})

    def test_each_thing_that_is_wrong_is_said(self) -> None:
        on_three = {"three_phase": True, "battery": AC_SIDE | {"phase": "2"}}
        for changes, rule, verdict in (
            (
                {"controller": "stobmoor-change-40", "neutral_link": "unit"},
                "island_neutral",
                "stop",
            ),
            ({"neutral_link": "fixed"}, "island_neutral", "stop"),
            ({"neutral_link": "none"}, "island_neutral", "stop"),
            ({"neutral_link": None}, "island_neutral", "waiting"),
            ({"residual": "more"}, "island_residual", "watch"),
            ({"residual": "none"}, "island_residual", "stop"),
            ({"residual": None}, "island_residual", "waiting"),
            ({"controller": "stobmoor-change-40"}, "backup_start", "stop"),
            ({"controller": "veyrick-hold-3"}, "controller_listed", "clear"),
            (on_three, "controller_phases", "stop"),
            (on_three, "island_reached", "watch"),
            ({"battery": AC_SIDE | {"units": "1"}}, "island_from_battery", "stop"),
            ({"wanted_h": "3 h"}, "backup_hours", "watch"),
        ):
            with self.subTest(changes=changes):
                self.assertEqual(self.judged(self.alone(**changes))[rule][0], verdict)
        other = replace(BUILT, inverter=catalogue.inverter("veyrick-5"))
        found = self.judged(self.alone(other, controller="veyrick-hold-3"))
        self.assertEqual(found["controller_listed"][0], "stop")

    def test_what_came_instead_is_judged_by_its_own_sheet(self) -> None:
        job = edited(BUILT, ALONE, KITCHEN)
        backup = job.feed.backup
        board = next(one for one in job.feed.devices if one.breaker is not None)
        other = next(one for one in catalogue.sheets("breakers") if one != board.breaker)
        for kind, was, came, held in (
            ("backup_units", backup.controller.label, "stobmoor-change-40",
             lambda made: made.feed.backup.controller),
            ("batteries", backup.battery.sheet.label, "marram-bank-51",
             lambda made: made.feed.backup.battery.sheet),
            ("breakers", board.breaker.label, other.id,
             lambda made: made.feed.device(board.name).breaker),
        ):  # fmt: skip
            swap = {"do": "substitute", "kind": kind, "was": was, "id": came}
            with self.subTest(kind=kind):
                self.assertEqual(held(edited(job, swap)).id, came)
                with self.assertRaises(Refused):
                    edited(job, swap | {"was": "Moon 1"})

    def test_what_was_asked_of_it_waits_while_no_sheet_says(self) -> None:
        by_hand = {"battery": AC_SIDE | {"sheet": ""}}
        found = self.judged(self.alone(**by_hand))
        self.assertEqual(found["backup_start"][0], "waiting")
        self.assertEqual(found["backup_hours"][0], "waiting")
        plain = assess(edited(BUILT, ALONE | by_hand | {"wanted_h": ""}, LIGHTS)).feed.backup
        self.assertNotIn("waiting", {verdict for verdict, _ in self.judged(plain).values()})

    def test_the_largest_loads_that_may_be_typed_are_judged(self) -> None:
        for phase, three in (("1", False), ("0", True)):
            most = KITCHEN | {"current_a": "2000 A", "phase": phase, "inrush": "20"}
            backup = assess(edited(BUILT, ALONE | {"three_phase": three}, most)).feed.backup
            self.assertEqual(self.judged(backup)["backup_start"][0], "stop")

    def test_a_controller_by_its_sheet_counts_before_what_was_typed(self) -> None:
        roof = edited(wired_roof(), ALONE | {"battery": None, "units_va": "100 VA"}, LIGHTS)
        backup = assess(roof).feed.backup
        self.assertEqual(self.judged(backup)["backup_units"][0], "clear")
        self.assertEqual({one.limit_a for one in backup.phases}, {63})
        plain = edited(roof, ALONE | {"battery": None, "controller": "stobmoor-change-40"})
        self.assertEqual(self.judged(assess(plain).feed.backup)["backup_units"][0], "waiting")
        gone = edited(plain, ALONE | {"battery": None, "controller": ""})
        self.assertEqual({one.limit_a for one in assess(gone).feed.backup.phases}, {40})


WALL = {"do": "draw_wall", "kind": "solid", "width_mm": "6000", "height_mm": "2600",
        "thickness_mm": "225", "azimuth_deg": "0", "front_mm": "1000", "eave_mm": "0",
        "eave_height_mm": "", "datum_mm": "1500", "stud_first_mm": "", "stud_pitch_mm": "",
        "board_edges_mm": [], "reach": "readable", "outdoors": False, "combustible": False,
        "room": "garage", "on_way_out": False}  # fmt: skip
DOOR = {"do": "put_object", "was": None, "name": "Door", "kind": "door", "x_mm": "200",
        "y_mm": "0", "width_mm": "900", "height_mm": "2000", "opens": "no"}  # fmt: skip
HUNG = {"do": "hang_device", "name": "Store", "kind": "battery", "sheet": "veyrick-battery-10",
        "x_mm": "2400", "y_mm": "400"}  # fmt: skip


class WhereItHangs(TestCase):
    def test_room_way_out_openings_and_what_is_below(self) -> None:
        own = {"do": "hang_device", "name": "Own", "kind": "inverter", "sheet": None,
               "x_mm": "2500", "y_mm": "200"}  # fmt: skip
        for changes, pack, rule, verdict in (
            ({}, "generic-iec", "battery_room", "clear"),
            ({"room": "bedroom"}, "generic-iec", "battery_room", "stop"),
            ({"room": "living"}, "generic-iec", "battery_room", "stop"),
            ({"room": "living"}, "uk-small", "battery_room", "clear"),
            ({"room": None}, "generic-iec", "battery_room", "waiting"),
            ({"room": None, "outdoors": True}, "generic-iec", "battery_room", "clear"),
            ({"on_way_out": True}, "generic-iec", "battery_way_out", "stop"),
            ({"on_way_out": None}, "generic-iec", "battery_way_out", "waiting"),
            ({}, "generic-iec", "battery_opening", "clear"),
            ({"x_mm": "1700"}, "generic-iec", "battery_opening", "stop"),
            ({"x_mm": "1700"}, "australia-nz", "battery_opening", "watch"),
            ({}, "generic-iec", "battery_below", "clear"),
            ({"y_mm": "1100"}, "generic-iec", "battery_below", "watch"),
        ):
            with self.subTest(changes=changes, rule=rule):
                place = {key: changes[key] for key in ("x_mm", "y_mm") if key in changes}
                told = {key: value for key, value in changes.items() if key not in place}
                job = edited(replace(BUILT, rule_pack=pack), WALL | told, DOOR, own, HUNG | place)
                judged = next(d for d in assess(job).hang.devices if d.name == "Store").judgements
                found = next(one for one in judged if one.rule_id == rule)
                self.assertEqual(found.verdict, verdict, found.reason)


class Meters(TestCase):
    def test_a_meter_by_its_sheet(self) -> None:
        put = {"do": "put_feed_device", "was": None, "name": "Meter", "kind": "meter",
               "breaker": None, "isolator": None, "busbar_a": "", "supply_a": "",
               "far_end": False, "surge": "none", "outdoors": False, "entry": "bottom",
               "meter": "fenbrow-m1-100"}  # fmt: skip
        for service, verdict in (("single", "clear"), ("three", "stop")):
            supply = {"do": "set_supply", "service": service, "earth_system": "TN", "phase": "1"}
            job = edited(BUILT, supply, put)
            meter = next(one for one in assess(job).feed.devices if one.name == "Meter")
            found = {one.rule_id: one.verdict for one in meter.judgements}
            self.assertEqual(found["meter_phases"], verdict)
            self.assertEqual((found["meter_carries"], found["meter_two_way"]), ("clear", "clear"))
            self.assertIn("Fenbrow", meter.title)
