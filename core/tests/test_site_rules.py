"""The rules of Arrive, Hang and Earth: worked cases, limits, facts, labels that were scanned."""

from __future__ import annotations

from pathlib import Path
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from core.base.errors import Refused
from core.equipment.body import Body, Bracket
from core.figures.rule_packs import pack
from core.rules.arrival.nameplate import (
    form_words,
    nameplate_limit,
    nameplate_model,
    nameplate_nominal,
    nameplate_serial,
    serial_in,
)
from core.rules.arrival.permit_people_goods import (
    goods_counted,
    goods_here,
    left_open,
    licensed_present,
    next_visit,
    permit_export,
    permit_on_file,
)
from core.rules.earth.earth_bonding import (
    array_pole,
    bond_reaches_earth,
    bond_size,
    continuity,
    continuity_current,
    continuity_expected,
    protective_size,
    ring_lug,
    roof_bonding,
)
from core.rules.prove.yes_no_steps import STEPS, step_seen, step_waits
from core.rules.wall.clearances import (
    clearance,
    clearance_between,
    device_apart,
    display_height,
    floor_height,
    front_depth,
    needed_field,
    objects_apart,
    on_the_wall,
    out_of_reach,
)
from core.rules.wall.hole_marks import hole_depth, hole_marks, mounted_level
from core.rules.wall.wall_fixings import (
    board_bears,
    board_edge,
    combustible_wall,
    entry_outdoors,
    fixing_for_wall,
    fixing_load,
    fixings_bear,
    fixings_hold,
    lift,
    lift_people,
)
from core.rules.wall.wall_sun import hottest_month, wall_heat
from core.tests.cases import Case, compare, load
from core.tests.table import Row, check_row

CASES = Path(__file__).parent / "cases"
HOLD = {"shear_n": 0.0, "holds_tension_n": 100.0, "holds_shear_n": 100.0, "fixing": "F"}
ROWS: tuple[Row, ...] = (
    (
        clearance,
        {"side": "left", "needed_mm": 200, "beside": "pipe"},
        "free_mm",
        210,
        200,
        199,
        "stop",
    ),
    (front_depth, {"needed_mm": 600}, "free_mm", 700, 600, 599, "stop"),
    (floor_height, {"least_mm": 500}, "lower_edge_mm", 501, 500, 499, "stop"),
    (display_height, {"low_mm": 1200, "high_mm": 1800}, "display_mm", 1500, 1800, 1801, "watch"),
    (display_height, {"low_mm": 1200, "high_mm": 1800}, "display_mm", 1500, 1200, 1199, "watch"),
    (out_of_reach, {"least_mm": 2300}, "lower_edge_mm", 2400, 2300, 2299, "stop"),
    (hole_depth, {"thickness_mm": 110, "left_mm": 20}, "hole_mm", 80, 90, 91, "stop"),
    (mounted_level, {"most_mm_per_m": 3}, "out_mm_per_m", -2, -3, -3.1, "stop"),
    (board_bears, {"most_kg": 3}, "mass_kg", 2, 3, 3.1, "stop"),
    (board_edge, {"least_mm": 25}, "from_edge_mm", 30, 25, 24, "watch"),
    (fixings_hold, HOLD | {"factor": 4.0}, "tension_n", 24, 25, 25.1, "stop"),
    (wall_heat, {"most_hours": 4}, "sun_hours", 3, 4, 4.2, "watch"),
    (permit_export, {"rated_ac_w": 5000}, "granted_w", 6000, 5000, 4999, "watch"),
    (bond_size, {"least_mm2": 4}, "section_mm2", 6, 4, 2.5, "stop"),
    (continuity, {"low_ohm": 0.02, "high_ohm": 0.1}, "read_ohm", 0.05, 0.1, 0.11, "stop"),
    (continuity_current, {"least_a": 0.2}, "read_a", 0.21, 0.2, 0.19, "stop"),
)
# Judging rules that are told in tests of their own below.
OTHERWISE = {
    "array_pole",
    "bond_reaches_earth",
    "combustible_wall",
    "device_apart",
    "entry_outdoors",
    "fixing_for_wall",
    "fixings_bear",
    "goods_counted",
    "goods_here",
    "left_open",
    "licensed_present",
    "lift_people",
    "nameplate_limit",
    "nameplate_model",
    "nameplate_nominal",
    "nameplate_serial",
    "next_visit",
    "objects_apart",
    "on_the_wall",
    "permit_on_file",
    "ring_lug",
    "roof_bonding",
    "step_seen",
    "step_waits",
}


