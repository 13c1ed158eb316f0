"""Labels: worked cases, and each rule against another route to its answer."""

from __future__ import annotations

from datetime import date, timedelta
from itertools import combinations, product
from pathlib import Path
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from core.base.errors import Refused
from core.base.form import read
from core.planning.leave.label_sheets import MARGIN_MM, laid
from core.rules.leave.labels import (
    LabelPlant,
    ReadFrom,
    label_kinds,
    label_sheets,
    letter_mm,
    next_inspection,
    plant_labels,
    run_labels,
)
from core.rules.leave.labels_alike import LabelSaid, labels_alike, words_apart
from core.tests.cases import Case, load

CASES = Path(__file__).parent / "cases"


class Worked(TestCase):
    def case(self, case_id: str) -> Case:
        return next(one for one in load(CASES, "labels") if one["id"] == case_id)

    def test_every_label_of_a_plant(self) -> None:
        case = self.case("t22-o1")
        plant: dict[str, Any] = dict(case["inputs"]["plant"])
        far = plant.pop("reading_distance_m")
        labels = plant_labels(
            plant=read(LabelPlant, plant),
            reading_distance_m=tuple(
                ReadFrom(id=one, distance_m=distance) for one, distance in far.items()
            ),
        )
        rows = [[one.rule, one.of, one.count, one.text, one.letter_mm] for one in labels]
        wanted = case["expected"]
        self.assertEqual(rows, wanted["labels"])
        self.assertEqual(sum(one.count for one in labels), wanted["labels_in_all"])
        self.assertEqual(len({one.text for one in labels}), wanted["different_texts"])

    def test_labels_that_are_too_alike(self) -> None:
        case = self.case("t22-o2")
        found = labels_alike(labels=tuple(read(LabelSaid, one) for one in case["inputs"]["labels"]))
        wanted = case["expected"]
        pairs = [[one.one, one.other, one.why, one.words_apart] for one in found.too_alike]
        self.assertEqual(pairs, wanted["pairs_too_alike"])
        passed = wanted["pairs_at_distance_two_just_passed"]
        self.assertEqual([list(one) for one in found.just_passed], passed)
        self.assertEqual(list(found.unsaid), wanted["labels_that_do_not_say_what_they_do"])
        self.assertEqual(found.compared, wanted["pairs_compared"])


class Rules(TestCase):
    def test_every_kind_says_one_of_its_words_in_every_pack(self) -> None:
        for pack in ("", "uk-small", "north-america", "australia-nz", "germany", "generic-iec"):
            for kind in label_kinds(pack):
                self.assertTrue(set(kind.act_words) & set(kind.text.lower().split()), kind.id)
                self.assertIn("check against the code in force", kind.source)
                self.assertGreaterEqual(
                    kind.height_mm, letter_mm(reading_distance_m=kind.distance_m)
                )

    @given(st.lists(st.sampled_from("ab"), max_size=5), st.lists(st.sampled_from("ab"), max_size=5))
    @settings(max_examples=60)
    def test_words_apart_is_what_a_search_finds(self, one: list[str], other: list[str]) -> None:
        seen, apart = {tuple(one)}, 0
        while tuple(other) not in seen:
            apart += 1
            seen |= {made for words in seen for made in nearby(words) if len(made) <= 6}
        self.assertEqual(words_apart(tuple(one), tuple(other)), apart)

    @given(st.floats(0.1, 60).map(lambda one: round(one, 2)), st.sampled_from((2.0, 3.0, 5.0)))
    def test_no_stretch_of_a_run_is_longer_than_allowed(self, piece: float, most: float) -> None:
        between = run_labels(straight_pieces_m=(piece,), label_spacing_m=most) - 2
        self.assertLessEqual(piece / (between + 1), most + 1e-9)
        self.assertTrue(between == 0 or piece / between > most - 1e-9)

    @given(st.dates(date(2000, 1, 1), date(2060, 1, 1)), st.integers(1, 240))
    def test_the_next_inspection_is_on_the_same_day_or_the_last_of_its_month(
        self, installed: date, months: int
    ) -> None:
        due = next_inspection(installed=installed, inspection_months=months)
        self.assertEqual((due.year - installed.year) * 12 + due.month - installed.month, months)
        last = (due + timedelta(days=1)).month != due.month
        self.assertTrue(due.day == installed.day or (last and due.day < installed.day))

    def test_labels_lie_on_a_sheet_side_by_side_and_never_over_its_edge(self) -> None:
        for wide, high, margin, gutter in product((40, 90, 150), (12, 36), (0, 8, 15), (0, 4)):
            found = label_sheets(
                labels=37, width_mm=wide, height_mm=high, margin_mm=margin, gutter_mm=gutter
            )
            for count, side, paper in ((found.columns, wide, 210), (found.rows, high, 297)):
                used = count * side + (count - 1) * gutter + 2 * margin
                self.assertLessEqual(used, paper)
                self.assertGreater(used + side + gutter, paper)
            room = found.columns * found.rows
            self.assertTrue(room * (found.sheets - 1) < 37 <= room * found.sheets)
        with self.assertRaises(Refused):
            label_sheets(labels=1, width_mm=205, height_mm=20, margin_mm=10, gutter_mm=0)


class Sheets(TestCase):
    @given(st.lists(st.tuples(st.integers(10, 194), st.integers(10, 275)), max_size=30))
    @settings(max_examples=60)
    def test_no_label_lies_on_another_or_over_the_edge(self, sizes: list[tuple[int, int]]) -> None:
        placed = laid(tuple(sizes))
        self.assertEqual(sorted(one.index for one in placed), list(range(len(sizes))))
        boxes = [(one, *sizes[one.index]) for one in placed]
        for one, wide, high in boxes:
            self.assertGreaterEqual(min(one.x_mm, one.y_mm), MARGIN_MM)
            self.assertLessEqual(one.x_mm + wide, 210 - MARGIN_MM)
            self.assertLessEqual(one.y_mm + high, 297 - MARGIN_MM)
        for (a, a_wide, a_high), (b, b_wide, b_high) in combinations(boxes, 2):
            apart = (
                a.sheet != b.sheet
                or a.x_mm + a_wide <= b.x_mm
                or b.x_mm + b_wide <= a.x_mm
                or a.y_mm + a_high <= b.y_mm
                or b.y_mm + b_high <= a.y_mm
            )
            self.assertTrue(apart, (a, b))


def nearby(words: tuple[str, ...]) -> set[tuple[str, ...]]:
    """Every text one word away."""
    places = range(len(words) + 1)
    put = {(*words[:at], new, *words[at:]) for at in places for new in "ab"}
    less = {(*words[:at], *words[at + 1 :]) for at in places}
    other = {(*words[:at], new, *words[at + 1 :]) for at in places[:-1] for new in "ab"}
    return put | less | other
