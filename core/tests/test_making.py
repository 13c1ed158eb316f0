"""Logs of what is made by hand: ends of strings, units on the roof, serials of modules."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from core.assess import assess
from core.edits.every import read_edit
from core.edits.planes import shaped
from core.equipment.catalogue import SHIPPED
from core.files.job import read_job, write_job
from core.job.fingerprints import stamped
from core.job.job import Job
from core.job.subjects import END_STEPS, string_ends
from core.tests.commissioned import proved, ready_job, sound_roof
from core.tests.samples import whole_job, with_reading

SOUND = proved(ready_job())
ROOF = sound_roof()
ENDS = string_ends("A")


def ticked(job: Job, pieces: tuple[str, ...], kinds: tuple[str, ...], answer: int = 1) -> Job:
    for piece in pieces:
        for kind in kinds:
            job = with_reading(job, kind, piece, answer)
    return job


def plug(job: Job, string: str = "A") -> tuple[str, str]:
    found = next(one for one in assess(job).string.strings if one.name == string)
    return found.gate.verdict, found.gate.line


def on(job: Job, branch: str = "B1") -> tuple[str, str]:
    found = next(one for one in assess(job).roof.branches if one.name == branch)
    return found.on.verdict, found.on.line


def with_plug(job: Job, sheet: str) -> Job:
    return read_edit({"do": "choose_plug", "id": sheet}).apply(job, SHIPPED)


class Ends(TestCase):
    def test_a_log_that_nobody_began_says_nothing_and_one_begun_waits_for_its_last_step(
        self,
    ) -> None:
        self.assertEqual(plug(SOUND)[0], "clear")
        steps = [(end, kind) for end in ENDS for kind in END_STEPS]
        job = SOUND
        for number, (end, kind) in enumerate(steps, start=1):
            job = with_reading(job, kind, end, 1)
            verdict, line = plug(job)
            self.assertEqual(verdict, "clear" if number == len(steps) else "waiting", line)
        self.assertEqual(assess(job).string.strings[0].ends[3].done, END_STEPS)
        self.assertEqual(read_job(write_job(job).encode()), stamped(job))

    @settings(max_examples=12, deadline=None)
    @given(st.sampled_from(ENDS), st.sampled_from(END_STEPS))
    def test_an_end_that_is_not_good_stops_until_it_is_made_again(
        self, end: str, kind: str
    ) -> None:
        whole = ticked(SOUND, ENDS, END_STEPS)
        bad = with_reading(whole, kind, end, -1, minute=1)
        verdict, line = plug(bad)
        self.assertEqual(verdict, "stop")
        self.assertIn(end, line)
        self.assertEqual(plug(with_reading(bad, kind, end, 1, minute=2))[0], "clear")

    def test_another_size_of_cable_or_make_of_plug_unmakes_the_ends(self) -> None:
        whole = stamped(ticked(SOUND, ENDS, END_STEPS))
        changed = with_plug(whole, "harrow-snap-6")
        self.assertEqual(assess(changed).string.strings[0].ends[0].done, ())


class Plugs(TestCase):
    def test_a_make_is_held_against_cable_volts_and_current(self) -> None:
        job = with_plug(SOUND, "tarn-p4")
        judged = {one.rule_id: one for one in assess(job).string.strings[0].judgements}
        for rule in ("plug_volts", "plug_current", "plug_grips"):
            self.assertEqual(judged[rule].verdict, "clear", rule)
        self.assertIn("Strip 7 mm.", [o.replace("\u00a0", " ") for o in assess(job).string.plug])
        sheet = job.feed.dc.plug
        for field, value, rule in (
            ("rated_v", 300.0, "plug_volts"),
            ("rated_a", 5.0, "plug_current"),
            ("least_mm2", 6.0, "plug_grips"),
        ):
            weak = replace(job.feed.dc, plug=replace(sheet, **{field: value}))
            found = assess(replace(job, feed=replace(job.feed, dc=weak)))
            judged = {one.rule_id: one for one in found.string.strings[0].judgements}
            self.assertEqual(judged[rule].verdict, "stop", rule)
            self.assertEqual(found.string.strings[0].gate.verdict, "stop")

    def test_the_seal_is_asked_of_the_cables_own_diameter(self) -> None:
        job = with_plug(SOUND, "tarn-p4")
        for outside_mm, verdict in ((5.0, "clear"), (6.1, "clear"), (7.3, "stop"), (4.9, "stop")):
            strings = tuple(
                replace(
                    one, home_run=tuple(replace(p, outside_mm=outside_mm) for p in one.home_run)
                )
                for one in job.strings
            )
            found = assess(replace(job, strings=strings)).string.strings[0].judgements
            (told,) = {one for one in found if one.rule_id == "plug_seals"}
            self.assertEqual(told.verdict, verdict)


class Units(TestCase):
    def test_a_half_made_branch_waits_and_says_where_to_go_on(self) -> None:
        self.assertEqual(on(ROOF)[0], "clear")
        kinds = tuple(one.kind for one in assess(ROOF).roof.unit_steps)
        self.assertEqual(kinds, ("unit_bolt", "unit_click", "unit_joint", "unit_label"))
        branch = next(one for one in ROOF.roof_plan.branches if one.name == "B1")
        half = ticked(ROOF, branch.units[:3], kinds)
        verdict, line = on(half)
        self.assertEqual(verdict, "waiting")
        self.assertIn(f"{branch.units[3]}, bolt", line)
        whole = ticked(half, branch.units[3:], kinds)
        self.assertEqual(on(whole)[0], "clear")
        bad = with_reading(whole, "unit_click", branch.units[1], -1, minute=1)
        self.assertEqual(on(bad)[0], "stop")

    def test_a_washer_is_asked_for_where_units_are_earthed_by_one(self) -> None:
        washed = replace(ROOF, micro=replace(ROOF.roof_plan, earth="washer"))
        self.assertIn("unit_washer", [one.kind for one in assess(washed).roof.unit_steps])


class Serials(TestCase):
    def test_they_are_asked_for_where_a_warranty_does_and_lock_nothing(self) -> None:
        job = replace(ROOF, module=replace(ROOF.module, serials_kept=True))
        serials = assess(job).roof.serials
        self.assertEqual((serials.wanted, serials.taken), (True, 0))
        self.assertEqual(serials.of, sum(plane.modules for plane in job.planes))
        self.assertEqual(on(job)[0], "clear")
        for number, one in enumerate(serials.modules):
            job = with_reading(job, "module_serial", one.place, 0, text=f"M{number:06d}")
        (told,) = assess(job).roof.serials.judgements
        self.assertEqual(told.verdict, "clear")
        first, second = (one.place for one in serials.modules[:2])
        doubled = with_reading(job, "module_serial", second, 0, text="M000000", minute=1)
        (told,) = assess(doubled).roof.serials.judgements
        self.assertEqual(told.verdict, "stop")
        self.assertIn("M000000", told.reason)
        self.assertEqual(assess(ROOF).roof.serials.modules, ())
        self.assertTrue(first)

    def test_a_roof_that_is_not_drawn_is_asked_for_and_a_module_that_goes_keeps_its_serial(
        self,
    ) -> None:
        bare = whole_job()
        bare = replace(bare, module=replace(bare.module, serials_kept=True))
        undrawn = replace(
            bare,
            planes=tuple(replace(one, rows=()) for one in bare.planes),
            strings=tuple(replace(one, places=()) for one in bare.strings),
        )
        (told,) = assess(undrawn).string.serials.judgements
        self.assertEqual(told.verdict, "waiting")
        drawn = shaped(undrawn, undrawn.planes[0].name, ("###",))
        place = assess(drawn).string.serials.modules[2].place
        kept = with_reading(drawn, "module_serial", place, 0, text="M1")
        fewer = shaped(kept, kept.planes[0].name, ("##",))
        self.assertIn("M1", [one.reading.text for one in assess(fewer).past_readings])