def case_body(device: dict[str, Any]) -> Body:
    return Body(
        width_mm=device["width_mm"],
        height_mm=device["height_mm"],
        depth_mm=device["depth_mm"],
        mass_kg=device["mass_kg"],
        clearance_left_mm=device["clearance_left_mm"],
        clearance_right_mm=device["clearance_right_mm"],
        clearance_top_mm=device["clearance_top_mm"],
        clearance_bottom_mm=device["clearance_bottom_mm"],
        bracket=Bracket(
            pattern_w_mm=device["hole_pattern_w_mm"],
            pattern_h_mm=device["hole_pattern_h_mm"],
            top_row_below_top_mm=device["top_row_below_device_top_mm"],
            top_fixings=device["top_fixings"],
            all_fixings=device["all_fixings"],
            cg_from_wall_mm=device["cg_from_wall_mm"],
            top_row_above_pivot_mm=device["top_row_above_pivot_mm"],
        ),
    )


class WallCases(TestCase):
    def test_holes_loads_and_neighbours(self) -> None:
        for case in load(CASES, "wall_mounting"):
            if "device" in case["inputs"]:
                self.check_one(case)
            else:
                self.check_two(case)

    def check_one(self, case: Case) -> None:
        inputs = case["inputs"]
        body = case_body(inputs["device"])
        marks = hole_marks(
            body=body,
            left_edge_mm=inputs["device_left_edge_x_mm"],
            top_above_datum_mm=inputs["device_top_edge_above_datum_mm"],
            datum_mm=inputs["datum_above_floor_mm"],
        )
        flat = [c for hole in marks.holes for c in (hole.x_mm, hole.above_datum_mm)]
        wanted = [c for hole in case["expected"]["holes_xy_from_datum_mm"] for c in hole]
        self.assertEqual(flat, wanted)
        heights = [hole.above_floor_mm for hole in marks.holes]
        compare(self, case, "holes_height_above_floor_mm", heights)
        compare(self, case, "diagonal_check_mm", marks.diagonal_mm)
        bracket = body.bracket
        assert bracket is not None
        found = fixing_load(
            mass_kg=body.mass_kg,
            cg_from_wall_mm=bracket.cg_from_wall_mm,
            top_row_above_pivot_mm=bracket.top_row_above_pivot_mm,
            top_fixings=bracket.top_fixings,
            all_fixings=bracket.all_fixings,
        )
        for key in (
            "weight_n",
            "tension_per_top_fixing_n",
            "shear_per_fixing_n",
            "resultant_per_top_fixing_n",
            "tension_plus_shear_n",
        ):
            compare(self, case, key, getattr(found, key))
        people = lift(mass_kg=body.mass_kg, two_people_kg=25, lifting_aid_kg=50).people
        compare(self, case, "two_person_lift", people > 1)

    def check_two(self, case: Case) -> None:
        inputs = case["inputs"]
        left, right = case_body(inputs["device_left"]), case_body(inputs["device_right"])
        gap = clearance_between(first_mm=left.clearance_right_mm, second_mm=right.clearance_left_mm)
        compare(self, case, "gap_between_mm", gap)
        width = needed_field(
            size_mm=left.width_mm + gap + right.width_mm,
            before_mm=left.clearance_left_mm,
            after_mm=right.clearance_right_mm,
        )
        compare(self, case, "needed_width_mm", width)
        # Tops aligned: the taller device decides below, the larger need above.
        top = max(left.clearance_top_mm, right.clearance_top_mm)
        height = max(
            needed_field(size_mm=one.height_mm, before_mm=one.clearance_bottom_mm, after_mm=top)
            for one in (left, right)
        )
        compare(self, case, "needed_height_tops_aligned_mm", height)
        spare = inputs["wall_free_width_mm"] - width
        compare(self, case, "spare_width_mm", spare)
        compare(self, case, "fits", spare >= 0 and inputs["wall_free_height_mm"] >= height)


