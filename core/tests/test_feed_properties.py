"""Properties of Feed: edits in any order, files of any age, drawings of any job."""

from __future__ import annotations

import json
from dataclasses import replace
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from core.assess import assess
from core.base.drawing import HALF_UNITS, symbols
from core.base.errors import Refused
from core.base.form import limits_of, write
from core.base.glossary import SectionMm2, TorqueNm
from core.base.units import AWG_MM2, gauge_name, parse_quantity, size_name
from core.edits.feed.containment_backup import with_containment, without_containment
from core.edits.feed.devices import with_dc, with_device, without_device
from core.edits.feed.home_runs import with_home_piece, without_home_piece
from core.edits.feed.runs import split_run, with_run, with_run_size, without_run
from core.edits.strings import AddString, with_string, without_string
from core.figures.rule_packs import known_packs, pack
from core.files.job import read_job, write_job
from core.job.feed import AcRun, Containment, FeedDevice, HomeRun
from core.job.fingerprints import stamped
from core.job.job import Job
from core.job.subjects import DEAD_STEPS
from core.tests.samples import sample_job, settled, wired, with_feed, with_reading

FED = wired(with_feed(settled(sample_job())))
names = st.sampled_from(["Board", "AC isolator", "Clamps", "Meter", "Inverter", "Supply point"])
runs = st.sampled_from(["To Board", "To AC isolator", "To Inverter", "Clamps run", "Other"])
strings = st.sampled_from(["A", "B", "C"])
sizes = st.sampled_from([1.5, 4.0, 7.0, 16.0, 5.26, 8.37])
lengths = st.floats(0.05, 60)


def more_strings(job: Job) -> Job:
    """One more, like the last."""
    return with_string(job, AddString())


def edit(draw: Any, job: Job) -> Job:
    """One edit as a user might make it, sense or nonsense."""
    which = draw(st.integers(0, 11))
    name, run, string = draw(names), draw(runs), draw(strings)
    match which:
        case 0:
            return without_run(job, run)
        case 1:
            return with_run_size(job, run, draw(sizes))
        case 2:
            device = FeedDevice(name=name, kind="clamp")
            return split_run(job, run, draw(lengths), device)
        case 3:
            return without_device(job, name)
        case 4:
            found = next(one for one in job.feed.devices if one.kind != "supply")
            return with_device(job, found.name, replace(found, name=name))
        case 5:
            made = AcRun(
                name=run, start=name, end=draw(names), length_m=1.0, section_mm2=6.0, cores=3
            )
            return with_run(job, draw(st.sampled_from([None, run])), made)
        case 6:
            piece = HomeRun(length_m=draw(lengths), section_mm2=4.0, to=name)
            return with_home_piece(job, string, draw(st.sampled_from([None, 1])), piece)
        case 7:
            return without_home_piece(job, string, draw(st.integers(1, 3)))
        case 8:
            way = Containment(name=name, way="pipe", holds=(run, f"string {string}"))
            return with_containment(job, None, way)
        case 9:
            return without_containment(job, name)
        case 10:
            school = draw(st.sampled_from(["none", "manual", "automatic", "both"]))
            return with_dc(job, replace(job.feed.dc, school=school))
        case _:
            make = draw(st.sampled_from([more_strings, lambda j: without_string(j, string)]))
            return make(job)


class Edits(TestCase):
    @settings(max_examples=40, deadline=None)
    @given(data=st.data())
    def test_no_edit_loses_a_reading_or_breaks_the_job(self, data: Any) -> None:
        job, refused = FED, 0
        for _ in range(8):
            try:
                job = edit(data.draw, job)
            except Refused as said:
                refused += 1
                for one in said.problems:
                    self.assertTrue(one.path.startswith("$"))
                    self.assertTrue(one.allowed)
        self.assertEqual(job.readings, FED.readings)
        assessment = assess(job)
        # What was read is either still asked for, or shown as read earlier: never gone.
        shown = {kept.id for ask in assessment.asks for kept in ask.history}
        shown |= {past.reading.id for past in assessment.past_readings}
        shown |= {kept.id for line in assessment.arrive.lines for kept in line.history}
        self.assertLessEqual({one.id for one in job.readings}, shown)
        # The ladder is drawn exactly when the chain is whole.
        whole = job.feed.chain.gap is None
        self.assertEqual(assessment.feed.today is not None, whole)
        places = {one.id for one in assessment.feed.path.places}
        for wire in assessment.feed.path.wires:
            self.assertLessEqual({wire.start, wire.end}, places)
        self.assertEqual(read_job(write_job(job).encode()), stamped(job))

    def test_the_stage_is_clear_of_waiting_only_when_every_end_is_read(self) -> None:
        self.assertNotIn(assess(FED).stages[4].verdict, ("waiting", "stop"))
        for gone in [one for one in FED.readings if one.kind in ("torque", "pull", "dead_step")]:
            left = replace(FED, readings=tuple(one for one in FED.readings if one is not gone))
            self.assertEqual(assess(left).stages[4].verdict, "waiting", gone.subject)

    @settings(max_examples=40, deadline=None)
    @given(minutes=st.permutations(range(7)))
    def test_made_dead_only_in_its_order(self, minutes: list[int]) -> None:
        job = with_feed(settled(sample_job()))
        for step, minute in zip(DEAD_STEPS, minutes, strict=True):
            # Ten minutes from step to step: the capacitors have their time.
            job = with_reading(job, "dead_step", step, 1, minute=10 * minute)
        wanted = "clear" if list(minutes) == sorted(minutes) else "stop"
        self.assertEqual(assess(job).feed.dead.verdict, wanted)


