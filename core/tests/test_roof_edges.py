"""A roof with its own edges: modules inside them, off what stands there, by hand and by edit."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from unittest import TestCase

from core.assess import assess
from core.base.errors import Refused
from core.edits.every import read_edit
from core.equipment.catalogue import SHIPPED
from core.files.job import read_job, write_job
from core.job.job import Job
from core.tests.samples import micro_job

DRAWN_ROOF = micro_job({"P": ("###", "#.#")})
# The gap is as wide as a module.
ROOF = replace(DRAWN_ROOF, planes=(replace(DRAWN_ROOF.planes[0], gaps=()),))
# Os 405: 1134 by 1762 mm upright, 20 mm between them: the field is 3442 wide and 3544 high.
FIELD_W, FIELD_H = 3 * 1134 + 2 * 20, 2 * 1762 + 20
# The gap of the second row, from the plane's corner: one module in, at the eave's side.
CHIMNEY = {"name": "Chimney", "x_mm": "1600", "y_mm": "600", "width_mm": "800", "height_mm": "900"}
DRAWN = {"do": "outline_plane", "name": "P", "width_mm": "4.1 m", "height_mm": "4400",
         "left_mm": "330", "eave_mm": "500", "obstacles": [CHIMNEY]}  # fmt: skip


def outlined(job: Job = ROOF, **changes: Any) -> Job:
    return read_edit(DRAWN | changes).apply(job, SHIPPED)


def said(job: Job) -> dict[str, str]:
    """The verdict of each rule, and of each edge by its side."""
    found = {}
    for one in assess(job).hang.judgements:
        side = next((s for s in ("left", "right", "ridge", "eave") if f"the {s}" in one.reason), "")
        key = f"{one.rule_id} {side}" if one.rule_id == "roof_edge" else one.rule_id
        found[key] = one.verdict
    return found


class Edges(TestCase):
    def test_a_field_with_a_chimney_by_hand(self) -> None:
        module = ROOF.module
        self.assertEqual((module.short_mm, module.long_mm), (1134, 1762))
        found = said(outlined())
        # Left 330, right 4100 − 330 − 3442 = 328, ridge 4400 − 500 − 3544 = 356, eave 500.
        self.assertEqual(set(found.values()), {"clear"}, found)
        # Told of the tightest; each of the others where it is the tightest.
        tight = {"right": {}, "ridge": {"width_mm": "5000", "left_mm": "500"},
                 "left": {"width_mm": "5000", "height_mm": "6000"}}  # fmt: skip
        free = {"right": 4100 - 330 - FIELD_W, "ridge": 4400 - 500 - FIELD_H, "left": 330}
        for side, changes in tight.items():
            judged = assess(outlined(**changes)).hang.judgements
            edges = [one for one in judged if one.rule_id == "roof_edge"]
            self.assertEqual([round(one.value or 0) for one in edges], [free[side]], side)

    def test_each_thing_that_is_wrong_is_said(self) -> None:
        high = {**CHIMNEY, "y_mm": "3000"}
        for changes, rule, verdict in (
            ({"left_mm": "200"}, "roof_edge left", "watch"),
            ({"eave_mm": "150"}, "roof_edge eave", "watch"),
            ({"height_mm": "4100"}, "roof_edge ridge", "watch"),
            ({"width_mm": "3700"}, "roof_inside", "stop"),
            ({"obstacles": [high]}, "roof_obstacle", "stop"),
        ):
            with self.subTest(changes=changes):
                self.assertEqual(said(outlined(**changes))[rule], verdict)
        told = [j.reason for j in assess(outlined(obstacles=[high])).hang.judgements]
        self.assertTrue(any("row 1 number 2" in one for one in told), told)
        self.assertIn("would lie on Chimney", assess(outlined(obstacles=[high])).hang.line)
        british = replace(outlined(), rule_pack="uk-small")
        self.assertEqual(said(british)["roof_edge left"], "watch")

    def test_bad_entries_are_refused_and_the_rest_comes_back(self) -> None:
        for changes, path in (
            ({"width_mm": "wide"}, "width_mm"),
            ({"obstacles": [{**CHIMNEY, "x_mm": "3900"}]}, "obstacles"),
            ({"name": "Q"}, "name"),
        ):
            with self.subTest(path=path), self.assertRaises(Refused) as refused:
                outlined(**changes)
            self.assertIn(path, refused.exception.problems[0].path)
        job = outlined()
        self.assertEqual(read_job(write_job(job).encode()).planes, job.planes)
        self.assertIsNone(outlined(job, width_mm="").planes[0].outline)