class Limits(TestCase):
    def test_inside_on_and_beyond(self) -> None:
        for row in ROWS:
            check_row(self, row)

    def test_a_load_of_pull_and_shear_adds_up(self) -> None:
        # 10 of 100 N pull and 5 of 50 N shear, four times: 80 % of what the fixing holds.
        judged = fixings_hold(
            tension_n=10, shear_n=5, holds_tension_n=100, holds_shear_n=50, factor=4, fixing="F"
        )
        self.assertAlmostEqual(judged.value or 0, 80.0)

    @given(mass=st.floats(0.1, 400))
    def test_lifting(self, mass: float) -> None:
        needed = lift(mass_kg=mass, two_people_kg=25, lifting_aid_kg=50)
        self.assertEqual(needed.people, 2 if mass > 25 else 1)
        self.assertEqual(needed.with_aid, mass > 50)

    def test_the_hottest_month(self) -> None:
        self.assertEqual([hottest_month(latitude_deg=d) for d in (54, -33)], [7, 1])


class Facts(TestCase):
    def test_good_and_bad(self) -> None:
        for bad, good, wrong in (
            (
                "stop",
                device_apart(name="A", other="B", overlaps=False),
                device_apart(name="A", other="B", overlaps=True),
            ),
            (
                "stop",
                combustible_wall(combustible=False, allowed=False, device="A"),
                combustible_wall(combustible=True, allowed=False, device="A"),
            ),
            ("stop", entry_outdoors(entry="bottom"), entry_outdoors(entry="top")),
            (
                "stop",
                fixing_for_wall(fixing_wall="wood", behind="backing", fixing="F"),
                fixing_for_wall(fixing_wall="solid", behind="stud", fixing="F"),
            ),
            (
                "stop",
                fixings_bear(bearing=2, top_fixings=2),
                fixings_bear(bearing=0, top_fixings=2),
            ),
            (
                "watch",
                fixings_bear(bearing=2, top_fixings=2),
                fixings_bear(bearing=1, top_fixings=2),
            ),
            (
                "stop",
                on_the_wall(field_w_mm=400, field_h_mm=900, width_mm=400, height_mm=500),
                on_the_wall(field_w_mm=399, field_h_mm=900, width_mm=400, height_mm=500),
            ),
            (
                "stop",
                lift_people(mass_kg=33, needed=2, present=2, with_aid=False),
                lift_people(mass_kg=33, needed=2, present=1, with_aid=False),
            ),
            (
                "stop",
                array_pole(planned="none", sheet="none"),
                array_pole(planned="minus", sheet="none"),
            ),
            (
                "stop",
                bond_reaches_earth(name="A", reaches=True, ends_at="B"),
                bond_reaches_earth(name="A", reaches=False, ends_at="B"),
            ),
            ("watch", roof_bonding(school="washer"), roof_bonding(school="none")),
            ("stop", ring_lug(section_mm2=6, stud_mm=8), ring_lug(section_mm2=6, stud_mm=12)),
            ("stop", licensed_present(licensed=1), licensed_present(licensed=0)),
            (
                "watch",
                permit_on_file(reference="R", operator="O", document=True),
                permit_on_file(reference="R", operator="O"),
            ),
            (
                "waiting",
                permit_on_file(reference="R", operator="O", document=True),
                permit_on_file(),
            ),
            ("waiting", licensed_present(licensed=1), licensed_present(licensed=0, anybody=False)),
            ("waiting", goods_counted(uncounted=0, lines=40), goods_counted(uncounted=1, lines=40)),
            (
                "stop",
                goods_here(needed=12, found=12, must=True),
                goods_here(needed=12, found=12, damaged=1, must=True),
            ),
            (
                "watch",
                goods_here(needed=12, found=12, must=False),
                goods_here(needed=12, found=11, must=False),
            ),
            (
                "watch",
                goods_here(needed=12, found=13, must=True),
                goods_here(needed=12, found=13, damaged=1, must=True),
            ),
            (
                "stop",
                nameplate_model(read="veyrick FIVE-", planned="Five"),
                nameplate_model(read="Veyrick Six", planned="Five"),
            ),
            (
                "stop",
                nameplate_nominal(read=230, planned=230),
                nameplate_nominal(read=240, planned=230),
            ),
            (
                "stop",
                nameplate_limit(kind="nameplate_max_dc", read=600, planned=600),
                nameplate_limit(kind="nameplate_max_dc", read=550, planned=600),
            ),
            (
                "watch",
                nameplate_limit(kind="nameplate_isc", read=20, planned=20, unit="A"),
                nameplate_limit(kind="nameplate_isc", read=25, planned=20, unit="A"),
            ),
            (
                "stop",
                nameplate_serial(serial="VF26010001", form="VF########"),
                nameplate_serial(serial="VF2601", form="VF########"),
            ),
            *(
                ("stop", step_seen(step=step, sign=1), step_seen(step=step, sign=-1))
                for step in STEPS
            ),
            *(("waiting", step_seen(step=step, sign=1), step_waits(step=step)) for step in STEPS),
        ):
            with self.subTest(rule=wrong.rule_id, bad=bad):
                self.assertEqual((good.verdict, wrong.verdict), ("clear", bad))
                self.assertTrue(good.reason.endswith(".") and wrong.reason.endswith("."))
        for told in (
            objects_apart(name="A", other="B"),
            next_visit(what="A"),
            left_open(what="A", owner="B"),
        ):
            self.assertEqual(told.verdict, "watch")


