"""The wall: spaces, what is missing of them, what is behind holes, places that satisfy all."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from core.assess import assess
from core.assessment.site import HungDevice
from core.base.errors import Refused
from core.edits.wall import with_device, with_device_at, with_fixing, with_object, without_device
from core.equipment import catalogue
from core.equipment.cables_switches_fixings import Fixing, WallUnit
from core.job.job import Job
from core.job.wall import Wall, WallDevice, WallObject
from core.planning.wall.places import find_places
from core.tests.samples import asked, sample_job, settled, with_reading, with_wall

BRICK = with_wall(sample_job())


def device(job: Job, name: str = "Inverter") -> HungDevice:
    return next(one for one in assess(job).hang.devices if one.name == name)


def verdicts(found: HungDevice) -> dict[str, str]:
    return {one.rule_id: one.verdict for one in found.judgements}


def thing(kind: Any, x: float, y: float, w: float, h: float, opens: Any = "no") -> WallObject:
    return WallObject(
        name=f"{kind} {x:g}", kind=kind, x_mm=x, y_mm=y, width_mm=w, height_mm=h, opens=opens
    )


FRAMED: dict[str, Any] = {"kind": "stud", "stud_first_mm": 200.0, "stud_pitch_mm": 400.0}


def framed(x_mm: float, **changes: Any) -> Job:
    """The inverter on a framed wall, studs at 200, 600, 1000 … mm; its top holes are 300 apart."""
    job = with_wall(sample_job(), **(FRAMED | changes))
    screw = catalogue.pick(catalogue.sheets("fixings"), "wrackley-8x60", Fixing, "$")
    job = without_device(with_fixing(job, "Inverter", screw), "DC isolator")
    return with_device_at(job, "Inverter", x_mm, 1130)


class Spaces(TestCase):
    def test_each_side_against_what_stands_nearest(self) -> None:
        # The isolator, 170 wide, ends at 1170; the inverter needs 200 and stands at 1500.
        found = device(BRICK)
        self.assertEqual((found.sides[0].free_mm, found.sides[0].beside), (330.0, "DC isolator"))
        self.assertEqual(found.sides[1].free_mm, 3000 - 1500 - 430)
        self.assertEqual(found.verdict, "clear")

    def test_what_is_missing_is_the_strip_that_is_taken(self) -> None:
        found = device(with_device_at(BRICK, "Inverter", 1300, 1130))
        left = found.sides[0]
        assert left.missing is not None
        # 130 mm are free of 200: the 70 mm nearest the isolator are missing.
        self.assertEqual((left.missing.x_mm, left.missing.width_mm), (1100.0, 70.0))
        self.assertIn("70", left.missing.text)
        self.assertEqual(found.drill.verdict, "stop")
        # The larger of both needs holds on both sides of the gap.
        other = device(with_device_at(BRICK, "Inverter", 1300, 1130), "DC isolator")
        self.assertEqual((other.sides[1].free_mm, other.sides[1].verdict), (130.0, "stop"))

    def test_corners_doors_and_the_eave(self) -> None:
        # A box off the upper left corner reaches into the space of both sides.
        corner = with_object(BRICK, None, thing("meter_box", 1350, 1700, 100, 100))
        self.assertEqual(device(corner).verdict, "stop")
        self.assertEqual(
            device(with_object(BRICK, None, thing("tap", 1200, 2000, 90, 90))).verdict, "clear"
        )
        # A door leaf that opens over the wall takes its own width.
        for opens, verdict in (("no", "clear"), ("left", "stop"), ("both", "stop")):
            door = with_object(BRICK, None, thing("door", 2200, 0, 800, 2000, opens))
            self.assertEqual(device(door).verdict, verdict)
        low_eave = with_wall(sample_job(), eave_mm=400.0, eave_height_mm=1900.0)
        top = device(low_eave).sides[2]
        self.assertEqual((top.free_mm, top.verdict), (1900.0 - 1640.0, "stop"))

    def test_on_top_of_each_other_and_a_wall_too_small(self) -> None:
        self.assertEqual(
            verdicts(device(with_device_at(BRICK, "Inverter", 1050, 1200)))["device_apart"], "stop"
        )
        small = with_wall(sample_job(), width_mm=400.0)
        self.assertEqual(verdicts(device(small))["on_the_wall"], "stop")
        twice = with_object(
            with_object(BRICK, None, thing("window", 0, 2000, 500, 400)),
            None,
            thing("vent", 400, 2000, 200, 200),
        )
        self.assertEqual([one.rule_id for one in assess(twice).hang.judgements], ["objects_apart"])

    @given(x=st.floats(0, 2500), y=st.floats(0, 2000))
    def test_neighbours_agree_on_the_gap_between_them(self, x: float, y: float) -> None:
        job = with_device_at(BRICK, "Inverter", x, y)
        spaces = {
            (name, side.beside): side.free_mm
            for name in ("Inverter", "DC isolator")
            for side in device(job, name).sides
        }
        mine = spaces.get(("Inverter", "DC isolator"))
        theirs = spaces.get(("DC isolator", "Inverter"))
        if mine is not None and theirs is not None:
            self.assertAlmostEqual(mine, theirs)


class Holes(TestCase):
    def test_studs_board_and_backing(self) -> None:
        # Top holes at x + 65 and x + 365: with x at 535 the first lies on the stud at 600.
        one_on = device(framed(535))
        self.assertEqual([hole.behind for hole in one_on.holes], ["stud", "board", "stud", "board"])
        self.assertEqual(verdicts(one_on)["fixings_bear"], "watch")
        assert one_on.load is not None
        # One top fixing takes the whole pull: m*g*e/z = 19.5 * 9.81 * 98 / 435.
        self.assertAlmostEqual(one_on.load.tension_per_top_fixing_n, 43.096, places=3)
        self.assertAlmostEqual(one_on.load.shear_per_fixing_n, 19.5 * 9.81 / 2, places=3)
        none_on = device(framed(700))
        self.assertEqual(verdicts(none_on)["board_bears"], "stop")
        self.assertIsNone(none_on.load)
        backed = with_object(framed(700), None, thing("backing", 600, 1000, 700, 800))
        self.assertEqual({hole.behind for hole in device(backed).holes}, {"backing"})
        # The screw for studs is not the one for the backing board's wood.
        self.assertEqual(verdicts(device(backed))["fixing_for_wall"], "stop")
        # A light isolator may hang on board alone, and its plugs are judged by its whole load.
        plug = catalogue.pick(catalogue.sheets("fixings"), "wrackley-board-6", Fixing, "$")
        light = device(
            with_fixing(with_wall(sample_job(), **FRAMED), "DC isolator", plug), "DC isolator"
        )
        self.assertEqual(verdicts(light)["board_bears"], "clear")
        self.assertEqual(verdicts(light)["fixings_hold"], "clear")
        near = framed(700, board_edges_mm=(750.0,))
        self.assertEqual(verdicts(device(near))["board_edge"], "watch")

    def test_depth_and_lift(self) -> None:
        thin = with_wall(sample_job(), thickness_mm=100.0)
        self.assertEqual(verdicts(device(thin))["hole_depth"], "stop")
        battery = catalogue.pick(
            catalogue.sheets("wall_units"), "veyrick-battery-10", WallUnit, "$"
        )
        hung = with_device(
            settled(sample_job()),
            WallDevice(
                name="Store",
                kind="battery",
                label=battery.label,
                x_mm=2100,
                y_mm=400,
                body=battery.body,
            ),
        )
        # 62 kg: two people and an aid, and it waits for its fixing.
        found = device(hung, "Store")
        self.assertEqual((found.lift.people, found.lift.with_aid), (2, True))
        self.assertEqual(verdicts(found)["fixings_hold"], "waiting")
        self.assertIn(
            "lifting_aid", {line.id for line in assess(hung).arrive.lines} | {"lifting_aid"}
        )

    def test_nothing_says_drill_before_services_and_level(self) -> None:
        self.assertEqual(device(BRICK).drill.verdict, "waiting")
        looked = with_reading(BRICK, "services", "Inverter", 1)
        self.assertEqual(device(looked).drill.verdict, "waiting")
        level = with_reading(looked, "level", "Inverter", 1.0)
        self.assertEqual(device(level).drill.verdict, "clear")
        self.assertEqual(device(level).lock.verdict, "waiting")
        self.assertEqual(device(with_reading(level, "hooks", "Inverter", 1)).lock.verdict, "clear")
        crooked = with_reading(looked, "level", "Inverter", -5.0)
        self.assertEqual(device(crooked).drill.verdict, "stop")
        pipe = with_reading(level, "services", "Inverter", -1, minute=5)
        self.assertEqual(device(pipe).drill.verdict, "stop")

    def test_a_sheet_that_leaves_something_out_is_never_clear(self) -> None:
        body = BRICK.inverter.body
        assert body is not None and BRICK.wall is not None
        bare = replace(BRICK, inverter=replace(BRICK.inverter, body=replace(body, bracket=None)))
        self.assertEqual(verdicts(device(bare))["fixings_hold"], "waiting")
        fixing = BRICK.wall.devices[0].fixing
        assert fixing is not None
        unsaid = with_fixing(BRICK, "Inverter", replace(fixing, hole_mm=None))
        self.assertEqual(verdicts(device(unsaid))["hole_depth"], "waiting")

    def test_an_enclosure_goes_up_only_with_its_holes_made(self) -> None:
        job = BRICK
        for kind in ("services", "level"):
            job = with_reading(job, kind, "DC isolator", 1)  # type: ignore[arg-type]
        self.assertEqual(device(job, "DC isolator").lock.verdict, "waiting")
        for sign, verdict in ((1, "clear"), (-1, "stop")):
            made = with_reading(job, "holes_first", "DC isolator", sign)
            self.assertEqual(device(made, "DC isolator").lock.verdict, verdict)

    def test_what_was_read_stays_when_a_device_comes_off(self) -> None:
        job = without_device(with_reading(BRICK, "level", "DC isolator", 1.0), "DC isolator")
        self.assertEqual([one.title for one in assess(job).past_readings], ["DC isolator · level"])
        self.assertNotIn("level/DC isolator", {ask.key for ask in assess(job).asks})


class Places(TestCase):
    @settings(max_examples=25, deadline=None)
    @given(
        width=st.integers(800, 6000),
        things=st.lists(
            st.tuples(
                st.integers(0, 5500),
                st.integers(0, 2300),
                st.integers(20, 900),
                st.integers(20, 900),
            ),
            max_size=12,
            unique=True,
        ),
        studs=st.booleans(),
    )
    def test_every_place_satisfies_everything(
        self, width: int, things: list[tuple[int, int, int, int]], studs: bool
    ) -> None:
        objects = tuple(
            replace(thing("other", *one), name=f"thing {number}")
            for number, one in enumerate(things)
        )
        job = framed(0) if studs else BRICK
        wall = job.wall
        assert wall is not None
        job = replace(job, wall=replace(wall, width_mm=float(width), objects=objects))
        found = find_places(job, "Inverter")
        for place in found.places:
            hung = device(with_device_at(job, "Inverter", place.x_mm, place.y_mm))
            bad = [one.reason for one in hung.judgements if one.verdict == "stop"]
            self.assertEqual(bad, [])
        self.assertTrue(found.line)

    def test_best_first_and_why_none(self) -> None:
        best = find_places(BRICK, "Inverter").places[0]
        # The display, 90 mm below its top, at eye height.
        self.assertEqual(best.y_mm + 510 - 90, 1550)
        # Studs 300 apart take both top screws: such a place comes before one nearer to the eye.
        fitting = framed(0, stud_pitch_mm=300.0)
        first = find_places(fitting, "Inverter").places[0]
        self.assertIn("2 of 2 top screws in studs", first.reason)
        # What no place can mend is said beside the places.
        shallow = find_places(with_wall(sample_job(), front_mm=300.0), "Inverter")
        self.assertIn("300 mm in front", shallow.line.replace("\u00a0", " "))
        narrow = with_wall(sample_job(), width_mm=700.0)
        none = find_places(narrow, "Inverter")
        self.assertEqual(none.places, ())
        self.assertIn("830", none.line)
        with self.assertRaises(Refused):
            find_places(sample_job(), "Inverter")
        with self.assertRaises(Refused):
            find_places(BRICK, "Nothing")


class BadWalls(TestCase):
    def test_refused_with_field_and_range(self) -> None:
        base: dict[str, Any] = {
            "kind": "solid",
            "width_mm": 3000,
            "height_mm": 2500,
            "thickness_mm": 200,
            "azimuth_deg": 0,
        }
        for changes, field in (
            ({"kind": "stud", "stud_pitch_mm": 0}, "stud_pitch_mm"),
            ({"kind": "stud"}, "stud_pitch_mm"),
            ({"width_mm": 100}, "width_mm"),
            ({"datum_mm": 2600}, "datum_mm"),
            (
                {
                    "objects": tuple(
                        replace(thing("pipe", n, 0, 10, 10), name=str(n)) for n in range(500)
                    )
                },
                "objects",
            ),
            (
                {"objects": (thing("pipe", 1, 0, 9, 9), thing("pipe", 1, 0, 9, 9))},
                "objects[1].name",
            ),
            (
                {"devices": (WallDevice(name="M", kind="meter", label="M", x_mm=0, y_mm=0),)},
                "devices[0].body",
            ),
        ):
            with self.subTest(field=field), self.assertRaises(Refused) as refused:
                Wall(**(base | changes))
            self.assertIn(field, refused.exception.problems[0].path)
        for place in ({"x_mm": -1.0}, {"y_mm": -5.0}):
            with self.assertRaises(Refused):
                WallDevice(
                    **(
                        {"name": "I", "kind": "inverter", "label": "I", "x_mm": 0, "y_mm": 0}
                        | place
                    )
                )

    def test_two_hundred_objects_are_judged(self) -> None:
        objects = tuple(replace(thing("pipe", 10 * n, 0, 5, 100), name=f"p{n}") for n in range(200))
        job = with_wall(sample_job(), objects=objects)
        self.assertEqual(asked(job, "level/Inverter").verdict, "waiting")
