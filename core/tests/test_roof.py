"""A roof of microinverters as a whole: proposals, edits, trunk, map, gateway, swap, interlocks."""

from __future__ import annotations

import json
from collections import Counter
from dataclasses import replace
from datetime import timedelta
from functools import cache
from pathlib import Path
from typing import Any
from unittest import TestCase

from hypothesis import assume, given, settings
from hypothesis import strategies as st

from core.assess import assess
from core.assessment.microinverter import BranchState, RoofStage, UnitState
from core.base.errors import Refused
from core.base.form import read, write
from core.edits.microinverter.branches import (
    painted_branch,
    set_branch,
    with_branch,
    with_link,
    without_branch,
)
from core.edits.microinverter.roof import with_gap
from core.edits.microinverter.units import (
    moved_unit,
    with_offer,
    with_unit,
    with_unit_modules,
    without_unit,
)
from core.edits.planes import ShapePlane, shaped, without_plane
from core.equipment.catalogue import SHIPPED
from core.equipment.linked_trunk import LinkPiece
from core.files.job import read_job, write_job
from core.files.serial_map import map_csv, map_json, read_map
from core.interlocks import refuse_if_locked
from core.job.arrival import Arrival
from core.job.fingerprints import stamped
from core.job.job import Job
from core.job.microinverter import SWAP_STEPS, GatewayUnit, MicroPlan
from core.job.reading_values import Answer
from core.job.roof import ModulePlace, Plane
from core.planning.goods.load_list import load_in
from core.planning.microinverter.branches import branch_offers
from core.planning.microinverter.parts import roof_of
from core.rules.microinverter.trunk import trunk_cut
from core.sheets.serial_map import map_sheets
from core.tests.commissioned import listed, looked, mapped, serial_of, sound_roof
from core.tests.samples import NOON, micro_job, wired_roof, with_reading

ROOF = micro_job()
WIRED = wired_roof()
DEMO = Path(__file__).parents[2] / "server" / "demo" / "jobs" / "slipway-cottage.json"


def roof(job: Job) -> RoofStage:
    stage = assess(job).roof
    assert stage is not None
    return stage


def unit(job: Job, name: str) -> UnitState:
    return next(one for one in roof(job).units if one.name == name)


def branch(job: Job, name: str) -> BranchState:
    return next(one for one in roof(job).branches if one.name == name)


@cache
def ready() -> Job:
    """A roof whose branches may all be ON."""
    return sound_roof()


def refused(test: TestCase, said: str, make: object) -> None:
    with test.assertRaises(Refused) as caught:
        make()  # type: ignore[operator]
    words = " ".join(one.message + one.allowed for one in caught.exception.problems)
    test.assertIn(said, words.replace("\u00a0", " "))


