"""What must hold of every wall, earth path and load-in sheet, tried on many that nobody planned."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from core.assess import assess
from core.base.errors import Refused
from core.edits.earth import with_methods, without_link, without_node
from core.edits.wall import with_device, with_device_at, with_object, without_device, without_object
from core.equipment import catalogue
from core.equipment.body import Body, Bracket
from core.files.job import read_job, write_job
from core.job.earthing import Earthing, EarthLink, EarthNode
from core.job.feed import one_run
from core.job.fingerprints import stamped
from core.job.job import Job
from core.job.microinverter import TrunkLink
from core.job.strings import StringPlan
from core.job.wall import Rect, Wall, WallDevice, WallObject
from core.planning.earth.path import reaching
from core.planning.goods.load_list import load_in, per_lines
from core.planning.wall.space import NO_NEEDS, Blocker, needs_of, spaces
from core.rules.arrival.nameplate import is_goods_number, serial_in
from core.rules.wall.hole_marks import hole_marks
from core.rules.wall.wall_fixings import fixing_load
from core.tests.samples import micro_job, sample_job, settled, with_reading, with_wall

MM = st.integers(0, 2500)
SETTLED = settled(sample_job())
NAMES = ("one", "two", "three")

bodies = st.builds(
    lambda w, h, top, below, pattern: Body(
        width_mm=w,
        height_mm=h,
        depth_mm=100,
        mass_kg=10,
        clearance_left_mm=below,
        bracket=Bracket(
            pattern_w_mm=w * pattern,
            pattern_h_mm=h / 3,
            top_row_below_top_mm=h / 8,
            top_fixings=top,
            all_fixings=top + below % 4,
            cg_from_wall_mm=50,
            top_row_above_pivot_mm=h * 0.8,
        ),
    ),
    w=st.integers(100, 900),
    h=st.integers(100, 900),
    top=st.integers(1, 5),
    below=st.integers(0, 400),
    pattern=st.floats(0.1, 1),
)


class Marks(TestCase):
    @given(body=bodies, x=MM, y=MM, right=MM, up=MM)
    def test_marks_lie_on_the_device_and_move_with_it(
        self, body: Body, x: int, y: int, right: int, up: int
    ) -> None:
        marks = hole_marks(body=body, left_edge_mm=x, top_above_datum_mm=y, datum_mm=1500)
        bracket = body.bracket
        assert bracket is not None
        self.assertEqual(len(marks.holes), bracket.all_fixings)
        middle = x + body.width_mm / 2
        for hole in marks.holes:
            self.assertTrue(x - 1e-6 <= hole.x_mm <= x + body.width_mm + 1e-6)
            self.assertLessEqual(hole.above_datum_mm, y)
            self.assertAlmostEqual(hole.above_floor_mm - hole.above_datum_mm, 1500)
        top = [hole.x_mm for hole in marks.holes[: bracket.top_fixings]]
        self.assertAlmostEqual(sum(top) / len(top), middle)
        moved = hole_marks(
            body=body, left_edge_mm=x + right, top_above_datum_mm=y + up, datum_mm=1500
        )
        self.assertAlmostEqual(moved.diagonal_mm, marks.diagonal_mm)
        for before, after in zip(marks.holes, moved.holes, strict=True):
            self.assertAlmostEqual(after.x_mm - before.x_mm, right)
            self.assertAlmostEqual(after.above_datum_mm - before.above_datum_mm, up)

    @given(
        mass=st.floats(1, 100),
        lever=st.floats(10, 400),
        arm=st.floats(50, 900),
        top=st.integers(1, 6),
    )
    def test_loads_are_in_balance(self, mass: float, lever: float, arm: float, top: int) -> None:
        load = fixing_load(
            mass_kg=mass,
            cg_from_wall_mm=lever,
            top_row_above_pivot_mm=arm,
            top_fixings=top,
            all_fixings=2 * top,
        )
        # Moments about the lower edge, and forces down the wall.
        self.assertAlmostEqual(load.tension_per_top_fixing_n * top * arm, load.weight_n * lever, 4)
        self.assertAlmostEqual(load.shear_per_fixing_n * 2 * top, load.weight_n, 6)
        self.assertLessEqual(load.resultant_per_top_fixing_n, load.tension_plus_shear_n + 1e-9)


class Spaces(TestCase):
    @given(
        body=bodies,
        x=MM,
        y=MM,
        others=st.lists(st.tuples(MM, MM, st.integers(10, 900), st.integers(10, 900)), max_size=8),
    )
    def test_a_device_has_its_space_just_when_its_zone_is_free(
        self, body: Body, x: int, y: int, others: list[tuple[int, int, int, int]]
    ) -> None:
        wall = Wall(kind="solid", width_mm=3500, height_mm=3500, thickness_mm=200, azimuth_deg=0)
        rect, needs = Rect(x, y, body.width_mm, body.height_mm), needs_of(body)
        around = tuple(Blocker(str(n), Rect(*other), NO_NEEDS) for n, other in enumerate(others))
        found = spaces(wall, rect, needs, around)
        # Another way to it: the device with its clearances as one rectangle.
        zone = Rect(
            x - needs["left"],
            y - needs["bottom"],
            needs["left"] + rect.w + needs["right"],
            needs["bottom"] + rect.h + needs["top"],
        )
        is_inside = zone.x >= 0 and zone.y >= 0 and zone.right <= 3500 and zone.top <= 3500
        is_free = is_inside and not any(zone.overlaps(one.rect) for one in around)
        self.assertEqual(all(space.spare_mm >= 0 for space in found), is_free)


class Edits(TestCase):
    @settings(max_examples=60, deadline=None)
    @given(
        steps=st.lists(st.tuples(st.integers(0, 6), st.sampled_from(NAMES), MM, MM), max_size=25)
    )
    def test_whatever_is_changed_on_a_wall_nothing_read_is_lost(
        self, steps: list[tuple[int, str, int, int]]
    ) -> None:
        job = with_wall(sample_job())
        for minute, step in enumerate(steps):
            try:
                job = changed(job, step, minute)
            except Refused:
                continue
            self.assertEqual(read_job(write_job(job).encode()), stamped(job))
        said = assess(job)
        seen = {one.id for ask in said.asks for one in ask.history}
        seen |= {one.reading.id for one in said.past_readings}
        self.assertEqual(seen, {reading.id for reading in job.readings})

    def test_whatever_is_changed_of_a_path_nothing_read_is_lost(self) -> None:
        job = SETTLED
        read = {reading.id for reading in job.readings if reading.kind == "continuity"}
        job = without_node(without_link(job, job.earthing.links[-1].name), "Rails East")
        job = with_methods(job, "none", "none", lightning=True)
        said = assess(job)
        seen = {one.id for ask in said.asks for one in ask.history}
        seen |= {one.reading.id for one in said.past_readings}
        self.assertLessEqual(read, seen)


def changed(job: Job, step: tuple[int, str, int, int], minute: int) -> Job:
    """The job after one step that a hand could take, sensible or not."""
    what, name, x, y = step
    match what:
        case 0:
            unit = catalogue.sheets("wall_units")[0]
            body: Any = getattr(unit, "body", None)
            return with_device(
                job,
                WallDevice(name=name, kind="meter", label=unit.label, x_mm=x, y_mm=y, body=body),
            )
        case 1:
            return with_device_at(job, name, x, y)
        case 2:
            return without_device(job, name)
        case 3:
            thing = WallObject(
                name=name, kind="pipe", x_mm=x, y_mm=y, width_mm=1 + x, height_mm=1 + y
            )
            return with_object(job, None, thing)
        case 4:
            return without_object(job, name)
        case 5:
            return with_reading(job, "level", name, float(x % 9), minute=minute)
        case _:
            return with_reading(job, "way_up", name, 1, minute=minute)


class Paths(TestCase):
    @given(
        links=st.lists(st.tuples(st.integers(0, 9), st.integers(0, 9)), max_size=20),
        electrode=st.integers(0, 9),
    )
    def test_what_reaches_the_electrode(self, links: list[tuple[int, int]], electrode: int) -> None:
        pairs = [(a, b) for a, b in dict.fromkeys(links) if a != b]
        earthing = Earthing(
            nodes=tuple(
                EarthNode(name=str(n), kind="electrode" if n == electrode else "other")
                for n in range(10)
            ),
            links=tuple(
                EarthLink(name=f"{a} {b}", start=str(a), end=str(b), how="clamp") for a, b in pairs
            ),
        )
        # Another way to it: groups that are joined pair by pair.
        group = list(range(10))
        for _ in pairs:
            for a, b in pairs:
                group[a] = group[b] = min(group[a], group[b])
        wanted = {str(n) for n in range(10) if group[n] == group[electrode]}
        self.assertEqual(reaching(earthing), wanted)


class Goods(TestCase):
    @given(counts=st.lists(st.integers(1, 20), min_size=1, max_size=6), cores=st.integers(3, 5))
    def test_lines_stand_once_and_follow_the_plan(self, counts: list[int], cores: int) -> None:
        base = sample_job()
        strings = tuple(
            StringPlan(name=f"S{n}", tracker=1 + n % 2, plane="East", modules_in_series=count)
            for n, count in enumerate(counts)
        )
        job = replace(
            base, strings=strings, feed=one_run(length_m=20.0, section_mm2=6.0, cores=cores)
        )
        lines = {line.id: line for line in load_in(job)}
        self.assertEqual(len(lines), len(load_in(job)))
        self.assertEqual(lines["modules"].count, sum(counts))
        self.assertEqual(lines["washers"].count, 2 * sum(counts))
        self.assertEqual(lines["plugs_array"].count, len(counts))
        self.assertEqual(lines["label_string"].count, 4 * len(counts))
        self.assertEqual(lines["ferrules"].count, 2 * cores)
        # Two inputs: what is not used is capped, what is beyond them needs branch plugs.
        used = min(sum(n % 2 == 0 for n in range(len(counts))), 1) + min(len(counts) // 2, 1)
        capped = lines["caps_inputs"].count if "caps_inputs" in lines else 0
        branched = lines["branches"].count if "branches" in lines else 0
        self.assertEqual((capped, branched), (2 * (2 - used), len(counts) - used))

    def test_every_line_of_the_data_is_asked_for_by_some_job(self) -> None:
        inverter = catalogue.inverter("veyrick-5")
        heavy = replace(inverter, body=replace(inverter.body, mass_kg=60.0))  # type: ignore[type-var]
        fused = tuple(replace(s, fuse_a=15.0, places=s.places[::2]) for s in SETTLED.strings)
        one_tracker = (*fused, replace(fused[0], name="C", places=()))
        jobs = (
            replace(SETTLED, inverter=heavy, strings=fused),
            replace(SETTLED, strings=one_tracker),
            replace(SETTLED, strings=SETTLED.strings[:1]),
            with_methods(SETTLED, "wire", "none", lightning=False),
            *roofs_of_every_kind(),
        )
        asked = {line.id for job in jobs for line in load_in(job)}
        self.assertLessEqual({line.id for line in per_lines()}, asked)


def roofs_of_every_kind() -> tuple[Job, ...]:
    """Roofs that need every part between them: skips, extensions, tees, joints, leads, earths."""
    skips = micro_job({"East": ("#####.####",)})
    plan = skips.roof_plan
    fed = replace(plan.branches[0], feed="centre")
    ways = tuple(
        TrunkLink(after=plan.branches[0].units[at], how=how)
        for at, how in ((0, "joint"), (4, "extension"))
    )
    middle = replace(plan, earth="washer", branches=(replace(fed, links=ways),))
    short = replace(plan.unit, lead_reach_mm=100.0, inputs=2)
    pairs = micro_job({"East": ("###",)}, unit="skerrow-tern-duo-800")
    leads = replace(pairs.roof_plan, unit=short, earth="wire")
    linked = micro_job({"East": ("##",)}, trunk="marram-chain-l")
    # Two links of 1.2 m and a joint between them.
    far = TrunkLink(after=linked.roof_plan.branches[0].units[0], length_m=2.4)
    chain = replace(linked.roof_plan.branches[0], links=(far,))
    built = replace(linked, micro=replace(linked.roof_plan, branches=(chain,)))
    return skips, replace(skips, micro=middle), replace(pairs, micro=leads), built


class Labels(TestCase):
    @given(digits=st.from_regex(r"\d{12}", fullmatch=True))
    def test_goods_numbers_by_their_check_digit(self, digits: str) -> None:
        # The check digit as the standard words it: from the right, threefold and once in turn.
        odd, even = sum(map(int, digits[::-1][::2])), sum(map(int, digits[::-1][1::2]))
        check = (10 - (3 * odd + even) % 10) % 10
        self.assertTrue(is_goods_number(f"{digits}{check}"))
        self.assertFalse(is_goods_number(f"{digits}{(check + 1) % 10}"))

    @given(
        serial=st.from_regex(r"VF\d{8}", fullmatch=True), around=st.text("xyz;:=/ \n", max_size=12)
    )
    def test_a_serial_is_found_whatever_stands_around_it(self, serial: str, around: str) -> None:
        self.assertEqual(
            serial_in(scanned=f"{around};{serial};{around}", form="VF########"), serial
        )
