"""Arrive and Earth: goods counted by hand, substitutes, visits, the earth path."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from unittest import TestCase

from core.assess import assess
from core.assessment.site import EarthLinkState, LoadInLine
from core.base.errors import Refused
from core.edits.arrival import (
    substituted,
    with_first_visit,
    with_item_settled,
    with_open_item,
    with_permit,
)
from core.edits.earth import (
    with_link,
    with_methods,
    with_node,
    with_proposed_path,
    without_link,
    without_node,
)
from core.equipment import catalogue
from core.equipment.cables_switches_fixings import Fixing, Isolator
from core.files.job import read_job
from core.job.arrival import OpenItem
from core.job.earthing import EarthNode
from core.job.job import Job
from core.rules.earth.earth_bonding import continuity_expected
from core.tests.samples import asked, sample_job, settled, with_reading

DEMO = Path(__file__).parent.parent.parent / "server" / "demo" / "jobs"
SETTLED = settled(sample_job())


def lines(job: Job) -> dict[str, LoadInLine]:
    return {line.id: line for line in assess(job).arrive.lines}


def link(job: Job, start: str) -> EarthLinkState:
    return next(one for one in assess(job).earth.links if one.start == start)


class LoadIn(TestCase):
    def test_demo_jobs_counted_by_hand(self) -> None:
        # Lantern House: rows of 6, 5, 2 + 3 and 4 modules make five runs, ten rails, 20 modules.
        lantern = {
            "modules": 20,
            "plugs_array": 2,
            "plugs_inverter": 2,
            "washers": 40,
            "rail_lugs": 10,
            "end_clamps": 20,
            "mid_clamps": 2 * (5 + 4 + 1 + 2 + 3),
            "label_string": 8,
            # Three runs of three cores that are ours; the service cable is the operator's.
            "ferrules": 18,
            "cable dc 4": 71,
            "cable ac 3 x 4": 24,
            "cable ac 3 x 16": 3,
            "label_isolator": 2,
            "lock_screw": 1,
            "gloves": 2,
            # 6 modules: 6 * 1134 + 5 * 20 + 120 mm; likewise for 5, 2, 3 and 4.
            "rail_m": 48,
            "hooks": 2 * (7 + 6 + 4 + 4 + 5),
        }
        ferry = {
            "modules": 27,
            "ferrules": 30,
            "plugs_array": 2,
            "label_string": 8,
            "caps_inputs": 2,
        }
        sail = {"modules": 17, "optimisers": 17, "label_isolator": 2, "washers": 34}
        for name, wanted in (
            ("lantern-house", lantern),
            ("ferry-office", ferry),
            ("sail-loft", sail),
        ):
            found = lines(read_job((DEMO / f"{name}.json").read_bytes()))
            for line, count in wanted.items():
                with self.subTest(job=name, line=line):
                    self.assertEqual(found[line].needed if line in found else 0, count)

    def test_extension_leads_and_caps_follow_the_drawing(self) -> None:
        found = lines(SETTLED)
        self.assertNotIn("extensions", found)
        self.assertNotIn("caps_inputs", found)
        # Every second module left out: each following one needs a lead.
        string = SETTLED.strings[0]
        gappy = replace(
            SETTLED, strings=(replace(string, places=string.places[::2]), SETTLED.strings[1])
        )
        self.assertEqual(lines(gappy)["extensions"].needed, 5)
        one = replace(SETTLED, strings=SETTLED.strings[:1])
        self.assertEqual(lines(one)["caps_inputs"].needed, 2)
        self.assertIsNone(lines(sample_job())["hooks"].needed)

    def test_short_damaged_and_found(self) -> None:
        self.assertEqual(assess(SETTLED).arrive.start.verdict, "watch")
        short = with_reading(SETTLED, "goods_found", "modules", 19, minute=5)
        self.assertEqual(lines(short)["modules"].judgement.verdict, "stop")
        self.assertEqual(assess(short).arrive.start.verdict, "stop")
        broken = with_reading(SETTLED, "goods_damaged", "modules", 1, minute=5)
        self.assertIn("1 damaged", lines(broken)["modules"].judgement.reason)
        few_labels = with_reading(SETTLED, "goods_found", "label_roof", 0, minute=5)
        self.assertEqual(lines(few_labels)["label_roof"].judgement.verdict, "watch")
        self.assertEqual(len(lines(short)["modules"].history), 2)
        # What is counted is no reading of the past.
        self.assertEqual(assess(short).past_readings, ())

    def test_a_substitute_is_judged_again_at_once(self) -> None:
        other = catalogue.inverter("hathmoor-3")
        job = substituted(SETTLED, "inverters", SETTLED.inverter.label, other)
        self.assertEqual(job.arrival.substitutes[0].was, "Veyrick Five")
        self.assertEqual(asked(job, "nameplate_max_dc/inverter").verdict, "watch")
        self.assertEqual(asked(job, "nameplate_model/inverter").verdict, "stop")
        small = catalogue.pick(catalogue.sheets("isolators"), "stobmoor-ac-40", Isolator, "$")
        swapped = substituted(SETTLED, "isolators", "Stobmoor DC 25, four poles", small)
        self.assertEqual(swapped.wall and swapped.wall.devices[1].label, small.label)
        screw = catalogue.pick(catalogue.sheets("fixings"), "wrackley-board-6", Fixing, "$")
        wrong = substituted(SETTLED, "fixings", "Wrackley Frame anchor 10 x 80", screw)
        self.assertEqual(assess(wrong).stages[1].verdict, "stop")
        with self.assertRaises(Refused):
            substituted(SETTLED, "fixings", "not planned", screw)

    def test_a_first_visit_without_the_inverter_is_a_normal_way(self) -> None:
        job = with_first_visit(sample_job(), first_visit=True)
        self.assertEqual(lines(job)["inverters"].judgement.rule_id, "next_visit")
        self.assertTrue(asked(job, "nameplate_model/inverter").optional)
        left = with_open_item(SETTLED, OpenItem(what="Hang it", owner="A", stage=2))
        points = [one for one in assess(left).open_points if one.judgement.rule_id == "left_open"]
        self.assertEqual([(one.stage, one.where) for one in points], [(2, "A")])
        done = assess(with_item_settled(left, 1, settled=True)).open_points
        self.assertNotIn("left_open", {one.judgement.rule_id for one in done})
        with self.assertRaises(Refused):
            with_item_settled(left, 2, settled=True)

    def test_without_a_permit_it_may_be_built(self) -> None:
        start = assess(with_permit(SETTLED, None)).arrive.start
        self.assertEqual((start.verdict, "do not connect" in start.line), ("clear", True))

    def test_nameplates(self) -> None:
        for kind, value, verdict in (
            ("nameplate_max_dc", 550, "stop"),
            ("nameplate_nominal", 240, "stop"),
            ("nameplate_isc", 25, "watch"),
        ):
            job = with_reading(SETTLED, kind, "inverter", value, minute=5)  # type: ignore[arg-type]
            self.assertEqual(asked(job, f"{kind}/inverter").verdict, verdict)
        with self.assertRaises(Refused):
            with_reading(SETTLED, "nameplate_serial", "inverter", 0)


class EarthPath(TestCase):
    def test_a_proposed_path_leads_from_frames_to_the_electrode(self) -> None:
        stage = assess(SETTLED).earth
        self.assertEqual({node.reaches for node in stage.nodes}, {True})
        # The inverter's core as the AC cable's line, 6 mm2; the rails' wire as the pack's least.
        self.assertEqual(link(SETTLED, "Inverter").least_mm2, 6)
        self.assertEqual(link(SETTLED, "Rails West").least_mm2, 4)
        self.assertIn("6-5", link(SETTLED, "Inverter").lug)

    def test_a_proposed_path_is_made_of_sizes_that_exist(self) -> None:
        split = catalogue.inverter("hathmoor-76-split")
        job = sample_job(inverter=split, rule_pack="north-america")
        sizes = {one.section_mm2 for one in with_proposed_path(job).earthing.links} - {None}
        known = {one.section_mm2 for one in job.rules.ac.conductors}
        self.assertLessEqual(sizes, known)
        # 10 AWG is 5.26 mm2: the next size of the table is 6.
        self.assertIn(6, sizes)

    def test_a_path_without_the_inverter_waits(self) -> None:
        lone = with_node(sample_job(), EarthNode(name="Rod", kind="electrode"))
        for job in (lone, without_node(SETTLED, "Inverter")):
            self.assertEqual(assess(job).earth.judgements[0].rule_id, "earth_path")

    def test_planes_with_long_names_make_a_path_too(self) -> None:
        long = "The roof over the old boat store behind the house, sea side"
        job = sample_job()
        for plane, name in (("East", long), ("West", f"{long[:-1]}E")):
            planes = tuple(replace(p, name=name) if p.name == plane else p for p in job.planes)
            strings = tuple(replace(s, plane=name) if s.plane == plane else s for s in job.strings)
            job = replace(job, planes=planes, strings=strings)
        self.assertEqual(
            {node.reaches for node in assess(with_proposed_path(job)).earth.nodes}, {True}
        )

    def test_a_bond_to_rails_that_are_not_bonded_stops(self) -> None:
        cut = without_link(SETTLED, "Rails West → Main earth terminal")
        wrong = [one for one in assess(cut).earth.judgements if one.verdict == "stop"]
        self.assertEqual({one.rule_id for one in wrong}, {"bond_reaches_earth"})
        self.assertIn("Rails East", wrong[0].reason)
        # The reading of the step that is gone stays with the job.
        self.assertIn(
            "Rails West → Main earth terminal · continuity",
            [one.title for one in assess(cut).past_readings],
        )
        balcony = with_node(SETTLED, EarthNode(name="Balcony", kind="other"))
        self.assertEqual(assess(balcony).stages[2].verdict, "stop")
        self.assertEqual(assess(without_node(balcony, "Balcony")).earth, assess(SETTLED).earth)

    def test_schools_change_the_path(self) -> None:
        wired = with_methods(SETTLED, "wire", "none", lightning=False)
        self.assertEqual([one.how for one in assess(wired).earth.links[:1]], ["wire"])
        rods = with_methods(SETTLED, "washer", "none", lightning=True)
        self.assertEqual(link(rods, "Rails West").least_mm2, 16)
        none = with_methods(SETTLED, "none", "none", lightning=False)
        self.assertNotIn("frames", {node.kind for node in assess(none).earth.nodes})
        self.assertIn(
            "roof_bonding",
            {one.rule_id for one in assess(none).earth.judgements if one.verdict == "watch"},
        )
        pole = with_methods(SETTLED, "washer", "minus", lightning=False)
        self.assertIn(
            "array_pole",
            {one.rule_id for one in assess(pole).earth.judgements if one.verdict == "stop"},
        )
        self.assertEqual(pole.earthing.links, SETTLED.earthing.links)

    def test_continuity_waits_for_nulled_leads_and_enough_current(self) -> None:
        fresh = with_proposed_path(sample_job())
        key = "continuity/Inverter → Main earth terminal"
        read = with_reading(fresh, "continuity", "Inverter → Main earth terminal", 0.08)
        self.assertEqual(asked(read, key).verdict, "waiting")
        nulled = with_reading(
            with_reading(read, "lead_null", "earth", 1), "test_current", "earth", 0.21
        )
        self.assertEqual(asked(nulled, key).verdict, "clear")
        self.assertEqual(
            asked(with_reading(nulled, "test_current", "earth", 0.1, minute=2), key).verdict,
            "waiting",
        )
        # 20 m of 6 mm2 as the plan has it: 3.08 ohm/km.
        band = continuity_expected(length_m=20, r20_ohm_per_km=3.08)
        self.assertEqual(asked(nulled, key).expected_high, band.high_ohm)
        loose = with_reading(nulled, "continuity", "Inverter → Main earth terminal", 0.3, minute=2)
        self.assertEqual(asked(loose, key).verdict, "stop")

    def test_sizes_and_lugs(self) -> None:
        rails = next(one for one in SETTLED.earthing.links if one.start == "Rails West")
        thin = with_link(SETTLED, rails.name, replace(rails, section_mm2=2.5))
        self.assertEqual(link(thin, "Rails West").verdict, "stop")
        big_stud = with_link(SETTLED, rails.name, replace(rails, stud_mm=12.0))
        self.assertEqual(link(big_stud, "Rails West").verdict, "stop")
        with self.assertRaises(Refused):
            with_link(SETTLED, rails.name, replace(rails, end="Nowhere"))