class Proposals(TestCase):
    @settings(max_examples=30, deadline=None)
    @given(
        rows=st.lists(
            st.text("##.", min_size=1, max_size=12).filter(lambda row: "#" in row),
            min_size=1, max_size=4,
        ),
        pairs=st.booleans(),
        three=st.booleans(),
    )  # fmt: skip
    def test_every_module_has_a_unit_and_every_unit_a_branch_within_the_limits(
        self, rows: list[str], pairs: bool, three: bool
    ) -> None:
        kind = "skerrow-tern-duo-800" if pairs else "skerrow-tern-400"
        drawn = {f"P{n}": (row,) for n, row in enumerate(rows)}
        job = micro_job(drawn, unit=kind)
        job = replace(job, micro=replace(job.roof_plan, branches=(), three_phase=three))
        found = branch_offers(job)
        inputs = job.roof_plan.unit.inputs
        modules = [place for one in found.units for place in one.modules]
        self.assertEqual(len(modules), sum(row.count("#") for row in rows))
        self.assertEqual(len(set(modules)), len(modules))
        runs = [len(run) for row in rows for run in row.split(".") if run]
        along_runs = sum(-(-run // inputs) for run in runs)
        self.assertLessEqual(len(found.units), along_runs)
        self.assertGreaterEqual(len(found.units), -(-len(modules) // inputs))
        if not pairs:
            self.assertEqual(len(found.units), along_runs)
        for offer in found.offers:
            names = [name for one in offer.branches for name in one]
            self.assertEqual(Counter(names), Counter(one.name for one in found.units))
            self.assertLessEqual(max(offer.counts), found.most.most)
            self.assertEqual(all(phase > 0 for phase in offer.phases), three)
        ranked = [len(one.branches) for one in found.offers if not three]
        self.assertEqual(ranked, sorted(ranked))

    def test_odd_ones_share_a_unit_over_rows_and_across_a_gap(self) -> None:
        # Along the rows alone: 4, 9 and 3.
        for rows, units in (
            (("###", "###"), 3),
            (("#######.#########",), 8),
            (("#.....#", "#"), 2),
        ):
            job = micro_job({"P": rows}, unit="skerrow-tern-duo-800")
            planes = (replace(job.planes[0], gaps=()),)
            job = replace(job, planes=planes, micro=replace(job.roof_plan, branches=(), units=()))
            taken = with_offer(job, 0)
            self.assertEqual(len(taken.roof_plan.units), units, rows)
            for one in roof(taken).units:
                hung = {judged.rule_id: judged.verdict for judged in one.judgements}
                self.assertNotIn("stop", (hung["lead_reach"], hung["unit_under_modules"]), one.name)

    @settings(max_examples=30)
    @given(
        row=st.text("##.", min_size=2, max_size=16).filter(lambda row: row.count("#") > 1),
        feed=st.sampled_from(("end", "centre")),
        gaps=st.sampled_from(("skip", "extension")),
    )
    def test_proposal_cut_list_and_load_in_count_one_trunk(
        self, row: str, feed: Any, gaps: Any
    ) -> None:
        job = micro_job({"P": (row,)})
        # A longer row goes on two branches, each with a trunk of its own.
        assume(len(job.roof_plan.branches) == 1)
        branch = job.roof_plan.branches[0]
        plan = replace(job.roof_plan, gaps=gaps, branches=(replace(branch, feed=feed),))
        job = replace(job, micro=plan)
        trunk = roof_of(job).trunks[branch.name]
        cut = trunk_cut(
            distances_m=tuple(link.distance_m for link in trunk.links),
            bridged_by=(gaps,) * len(trunk.links),
            pitch_m=plan.trunk.pitch_m,
            extension_m=plan.trunk.extension_m,
            feed=feed,
        )
        self.assertEqual(tuple(one.drops for one in trunk.cuts), cut.pieces_segments)
        self.assertEqual(
            (trunk.parts.segments, trunk.parts.sealing_caps, trunk.parts.extensions),
            (cut.drops, cut.sealing_caps, cut.extensions),
        )
        self.assertAlmostEqual(sum(one.length_m for one in trunk.cuts), cut.length_m)
        drops = next(one for one in load_in(job) if one.id == "trunk_drops")
        self.assertEqual(drops.count, cut.drops)

    def test_phases_are_loaded_alike_where_the_count_allows_it(self) -> None:
        job = micro_job({"P": ("#" * 30,)})
        job = replace(job, micro=replace(job.roof_plan, branches=(), three_phase=True))
        best = branch_offers(job).offers[0]
        self.assertEqual((best.counts, sorted(best.phases)), ((10, 10, 10), [1, 2, 3]))
        taken = with_offer(job, 0)
        self.assertEqual(roof(taken).phase_units, (10, 10, 10))
        self.assertEqual(roof(taken).branches[0].phase_name, "L1")

    def test_four_hundred_modules_are_proposed_printed_and_judged(self) -> None:
        drawn = {f"P{n}": ("#" * 20,) * 5 for n in range(4)}
        job = micro_job(drawn)
        self.assertEqual(len(job.roof_plan.units), 400)
        self.assertEqual(len(map_sheets(job, roof(job), "today")), 4)
        self.assertEqual(read_job(write_job(job).encode()), stamped(job))
        more = replace(job.planes[0], name="P4", rows=("#",))
        refused(self, "400", lambda: with_offer(replace(job, planes=(*job.planes, more)), 0))

    def test_a_plane_of_one_module(self) -> None:
        job = micro_job({"P": ("#",)}, unit="skerrow-tern-duo-800")
        state = unit(job, "U1")
        self.assertTrue(state.capped)
        self.assertEqual(state.leads[0].distance_m, 0.0)
        parts = roof_of(job).parts
        trunk = parts.trunks[0]
        self.assertEqual((trunk.segments, trunk.end_caps, parts.capped_inputs), (1, 1, 1))
        nothing = replace(job.roof_plan, units=(), branches=())
        empty = replace(job, planes=(replace(job.planes[0], rows=()),), micro=nothing)
        refused(self, "draw the modules first", lambda: with_offer(empty, 0))


class HandCounts(TestCase):
    def test_parts_as_a_hand_counts_them(self) -> None:
        # East 5 + 4 over a 1.6 m chimney, then 9 back; West 6 + 6. Three branches of ten.
        parts = roof_of(WIRED).parts
        # B1: 9 of row one, the chimney's 2.73 m take 3 pitches; one of row two, 1.58 m back (the
        # chimney's width) and 1.78 m down: 3 pitches. B2: 8 back, an extension to the other plane,
        # 2 more. B3: 4 and, 1.78 m down (2 pitches), 6.
        b1, b2, b3 = (len(t.links) for t in roof_of(WIRED).trunks.values())
        self.assertEqual((b1, b2, b3), (9, 9, 9))
        trunk = parts.trunks[0]
        self.assertEqual(trunk.segments, (10 + 2 + 2) + 10 + (10 + 1))
        self.assertEqual(trunk.sealing_caps, 5)
        self.assertEqual((trunk.extensions, trunk.end_caps, parts.joint_boxes), (1, 3, 3))
        self.assertEqual((parts.capped_inputs, parts.dc_leads, parts.tees), (0, 0, 0))

    def test_parts_of_the_demo_as_a_hand_counts_them(self) -> None:
        demo = read_job(DEMO.read_bytes())
        (trunk,) = roof_of(demo).parts.trunks
        # B1: nine in a row over a chimney (two drops skipped). B2: five, over the ridge, four.
        self.assertEqual((trunk.segments, trunk.sealing_caps), (9 + 2 + 9, 2))
        self.assertEqual((trunk.extensions, trunk.end_caps), (1, 2))
        lines = {line.id: line.count for line in load_in(demo)}
        self.assertEqual((lines["modules"], lines["micros"], lines["trunk_drops"]), (18, 18, 20))
        self.assertEqual((lines["trunk_sealing"], lines["trunk_ends"]), (2, 2))

    def test_cut_pieces_add_up_and_part_where_the_trunk_is_parted(self) -> None:
        for trunk in roof_of(WIRED).trunks.values():
            assert trunk.parts is not None
            self.assertEqual(sum(cut.drops for cut in trunk.cuts), trunk.parts.segments)
            self.assertEqual(len(trunk.cuts), 1 + trunk.parts.extensions)
            self.assertEqual((trunk.units_m[0], trunk.units_m[-1]), (1.5, trunk.length_m))
        centred = set_branch(
            WIRED, "B1", phase=0, feed="centre", joint="Box B1", lead_m=None, breaker=None
        )
        trunk = roof_of(centred).trunks["B1"]
        self.assertEqual(len(trunk.cuts), 2)
        self.assertEqual(trunk.parts.end_caps if trunk.parts else 0, 2)
        ended = roof_of(WIRED).trunks["B1"]
        assert trunk.moment_m and ended.moment_m
        self.assertLess(trunk.moment_m, ended.moment_m / 2)


class Edits(TestCase):
    def test_painting_moves_a_unit_and_keeps_what_was_measured(self) -> None:
        first = WIRED.roof_plan.branches[0].units
        job = painted_branch(WIRED, "B2", (first[-1], *WIRED.roof_plan.branches[1].units))
        self.assertEqual(branch(job, "B1").units, first[:-1])
        self.assertEqual(job.roof_plan.branches[1].links, WIRED.roof_plan.branches[1].links)
        turned = painted_branch(job, "B2", job.roof_plan.branches[1].units[::-1])
        self.assertEqual(turned.roof_plan.branches[1].links, ())
        self.assertIn("measured", branch(turned, "B2").line)

    def test_moving_a_unit_out_of_reach_is_said_and_never_silently_bridged(self) -> None:
        # Units lie 1.154 m apart; moved by 196 mm one pitch of 1.3 m is five centimetres short.
        job = moved_unit(WIRED, "U2", 196.0)
        near = branch(job, "B1")
        self.assertEqual(near.verdict, "watch")
        self.assertIn("0.05 m short", near.line.replace("\u00a0", " "))
        self.assertEqual(near.trunk.links[0].segments, 2)
        pitch = branch(with_link(job, "B1", "U1", "pitch", None), "B1")
        self.assertEqual((pitch.verdict, pitch.trunk.links[0].segments), ("stop", 1))
        late = set_branch(
            WIRED, "B1", phase=0, feed="end", joint="Box B1", lead_m=1.55, breaker=None
        )
        self.assertIn("0.05 m short of the box", reasons(branch(late, "B1")))
        unmeasured = branch(fed(WIRED, joint="Box B1"), "B1")
        self.assertIn("the way from Box B1 to U1, measured", reasons(unmeasured))
        self.assertEqual(unit(moved_unit(WIRED, "U1", -560.0), "U1").verdict, "stop")
        far = moved_unit(WIRED, "U2", 900.0)
        self.assertTrue(unit(far, "U2").leads[0].extension)

    def test_modules_that_go_take_their_units_along_and_readings_stay(self) -> None:
        job = with_reading(WIRED, "unit_serial", "U1", 0, text=serial_of(1))
        job = shaped(job, "East", (".####.####", "#########"))
        self.assertNotIn("U1", [one.name for one in job.roof_plan.units])
        self.assertIn("U1", job.retired)
        self.assertTrue(any(serial_of(1) in p.reading.text for p in assess(job).past_readings))
        self.assertEqual(len(with_offer(job, 0).roof_plan.units), 29)
        # Nobody lets them go unasked: they are named, with what stays of them.
        again = with_reading(WIRED, "unit_serial", "U1", 0, text=serial_of(1))
        drawn = ShapePlane(name="East", rows=(".####.####", "#########"))
        refused(self, "their modules are gone: U1", lambda: drawn.apply(again, SHIPPED))
        refused(self, "What was read of U1", lambda: drawn.apply(again, SHIPPED))
        self.assertEqual(replace(drawn, let_go=True).apply(again, SHIPPED), job)
        pairs = micro_job({"P": ("###",)}, unit="skerrow-tern-duo-800")
        half = ShapePlane(name="P", rows=("#.#",))
        refused(self, "keep one module of two: U1", lambda: half.apply(pairs, SHIPPED))
        refused(self, "take its modules off first", lambda: without_plane(WIRED, "West"))

    def test_a_trunk_put_together_link_by_link_is_counted_alike_everywhere(self) -> None:
        job = micro_job({"P": ("#####",)}, trunk="marram-chain-l")
        ways = {"U1": 1.2, "U2": 2.0, "U3": 3.3, "U4": 1.15}
        for unit_name, way_m in ways.items():
            job = with_link(job, "B1", unit_name, None, way_m)
        state = branch(job, "B1")
        # By hand: 3.3 m is 1.2 + 2.05 and a joint of 0.06 m; 3.6 m would hang too slack.
        laid = [link.links_mm for link in state.trunk.links]
        self.assertEqual(laid, [(1200,), (2050,), (1200, 2050), (1200,)])
        self.assertAlmostEqual(state.trunk.length_m or 0, 2.0 + 1.2 + 2.05 + 3.31 + 1.2)
        counts = {"Connectors": 5, "Joints of two": 1, "Links of 1.2": 3, "Links of 2.05": 2,
                  "Plug half": 1, "End caps": 1}  # fmt: skip
        for what, count in counts.items():
            in_stage = [one.count for one in roof(job).parts if one.what.startswith(what)]
            on_drive = [one.count for one in load_in(job) if one.what.startswith(what)]
            self.assertEqual((in_stage, on_drive), ([count], [count]), what)
        met = {one.rule_id: one.verdict for one in state.judgements}
        self.assertEqual((met["trunk_links_meet"], met["trunk_pieces"]), ("clear", "clear"))
        unmet = branch(with_link(job, "B1", "U2", None, 2.6), "B1")
        self.assertEqual((unmet.verdict, unmet.trunk.parts), ("stop", None))
        self.assertIn("no links together bridge", reasons(unmet))
        boxed = branch(with_link(job, "B1", "U2", "joint", 2.6), "B1")
        self.assertEqual((boxed.trunk.joints, boxed.trunk.links[1].links_mm), (1, ()))
        self.assertNotIn("no links together bridge", reasons(boxed))
        parts = job.roof_plan.trunk.linked
        odd = replace(parts, connector=LinkPiece(left="1", right="3"))
        trunk = replace(job.roof_plan.trunk, linked=odd)
        marked = branch(replace(job, micro=replace(job.roof_plan, trunk=trunk)), "B1")
        self.assertIn("not made for each other", reasons(marked))

    def test_units_are_made_paired_and_parted_by_hand(self) -> None:
        pairs = micro_job({"P": ("###",)}, unit="skerrow-tern-duo-800")
        first, second = pairs.roof_plan.units
        third = ModulePlace(plane="P", row=1, column=3)
        swapped = with_unit_modules(pairs, second.name, (third, first.modules[1]))
        self.assertEqual([len(one.modules) for one in swapped.roof_plan.units], [1, 2])
        self.assertEqual(unit(swapped, second.name).leads[1].module, "P, row 1, number 2")
        without = without_unit(pairs, second.name)
        self.assertEqual(roof(without).free_modules, ("P, row 1, number 3",))
        self.assertEqual(len(with_unit(without, (third,)).roof_plan.units), 2)

    def test_what_makes_no_sense_is_refused_with_its_place(self) -> None:
        here = ModulePlace(plane="East", row=1, column=1)
        gone = ModulePlace(plane="East", row=1, column=6)
        for said, make in (
            ("no module", lambda: with_unit_modules(ROOF, "U1", ())),
            ("drawn on the roof", lambda: with_unit(ROOF, (gone,))),
            ("on unit U1 already", lambda: with_unit(ROOF, (here,))),
            ("on both inputs", lambda: with_unit_modules(ROOF, "U1", (here, here))),
            ("U1", lambda: painted_branch(ROOF, "B1", ("U999",))),
            ("B1", lambda: without_branch(ROOF, "B9")),
            ("each unit once", lambda: painted_branch(ROOF, "B1", ("U1", "U1"))),
            ("gap of the row", lambda: with_gap(ROOF, "East", 1, 2, 900.0)),
            ("0: the roof feeds", lambda: fed(ROOF, phase=2)),
            ("Box B2", lambda: fed(ROOF, joint="Attic")),
            ("another branch begins", lambda: fed(ROOF, joint="Box B2")),
            ("U1 · U2", lambda: with_link(ROOF, "B1", "U99", None, 2.0)),
        ):
            with self.subTest(said=said):
                refused(self, said, make)
        added = with_branch(ROOF)
        self.assertEqual(branch(added, "B4").verdict, "waiting")

    @settings(max_examples=40, deadline=None)
    @given(data=st.data())
    def test_a_plan_with_any_one_field_wrong_is_read_or_refused(self, data: st.DataObject) -> None:
        plan = write(WIRED.roof_plan)
        field = data.draw(st.sampled_from(sorted(plan)))
        plan[field] = data.draw(st.sampled_from((None, "", -1, [], {}, [{}], "three", 1e9)))
        try:
            read(MicroPlan, plan)
        except Refused as caught:
            self.assertTrue(all(one.path and one.message for one in caught.problems))


def reasons(state: BranchState) -> str:
    return " ".join(one.reason for one in state.judgements).replace("\u00a0", " ")


def fed(job: Job, *, phase: int = 0, joint: str | None = None) -> Job:
    return set_branch(job, "B1", phase=phase, feed="end", joint=joint, lead_m=None, breaker=None)


class SerialMaps(TestCase):
    def test_the_map_in_walking_order_with_what_is_missing_doubled_and_malformed(self) -> None:
        job = mapped(ROOF)
        self.assertEqual(roof(job).map.verdict, "clear")
        order = [one.name for one in roof(job).units]
        walk = [name for one in job.roof_plan.branches for name in one.units]
        self.assertEqual(order, walk)
        doubled = with_reading(job, "unit_serial", "U2", 0, text=serial_of(0))
        self.assertEqual(set(roof(doubled).map.doubled), {"U1", "U2"})
        wrong = with_reading(job, "unit_serial", "U2", 0, text="XX1")
        self.assertEqual(roof(wrong).map.malformed, ("U2",))
        self.assertEqual(roof(ROOF).map.next, walk[0])
        self.assertEqual(roof(ROOF).map.verdict, "waiting")

    def test_a_cover_without_a_serial_is_a_stop_and_is_refused_beforehand(self) -> None:
        job = with_reading(ROOF, "unit_covered", "U1", 1)
        self.assertEqual(unit(job, "U1").verdict, "stop")
        refused(self, "not on the map", lambda: refuse_if_locked(ROOF, job.readings[-1]))
        known = with_reading(ROOF, "unit_serial", "U1", 0, text=serial_of(1))
        refuse_if_locked(known, job.readings[-1])

    def test_a_serial_of_another_unit_is_refused_with_where_it_is(self) -> None:
        job = with_reading(ROOF, "unit_serial", "U1", 0, text=serial_of(1))
        again = with_reading(job, "unit_serial", "U5", 0, text=serial_of(1)).readings[-1]
        refused(self, "is on U1 already (East, row 1", lambda: refuse_if_locked(job, again))

    def test_the_file_goes_out_and_comes_back(self) -> None:
        job = mapped(WIRED)
        wanted = {(one.name, serial_of(n)) for n, one in enumerate(job.roof_plan.units)}
        for text in (map_csv(roof(job)), map_json(job, roof(job))):
            self.assertEqual(set(read_map(WIRED, text.encode())), wanted)
        semicolons = map_csv(roof(job)).replace(",", ";").encode("utf-8-sig")
        self.assertEqual(set(read_map(WIRED, semicolons)), wanted)

    def test_bad_map_files_are_refused_whole(self) -> None:
        head = "unit,serial,branch,phase\n"
        for said, text in (
            ("not on this roof", f"{head}U99,TN10000001,,"),
            ("no serial of this inverter", f"{head}U1,hello,,"),
            ("may read TN10000001", f"{head}U1,TN1000000I,,"),
            ("stands on U1 and on U2", f"{head}U1,TN10000001,,\nU2,TN10000001,,"),
            ("stands in the file twice", f"{head}U1,TN10000001,,\nU1,TN10000002,,"),
            ("L1 and L2", f"{head}U1,TN10000001,B1,L1\nU2,TN10000002,B1,L2"),
            ("on branch B1 here", f"{head}U1,TN10000001,B2,"),
            ("the columns unit and serial", "name,number\nU1,2"),
            ("at least one unit", f"{head}U1,,,"),
            ("list of units", '{"format": "long-noon-map"}'),
            ("long-noon-map", '{"format": "other", "units": []}'),
            ("JSON", "{nonsense"),
        ):
            with self.subTest(said=said):
                refused(self, said, lambda text=text: read_map(WIRED, text.encode()))
        refused(self, "UTF-8", lambda: read_map(WIRED, b"\xff\xfe\x00"))

    def test_a_sheet_is_to_scale_and_holds_every_serial_or_room_for_it(self) -> None:
        job = with_reading(ROOF, "unit_serial", "U1", 0, text=serial_of(1))
        sheet = map_sheets(job, roof(job), "today")[0]
        words = [mark.stroke.text for mark in sheet.marks if mark.stroke.kind == "text"]
        self.assertIn(serial_of(1), words)
        scale = int(next(word for word in words if "1 : " in word).rpartition(" ")[2])
        wide = [
            m.stroke.at[2] for m in sheet.marks if m.stroke.kind == "rect" and m.layer == "frame"
        ]
        self.assertIn(round(1134.0 / scale, 6), [round(one, 6) for one in wide])


class Gateways(TestCase):
    def test_late_missing_and_foreign_units(self) -> None:
        job = mapped(WIRED)
        self.assertEqual(roof(job).gateway.verdict, "waiting")
        self.assertEqual(roof(looked(job, *listed(job))).gateway.verdict, "clear")
        units = listed(job, "U4")[1:]
        found = roof(looked(job, *units, GatewayUnit(serial="TN99999999", reporting=True))).gateway
        self.assertEqual(found.verdict, "stop")
        standing = {one.unit or one.serial: one.standing for one in found.lines}
        self.assertEqual(standing["U1"], "missing")
        self.assertEqual(standing["U4"], "late")
        self.assertEqual(standing["TN99999999"], "foreign")
        self.assertEqual(standing["U2"], "reporting")
        self.assertIn("U1", found.line)
        # One is missing, one is late; nine of B1's and B2's others report.
        self.assertEqual((found.reporting, found.late), (len(units) - 1, 1))

    def test_a_serial_that_is_not_read_yet_is_not_called_foreign(self) -> None:
        job = mapped(WIRED)
        partly = replace(job, readings=tuple(r for r in job.readings if r.subject != "U1"))
        found = roof(looked(partly, *listed(job))).gateway
        self.assertEqual((found.lines[0].standing, found.verdict), ("unplaced", "waiting"))

    def test_a_branch_is_on_only_after_permit_map_gateway_earth_and_trunk(self) -> None:
        job = ready()
        self.assertEqual(branch(job, "B1").on.verdict, "clear", branch(job, "B1").on.line)
        on = with_reading(job, "branch_on", "B1", 1).readings[-1]
        refuse_if_locked(job, on)
        no_marks = tuple(r for r in job.readings if r.kind != "trunk_marks")
        for said, lacking in (
            ("No permit", replace(job, arrival=Arrival())),
            ("serial of U1", replace(job, readings=no_serial(job, "U1"))),
            ("gateway's list", replace(job, gateway_reads=())),
            ("marks", replace(job, readings=no_marks)),
            ("continuity", replace(job, readings=without_kind(job, "continuity"))),
            ("breaker of B1", fed(job, joint="Box B1")),
            ("Roof feed", replace(job, readings=without_kind(job, "insulation_ac"))),
            ("profile", replace(job, settings_written=())),
        ):
            with self.subTest(said=said):
                refused(self, said, lambda lacking=lacking: refuse_if_locked(lacking, on))
        refuse_if_locked(replace(job, arrival=Arrival()), replace(on, value=Answer(good=False)))

    def test_report_in_is_counted_from_switching_on(self) -> None:
        job = with_reading(ready(), "branch_on", "B1", 1, minute=60)
        self.assertIn(
            "Look at the gateway", branch(replace(job, gateway_reads=()), "B1").report.line
        )
        late = WIRED.roof_plan.branches[0].units[2]
        for minutes, verdict in ((64.0, "waiting"), (71.0, "watch")):
            state = branch(looked(job, *listed(job, late), minutes=minutes), "B1").report
            self.assertEqual((state.reporting, state.of, state.verdict), (9, 10, verdict))
        all_in = branch(looked(job, *listed(job), minutes=64.0), "B1").report
        self.assertEqual((all_in.reporting, all_in.verdict), (10, "clear"))


def no_serial(job: Job, name: str) -> tuple[object, ...]:
    return tuple(r for r in job.readings if (r.kind, r.subject) != ("unit_serial", name))


def without_kind(job: Job, kind: str) -> tuple[object, ...]:
    return tuple(r for r in job.readings if r.kind != kind)


# When everything on the sound roof was read.
START_MIN = 100


class Replacement(TestCase):
    def step(self, job: Job, name: str, minutes: float) -> Job:
        made = with_reading(job, "swap_step", f"U1 {name}", 1, minute=START_MIN + minutes)
        refuse_if_locked(job, made.readings[-1])
        return made

    def test_a_unit_is_replaced_in_its_order_with_the_wait_and_a_new_serial(self) -> None:
        job = ready()
        live = with_reading(job, "branch_on", "B1", 1, minute=START_MIN)
        refused(self, "B1 is ON", lambda: self.step(live, "branch_off", 1))
        refused(self, "First: Branch OFF", lambda: self.step(job, "drop_apart", 1))
        job = self.step(self.step(job, "branch_off", 1), "locked_off", 2)
        self.assertEqual(branch(job, "B1").on.verdict, "waiting")
        self.assertIn("replacing U1", branch(job, "B1").on.line)
        self.assertEqual(branch(job, "B2").on.verdict, "clear")
        due = unit(job, "U1").swap[2].due_at
        self.assertEqual(due, NOON + timedelta(minutes=START_MIN + 6))
        refused(self, "Wait 5 min", lambda: self.step(job, "waited", 5))
        for minutes, name in enumerate(("waited", "drop_apart", "leads_apart", "swapped"), 6):
            job = self.step(job, name, minutes)
        refused(self, "new serial of U1", lambda: self.step(job, "leads_in", 10))
        was = next(r for r in job.readings if (r.kind, r.subject) == ("unit_serial", "U1"))
        job = with_reading(
            job, "unit_serial", "U1", 0, text="TN55555555", minute=START_MIN + 11, supersedes=was.id
        )
        job = self.step(self.step(job, "leads_in", 12), "drop_in", 13)
        state = unit(job, "U1")
        self.assertTrue(all(step.done for step in state.swap))
        self.assertEqual(state.serial, "TN55555555")
        self.assertEqual(state.serials[0].superseded_by, state.serials[1].id)
        # The gateway knows the old one still: told before the branch is ON again.
        self.assertEqual(branch(job, "B1").on.verdict, "stop")
        again = self.step(job, "branch_off", 60)
        self.assertFalse(unit(again, "U1").swap[1].done)

    def test_steps_out_of_order_in_a_file_do_not_count(self) -> None:
        job = ready()
        for minutes, name in enumerate(SWAP_STEPS):
            job = with_reading(job, "swap_step", f"U1 {name}", 1, minute=minutes)
        # Waited two minutes of five: from there on nothing counts as done.
        self.assertEqual(
            [step.done for step in unit(job, "U1").swap[:4]], [True, True, False, False]
        )


class Files(TestCase):
    def test_a_wired_roof_goes_through_its_file_and_every_stage(self) -> None:
        job = ready()
        back = read_job(write_job(job).encode())
        self.assertEqual(write(assess(back)), write(assess(job)))
        data = json.loads(write_job(job))
        data["micro"]["branches"][0]["units"].append("U999")
        refused(self, "unit of this roof", lambda: read_job(json.dumps(data).encode()))
        both = json.loads(write_job(job)) | {"micro": None}
        refused(self, "one of the two", lambda: read_job(json.dumps(both).encode()))

    def test_landscape_rows_are_as_wide_as_their_modules_are_long(self) -> None:
        plane = replace(ROOF.planes[0], orientation="landscape", gaps=())
        job = replace(ROOF, planes=(plane, *ROOF.planes[1:]))
        drawn = roof(job).planes[0]
        self.assertEqual((drawn.module_w_mm, drawn.module_h_mm), (1762, 1134))
        step = drawn.modules[1].x_mm - drawn.modules[0].x_mm
        self.assertEqual(step, 1762 + 20)
        self.assertIsInstance(plane, Plane)
