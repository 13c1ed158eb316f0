"""Beginning a job: what is answered is judged at once, what is not stays open."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from core.base.errors import Refused
from core.begin.questions import Answers, Beginning, Way, asked, completed
from core.begin.template import templated
from core.edits.new_job import NewJob, begun
from core.edits.roof_text import roof_of_table, roof_parts
from core.equipment.catalogue import SHIPPED
from core.figures.rule_packs import known_packs, pack, pack_in
from core.files.job import read_job, write_job
from core.job.fingerprints import stamped
from core.tests.test_sums import demo_jobs

TODAY = date(2026, 11, 30)
ID = "7b1f6a8e-58d3-4f0e-9f3e-2f5d7a1c9b10"
WALL: dict[str, Any] = {
    "name": "Net Loft", "place": "Pellwick", "latitude_deg": "54.2", "longitude_deg": "0.6",
    "timezone": "Europe/London", "t_air_min_c": "-9", "t_air_max_c": "31 °C",
    "climate_source": "Harbour log", "module": "ostrel-430", "inverter": "veyrick-5",
    "roof": "Front 2 x 4, Back 7",
}  # fmt: skip
UNITS = {"inverter": "", "micro": "skerrow-tern-400", "trunk": "skerrow-trunk-130"}


def look(way: Way = "wall", *, country: str = "GB", **typed: Any) -> Beginning:
    """How the beginning stands with these answers."""
    answers = Answers(typed=NewJob(**WALL | typed), way=way, country=country)
    return asked(answers, SHIPPED, today=TODAY)


def states(found: Beginning) -> dict[str, str]:
    return {one.id: one.state for one in found.questions}


class Questions(TestCase):
    def test_with_nothing_answered_everything_is_open_and_nothing_is_said(self) -> None:
        found = asked(Answers(typed=NewJob(name="")), SHIPPED, today=TODAY)
        self.assertEqual(set(states(found).values()), {"open"})
        self.assertEqual((found.now, found.lines, found.ways), ("name", (), ()))
        self.assertIn("the coldest and the hottest air", found.missing)

    def test_what_is_missing_keeps_it_from_being_begun_and_is_asked_next(self) -> None:
        for field, question in (
            ("name", "name"), ("t_air_min_c", "air"), ("module", "module"),
            ("inverter", "inverter"),
        ):  # fmt: skip
            with self.subTest(field=field):
                found = look(**{field: ""})
                self.assertEqual((found.now, len(found.missing), found.lines), (question, 1, ()))
        self.assertEqual(look(latitude_deg="", longitude_deg="").now, "where")
        self.assertEqual(look(country="FR").now, "rules")
        self.assertEqual(look("").now, "way")

    def test_each_wrong_answer_is_named_at_its_question(self) -> None:
        for typed, question, said in (
            ({"t_air_min_c": "40"}, "air", "swapped"),
            ({"latitude_deg": "north"}, "where", "north"),
            ({"timezone": "Moon/Base"}, "where", "time zone"),
            ({"module": "moon"}, "module", "moon"),
            ({"inverter": "moon"}, "inverter", "moon"),
            ({"rule_pack": "australia-nz", "inverter": "hathmoor-76-split"}, "inverter", "split"),
            ({"roof": "Front"}, "roof", "no number"),
            ({"roof": "A 3, A 4"}, "roof", "own name"),
            ({"day": "soon"}, "name", "soon"),
        ):  # fmt: skip
            with self.subTest(typed=typed):
                found = look(**typed)
                wrong = {one.id: one.problem for one in found.questions if one.state == "wrong"}
                self.assertEqual([*wrong], [question])
                self.assertIn(said, wrong[question])
        self.assertEqual(states(look("roof", **UNITS, roof="7"))["roof"], "wrong")

    def test_the_country_gives_its_rules_and_another_choice_wins(self) -> None:
        self.assertEqual(look().rule_pack, "uk-small")
        chosen = look(rule_pack="generic-iec")
        self.assertEqual((chosen.rule_pack, states(chosen)["rules"]), ("uk-small", "answered"))
        answers = Answers(typed=NewJob(**WALL), country="DE")
        self.assertEqual(completed(answers).rule_pack, "germany")
        held = [one for name in known_packs() for one in pack(name).countries]
        self.assertEqual(len(held), len(set(held)))
        self.assertIsNone(pack_in("FR"))

    def test_strings_are_shown_with_their_verdicts_and_planned_only_once_taken(self) -> None:
        found = look()
        self.assertEqual(found.now, "strung")
        self.assertTrue(any("String A" in one.text for one in found.lines))
        self.assertEqual(begun(completed(Answers(typed=NewJob(**WALL), country="GB")), SHIPPED,
                               job_id=ID, today=TODAY).strings, ())  # fmt: skip
        taken = look(strung="2")
        self.assertIn(taken.ways[1].text, [one.said for one in taken.questions])
        none = look(roof="3", strung="1")
        self.assertEqual((none.ways, "strung" in states(none)), ((), False))
        self.assertIn("least", none.blocks[0])

    @given(st.data())
    def test_any_answers_are_told_and_never_a_fault(self, data: st.DataObject) -> None:
        texts = st.sampled_from(["", " ", "-9", "31", "x", "12,5 °C", "2 x 4", "ostrel-430", "∞"])
        typed = {name: data.draw(texts, name) for name in WALL} | {"strung": data.draw(texts)}
        way = data.draw(st.sampled_from(["", "wall", "roof"]))
        found = look(way, country=data.draw(st.sampled_from(["", "GB", "ZZ"])), **typed)
        # What is begun has every answer that it must have; what has not says what is missing.
        if not found.missing:
            self.assertTrue(found.lines or found.blocks or way == "roof")
        self.assertEqual(found.now is None, set(states(found).values()) <= {"answered", "skipped"})

    def test_a_job_is_what_was_answered_and_nothing_more(self) -> None:
        job = begun(
            NewJob(**WALL, rule_pack="uk-small", strung="1"), SHIPPED, job_id=ID, today=TODAY
        )
        self.assertEqual(
            [(one.name, one.modules) for one in job.planes], [("Front", 8), ("Back", 0)]
        )
        self.assertEqual([one.modules_in_series for one in job.strings], [8, 7])
        self.assertEqual((job.site.altitude_m, job.feed.others, job.feed.runs), (None, None, ()))
        self.assertTrue(all(one.tilt_deg is None for one in job.planes))
        self.assertEqual(read_job(write_job(job).encode()), stamped(job))


class Roofs(TestCase):
    @given(st.lists(st.tuples(st.integers(1, 30), st.integers(1, 40)), min_size=1, max_size=20))
    def test_a_roof_is_read_as_it_was_said(self, sizes: list[tuple[int, int]]) -> None:
        said = ", ".join(f"P{n}a {rows} x {in_row}" for n, (rows, in_row) in enumerate(sizes))
        parts = roof_parts(said)
        self.assertEqual([(one.rows, one.in_row) for one in parts], sizes)
        self.assertEqual([one.plane().modules for one in parts], [r * c for r, c in sizes])

    def test_how_it_lies_is_taken_where_it_is_said(self) -> None:
        front, lean = roof_parts("Front 2 x 7 at 35° facing south-west, Lean-to 4 modules")
        self.assertEqual((front.tilt_deg, front.azimuth_deg), (35.0, 225.0))
        self.assertEqual((lean.name, lean.modules, lean.tilt_deg), ("Lean-to", 4, None))

    def test_a_planners_table_says_the_same_as_its_line(self) -> None:
        for table in (
            "Plane;Modules;Tilt;Azimuth\nFront;8;35;180\nBack;7;35,5;0\n",
            "surface,rows,columns,pitch,facing\nFront,2,4,35,180\n",
        ):
            roof_parts(roof_of_table(table))
        for table in ("", "Plane\nFront\n", "Plane,Modules\nFront,many\n", "a\x00b,c\n1,2\n"):
            with self.subTest(table=table), self.assertRaises(Refused):
                roof_of_table(table)


class Templates(TestCase):
    def test_an_earlier_job_gives_its_plan_and_nothing_that_was_there(self) -> None:
        new = NewJob(**{name: WALL[name] for name in WALL if name not in ("module", "roof")})
        for like in demo_jobs():
            with self.subTest(job=like.name):
                made = templated(like, new, job_id=ID, today=TODAY)
                self.assertEqual(read_job(write_job(made).encode()), stamped(made))
                self.assertEqual(
                    (made.name, made.day, made.site.place), ("Net Loft", TODAY, "Pellwick")
                )
                kept = (made.readings, made.signatures, made.evidence, made.settings_written)
                self.assertEqual(kept, ((), (), (), ()))
                self.assertEqual((made.planes, made.strings), (like.planes, like.strings))
                self.assertIsNone(made.arrival.permit)
                told = asked(
                    Answers(typed=new, way="", like=like.id), SHIPPED, today=TODAY, like=like
                )
                self.assertEqual((told.now, told.missing, len(told.questions)), (None, (), 3))
        with self.assertRaises(Refused):
            templated(next(demo_jobs()), replace(new, t_air_min_c=""), job_id=ID, today=TODAY)
