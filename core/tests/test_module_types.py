"""Modules of several types on one roof: each string judged as if its type were the job's."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from core.assess import assess
from core.base.errors import Refused
from core.edits.every import read_edit
from core.edits.strings import arranged
from core.equipment.catalogue import SHIPPED, sheets
from core.equipment.module import Module
from core.files.job import read_job, write_job
from core.job.fingerprints import stamped
from core.job.job import Job
from core.planning.dc.arrangements import arrange
from core.planning.goods.load_list import load_in
from core.tests.samples import measured_job, micro_job, whole_job

TYPES: tuple[Module, ...] = tuple(one for one in sheets("modules") if isinstance(one, Module))


def laid(job: Job, types: dict[str, Module]) -> Job:
    """The job with other modules on some of its planes."""
    planes = (replace(one, module=types.get(one.name, one.module)) for one in job.planes)
    return replace(job, planes=tuple(planes))


class Types(TestCase):
    @settings(max_examples=40)
    @given(st.sampled_from(TYPES), st.sampled_from(TYPES), st.sampled_from((0, 1)))
    def test_each_string_is_judged_as_if_its_type_were_the_jobs(
        self, east: Module, west: Module, which: int
    ) -> None:
        base = (measured_job(), whole_job())[which]
        mixed = assess(laid(base, {"East": east, "West": west}))
        for plane, module in (("East", east), ("West", west)):
            alone = assess(replace(base, module=module))
            names = {one.name for one in base.strings if one.plane == plane}
            for had, wanted in zip(mixed.string.strings, alone.string.strings, strict=True):
                if had.name in names and had.expected is not None and had.expected.neighbour:
                    continue  # Told from a string beside it, which may be of another type here.
                if had.name in names:
                    self.assertEqual(
                        replace(had, gate=wanted.gate, off_pct=None), replace(wanted, off_pct=None)
                    )
            for had, wanted in zip(mixed.string.trackers, alone.string.trackers, strict=True):
                if set(had.strings) <= names:
                    self.assertEqual(had, wanted)
            asked = {one.key: one for one in alone.asks}
            for one in mixed.asks:
                if one.kind in ("short_circuit", "insulation_volts") and one.subject in names:
                    self.assertEqual(one, asked[one.key])

    def test_what_is_counted_is_counted_by_type(self) -> None:
        job = laid(measured_job(), {"West": TYPES[3]})
        # Each type has a line of its own: one counted on the drive says nothing of the other.
        lines = [one.id for one in load_in(job)]
        self.assertEqual(len(lines), len(set(lines)))
        counts = {one.what: one.count for one in load_in(job) if one.group == "equipment"}
        self.assertEqual((counts[job.module.label], counts[TYPES[3].label]), (11, 9))
        watts = 11 * job.module.pmax_w + 9 * TYPES[3].pmax_w
        self.assertEqual(assess(job).string.array_w, watts)
        self.assertEqual(read_job(write_job(job).encode()), stamped(job))

    def test_two_types_on_one_tracker_are_stopped_and_never_proposed(self) -> None:
        job = laid(measured_job(), {"West": TYPES[3]})
        both = replace(job, strings=tuple(replace(one, tracker=1) for one in job.strings))
        rules = {one.rule_id: one for one in assess(both).string.trackers[0].judgements}
        self.assertEqual(rules["tracker_one_type"].verdict, "stop")
        alike = replace(
            job, planes=tuple(replace(p, tilt_deg=30.0, azimuth_deg=180.0) for p in job.planes)
        )
        found = arrange(alike, {"East": 14, "West": 14})
        self.assertTrue(found.ranked)
        for one in found.ranked:
            taken = arranged(alike, one.strings)
            for tracker in assess(taken).string.trackers:
                self.assertNotIn("tracker_one_type", {
                    judged.rule_id for judged in tracker.judgements if judged.verdict == "stop"
                })  # fmt: skip

    def test_a_unit_is_judged_with_every_type_of_its_roof(self) -> None:
        job = micro_job({"P": ("###",), "Q": ("##",)})
        job = laid(job, {"Q": replace(job.module, id="strong", isc_a=40.0)})
        roof = assess(job).roof
        assert roof is not None
        over = [one for one in roof.judgements if one.rule_id == "unit_current"]
        self.assertEqual([one.verdict for one in over], ["clear", "stop"])
        self.assertEqual({p.verdict for p in assess(job).permissions} & {"clear", "watch"}, set())

    def test_what_came_instead_of_one_type_leaves_the_other(self) -> None:
        job = measured_job()
        other = next(one for one in TYPES if one.id != job.module.id)
        came = next(one for one in TYPES if one.id not in (job.module.id, other.id))
        two = laid(job, {"West": other})
        edit = {"do": "substitute", "kind": "modules", "was": other.label, "id": came.id}
        made = read_edit(edit).apply(two, SHIPPED)
        self.assertEqual((made.module, made.module_on("West")), (job.module, came))
        made = read_edit(edit | {"was": job.module.label}).apply(two, SHIPPED)
        self.assertEqual((made.module, made.module_on("West")), (came, other))
        with self.assertRaises(Refused):
            read_edit(edit | {"was": "Moon 1"}).apply(two, SHIPPED)

    def test_a_plane_takes_a_type_and_gives_it_back(self) -> None:
        job = measured_job()
        other = next(one for one in TYPES if one.id != job.module.id)
        edit = {"do": "take_sheet", "kind": "modules", "id": other.id, "plane": "West"}
        made = read_edit(edit).apply(job, SHIPPED)
        self.assertEqual((made.module, made.module_on("West")), (job.module, other))
        self.assertEqual(read_edit(edit | {"id": None}).apply(made, SHIPPED), job)
        for spoiled in ({"plane": "Moon"}, {"kind": "inverters", "id": "veyrick-5"}):
            with self.assertRaises(Refused):
                read_edit(edit | spoiled).apply(job, SHIPPED)