class Bonding(TestCase):
    def test_protective_conductors(self) -> None:
        for line, wanted in ((2.5, 2.5), (16, 16), (25, 16), (35, 16), (50, 25), (95, 47.5)):
            self.assertEqual(protective_size(line_mm2=line), wanted)

    def test_least_sizes_by_pack(self) -> None:
        sizes = {
            name: pack(name).earth.bond_least.value
            for name in ("uk-small", "germany", "north-america")
        }
        self.assertEqual(sizes, {"uk-small": 6, "germany": 6, "north-america": 5.26})

    def test_what_continuity_should_read(self) -> None:
        # 20 m of 4 mm2: 4.61 ohm/km * 0.02 km = 0.0922 ohm at 20 C; at 40 C 7.86 % more.
        band = continuity_expected(length_m=20, r20_ohm_per_km=4.61, joints=2)
        self.assertAlmostEqual(band.conductor_ohm, 0.0922)
        self.assertAlmostEqual(band.high_ohm, 0.0922 * 1.0786 + 0.02 + 0.03)
        self.assertAlmostEqual(band.low_ohm, 0.0922 * (1 - 0.0786) - 0.03)
        beside = continuity(read_ohm=0.01, low_ohm=band.low_ohm, high_ohm=band.high_ohm)
        self.assertEqual((beside.verdict, "another path" in beside.reason), ("watch", True))

    @given(length=st.floats(0.1, 500), r20=st.floats(0.1, 20), joints=st.integers(0, 40))
    def test_a_conductor_lies_in_its_own_band(self, length: float, r20: float, joints: int) -> None:
        band = continuity_expected(length_m=length, r20_ohm_per_km=r20, joints=joints)
        self.assertTrue(band.low_ohm <= band.conductor_ohm <= band.high_ohm)


class Labels(TestCase):
    def test_a_serial_is_found_in_what_was_scanned(self) -> None:
        form = "VF########"
        for scanned in (
            "vf26014417",
            " VF26014417 ",
            "MODEL=FIVE;S/N:VF26014417;REV=3",
            '{"sn":"VF26014417"}',
        ):
            self.assertEqual(serial_in(scanned=scanned, form=form), "VF26014417")
        self.assertEqual(serial_in(scanned="hm-b0042", form="HM-@####"), "HM-B0042")
        self.assertEqual(serial_in(scanned="any 17", form=""), "ANY 17")

    def test_the_label_of_another_thing_is_refused(self) -> None:
        for scanned, said in (
            ("4006381333931", "goods number"),
            ("VX26014417", "no serial"),
            ("VF260144170", "no serial"),
            ("VF26O14417", "no serial"),
            ("VF26014417 VF26014418", "two serials"),
            ("", "no serial"),
        ):
            with self.subTest(scanned=scanned), self.assertRaises(Refused) as refused:
                serial_in(scanned=scanned, form="VF########")
            self.assertIn(said, refused.exception.problems[0].message)
        with self.assertRaises(Refused):
            serial_in(scanned="4006381333931", form="")

    def test_a_form_in_words(self) -> None:
        self.assertEqual(form_words("HM-@####"), "HM-, then a letter, then 4 digits")
        self.assertEqual(form_words(""), "")