class OlderFiles(TestCase):
    @settings(max_examples=40, deadline=None)
    @given(
        length=st.floats(0.1, 500),
        size=st.sampled_from([1.5, 2.5, 4.0, 6.0, 10.0, 16.0, 25.0, 35.0]),
        cores=st.integers(2, 5),
        home=st.lists(st.one_of(st.none(), st.floats(0.1, 500)), min_size=2, max_size=2),
    )
    def test_any_job_of_version_1_keeps_its_figures(
        self, length: float, size: float, cores: int, home: list[float | None]
    ) -> None:
        data = write(sample_job()) | {
            "version": 1,
            "feed": {"length_m": length, "section_mm2": size, "cores": cores},
        }
        for string, metres in zip(data["strings"], home, strict=True):
            run = None if metres is None else {"length_m": metres, "section_mm2": 4.0}
            string["home_run"] = run
        job = read_job(json.dumps(data).encode())
        (run,) = job.feed.runs
        self.assertEqual((run.length_m, run.section_mm2, run.cores), (length, size, cores))
        lengths = [one.home_run[0].length_m if one.home_run else None for one in job.strings]
        self.assertEqual(lengths, home)
        self.assertEqual(read_job(write_job(job).encode()), stamped(job))


class Symbols(TestCase):
    def test_each_stays_in_its_square_and_meets_its_wires(self) -> None:
        room = {"line": 4, "circle": 3, "rect": 4, "arc": 5, "text": 3}
        for one in symbols().values():
            for stroke in one.strokes:
                self.assertEqual(len(stroke.at), room[stroke.kind], one.id)
                self.assertTrue(all(abs(at) <= HALF_UNITS + 1 for at in stroke.at[:2]), one.id)
            ends = [
                point
                for stroke in one.strokes
                if stroke.kind in ("line", "rect", "circle")
                for point in self.outline(stroke.at, stroke.kind)
            ]
            # A wire ends on the square's edge: left or right, or on top for what hangs below.
            reach = max(max(abs(x), abs(y)) for x, y in ends)
            self.assertGreaterEqual(reach, 8, one.id)

    def outline(self, at: tuple[float, ...], kind: str) -> list[tuple[float, float]]:
        if kind == "line":
            return [(at[0], at[1]), (at[2], at[3])]
        if kind == "rect":
            return [(at[0], at[1]), (at[0] + at[2], at[1] + at[3])]
        return [(at[0] - at[2], at[1]), (at[0] + at[2], at[1])]


class Sizes(TestCase):
    def test_gauges_are_read_in_every_usual_spelling(self) -> None:
        quantity = limits_of(SectionMm2)
        for typed in ("10 AWG", "10awg", "#10 AWG", "AWG 10", "10\u00a0AWG"):
            self.assertEqual(parse_quantity(typed, quantity), AWG_MM2[10])
        for gauge, area in AWG_MM2.items():
            self.assertEqual(parse_quantity(size_name(area), quantity), area)
            self.assertEqual(size_name(area), f"{gauge_name(gauge)}\u00a0AWG")
        for wrong in ("9 AWG", "10 AWGG", "AWG", "10 kcmil"):
            with self.subTest(typed=wrong), self.assertRaises(Refused):
                parse_quantity(wrong, quantity)

    def test_torque_in_the_trades_own_units(self) -> None:
        quantity = limits_of(TorqueNm)
        # 20 in-lb is 2.26 Nm.
        for typed, newton_m in (("2,5 Nm", 2.5), ("250 cNm", 2.5), ("20 in-lb", 2.2597)):
            self.assertAlmostEqual(parse_quantity(typed, quantity), newton_m, places=4)
        with self.assertRaises(Refused):
            parse_quantity("20 lb", quantity)


class Packs(TestCase):
    def test_each_pack_protects_and_colours_as_its_region_does(self) -> None:
        # Continuous factor, busbar school, residual current in TN, the two-core colours.
        wanted = {
            "generic-iec": (1.0, "sum", 300, "brown", "blue", "green and yellow"),
            "uk-small": (1.0, "sum", 300, "brown", "blue", "green and yellow"),
            "germany": (1.0, "sum", 300, "brown", "blue", "green and yellow"),
            "australia-nz": (1.0, "sum", 30, "red", "black", "green and yellow"),
            "north-america": (1.25, "share", 300, "black", "white", "green"),
        }
        self.assertEqual(set(wanted), set(known_packs()))
        for name, row in wanted.items():
            rules = pack(name)
            circuit, colours = rules.circuit, rules.colours
            got = (
                circuit.continuous.value,
                circuit.busbar,
                circuit.residual_tn.value,
                *(colours.of(one).name for one in ("L", "N", "PE")),
            )
            self.assertEqual(got, row, name)
            self.assertEqual(list(circuit.ratings_a), sorted(circuit.ratings_a))
            self.assertEqual({one.conductor for one in colours.conductors}, CONDUCTORS, name)
        self.assertEqual(pack("north-america").circuit.busbar_share.value, 1.2)
        self.assertEqual(pack("generic-iec").circuit.dc_isolator.value, 1.25)
        trips = pack("generic-iec").circuit
        self.assertEqual((trips.trip_b.value, trips.trip_c.value, trips.trip_d.value), (5, 10, 20))

    def test_every_size_of_a_pack_has_a_resistance_and_a_name(self) -> None:
        for name in known_packs():
            rules = pack(name)
            for sizes_mm2 in (rules.ac_sizes_mm2, rules.dc_sizes_mm2):
                self.assertEqual(len(set(sizes_mm2.values())), len(sizes_mm2))
                self.assertLessEqual(set(AWG_MM2.values()), set(sizes_mm2))


CONDUCTORS = {"L", "L1", "L2", "L3", "N", "PE", "plus", "minus"}
