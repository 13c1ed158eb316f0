"""Sheets from tables and JSON: read with care, nothing half-read, slips asked about."""

from __future__ import annotations

import json
from dataclasses import replace
from typing import Any
from unittest import TestCase

import jsonschema
from hypothesis import given
from hypothesis import strategies as st

from core.base.errors import Problem, Refused
from core.equipment import catalogue
from core.equipment.catalogue import KINDS, SHEETS, Kind
from core.equipment.catalogue_csv import (
    MOST_PROBLEMS,
    Progress,
    Reading,
    as_csv,
    columns,
    flat,
    read_table,
    sheet_of,
    template,
)
from core.equipment.catalogue_json import as_json, catalogue_schema, read_json

NAMES = [column.name for column in columns("modules")]
SOUND = flat(catalogue.module("ostrel-430"))


def table(*rows: dict[str, str], delimiter: str = ",") -> bytes:
    lines = [NAMES, *([row.get(name, "") for name in NAMES] for row in rows)]
    return "\n".join(delimiter.join(line) for line in lines).encode()


def read_all(raw: bytes, kind: Kind = "modules", **how: Any) -> Reading:
    *_, last = read_table(kind, raw, **how)
    assert isinstance(last, Reading)
    return last


def refused(raw: bytes, kind: Kind = "modules", **how: Any) -> tuple[Problem, ...]:
    try:
        list(read_table(kind, raw, **how))
    except Refused as found:
        return found.problems
    raise AssertionError("was not refused")


class Tables(TestCase):
    def test_every_field_has_its_own_words_in_its_group(self) -> None:
        for kind in KINDS:
            told = [(one.group, one.meaning) for one in columns(kind)]
            self.assertEqual(len(told), len(set(told)), kind)
            self.assertEqual({one.heading for one in columns(kind) if not one.group},
                             {"The piece itself"})  # fmt: skip
        body = {one.name: one for one in columns("inverters")}["body.clearance_left_mm"]
        self.assertEqual((body.meaning, body.unit), ("Free to the left", "mm"))
        second = {one.name: one for one in columns("inverters")}["trackers.2.inputs"]
        self.assertEqual((second.heading, second.row), ("Tracker 2", "trackers"))

    def test_every_kind_goes_out_and_comes_back_whole(self) -> None:
        for kind in KINDS:
            every = list(catalogue.sheets(kind))
            names = [column.name for column in columns(kind)]
            self.assertEqual(list(read_all(as_csv(names, every).encode(), kind).sheets), every)
            *_, back = read_json(kind, as_json(kind, every).encode())
            self.assertEqual(list(getattr(back, "sheets", ())), every)
            jsonschema.validate(json.loads(as_json(kind, every)), catalogue_schema())
            self.assertEqual(read_all(template(kind).encode(), kind).sheets, (every[0],))

    @given(
        voc_v=st.floats(min_value=30, max_value=60),
        inputs=st.integers(min_value=1, max_value=3),
    )
    def test_any_sheet_survives_its_table(self, voc_v: float, inputs: int) -> None:
        module = replace(catalogue.module("ostrel-430"), voc_v=round(voc_v, 2), vmp_v=29.0)
        self.assertEqual(sheet_of("modules", flat(module), as_given=True), module)
        inverter = catalogue.inverter("veyrick-8-battery")
        trackers = tuple(replace(one, inputs=inputs) for one in inverter.trackers)
        inverter = replace(inverter, trackers=trackers)
        self.assertEqual(sheet_of("inverters", flat(inverter)), inverter)

    def test_semicolons_a_mark_decimal_commas_and_units(self) -> None:
        cells = SOUND | {"voc_v": "39,1 V", "beta_voc_pct_per_k": "−0,25", "bifacial": "No"}
        raw = b"\xef\xbb\xbf" + table(cells, delimiter=";").replace(b"\n", b"\r\n")
        self.assertEqual(read_all(raw).sheets, (catalogue.module("ostrel-430"),))

    def test_a_row_that_stands_twice_is_passed_over_another_sheet_of_the_same_id_is_not(
        self,
    ) -> None:
        found = read_all(table(SOUND, SOUND | {"id": "other"}, SOUND))
        self.assertEqual((len(found.sheets), found.doubled_rows), (2, (4,)))
        (wrong,) = refused(table(SOUND, SOUND | {"voc_v": "39.2"}))
        self.assertEqual(wrong.path, "row 3, id")

    def test_each_problem_names_its_row_and_column(self) -> None:
        bad = SOUND | {"id": "x", "voc_v": "900", "noct_c": "warm", "cells_in_series": "54.5"}
        (warm,) = refused(table(SOUND, bad))
        self.assertEqual((warm.path, warm.allowed), ("row 3, noct_c", "35 to 60 °C"))
        (endless,) = refused(table(SOUND | {"voc_v": "inf"}))
        self.assertEqual((endless.path, endless.allowed), ("row 2, voc_v", "1 to 200 V"))
        paths = {one.path for one in refused(table(SOUND, bad | {"noct_c": "45"}))}
        self.assertEqual(paths, {"row 3, voc_v", "row 3, cells_in_series"})
        many = refused(table(*(bad | {"id": str(n)} for n in range(MOST_PROBLEMS + 50))))
        self.assertEqual(len(many), MOST_PROBLEMS)

    def test_what_is_no_table(self) -> None:
        for raw, path in (
            (b"", "file"),
            (b"\xff\xfe\x00", "file"),
            (template("modules").split("\n")[0].encode(), "file"),
            (b"id,colour\nx,blue", "column colour"),
            (table(SOUND).replace(b"noct_c", b"voc_v", 1), "column voc_v"),
            (table(SOUND) + b",one,more", "row 2"),
            (b'id\n"never closed', "column maker"),
        ):
            with self.subTest(raw=raw[:20]):
                self.assertIn(path, {one.path for one in refused(raw)})

    def test_ten_thousand_rows_with_progress(self) -> None:
        steps = list(
            read_table("modules", table(*(SOUND | {"id": f"m{n}"} for n in range(10_000))))
        )
        checked = [step.checked for step in steps if isinstance(step, Progress)]
        self.assertEqual((checked, checked[-1]), (sorted(checked), 10_000))
        self.assertGreater(len(checked), 20)


class Slips(TestCase):
    def test_a_figure_in_another_unit_or_of_the_wrong_sign_is_asked_about(self) -> None:
        # 39.1 V: -0.25 %/K is -0.0978 V/K, -97.8 mV/K and -0.0025 1/K.
        for name, typed, meant in (
            ("beta_voc_pct_per_k", "0.25", -0.25),
            ("beta_voc_pct_per_k", "-0.0025", -0.25),
            ("beta_voc_pct_per_k", "-0.0978", -0.25),
            ("beta_voc_pct_per_k", "-97.8", -0.25),
            ("gamma_pmax_pct_per_k", "0.29", -0.29),
            ("alpha_isc_pct_per_k", "4.5e-2", None),
            ("vmp_v", "41", 39.1),
            ("imp_a", "14", 13.9),
        ):
            with self.subTest(name=name, typed=typed):
                cells = SOUND | {name: typed}
                if meant is None:
                    sheet_of("modules", cells)
                    continue
                with self.assertRaises(Refused) as caught:
                    sheet_of("modules", cells)
                asked = {p.path: p.suggestion for p in caught.exception.problems}
                self.assertAlmostEqual(float(asked[f"$.{name}"]), meant, places=3)

    def test_given_twice_it_is_taken_but_never_beyond_its_range(self) -> None:
        # An unusual but possible coefficient, and a nameplate power that does not multiply out.
        odd = SOUND | {"beta_voc_pct_per_k": "-0.1", "pmax_w": "480"}
        with self.assertRaises(Refused):
            sheet_of("modules", odd)
        self.assertEqual(flat(sheet_of("modules", odd, as_given=True))["pmax_w"], "480")
        for name, typed in (("beta_voc_pct_per_k", "0.25"), ("vmp_v", "41")):
            with self.assertRaises(Refused):
                sheet_of("modules", SOUND | {name: typed}, as_given=True)

    def test_a_json_file_is_read_as_strictly(self) -> None:
        sound = json.loads(as_json("modules", [catalogue.module("ostrel-430")]))
        slip = sound["sheets"][0] | {"beta_voc_pct_per_k": -0.0025}
        for body, path in (
            (sound | {"kind": "cables"}, "$.kind"),
            (sound | {"sheets": []}, "$.sheets"),
            (sound | {"more": 1}, "$.more"),
            (sound | {"sheets": [slip]}, "$.sheets[0].beta_voc_pct_per_k"),
            (sound | {"sheets": [sound["sheets"][0] | {"voc_v": "39"}]}, "$.sheets[0].voc_v"),
            (sound | {"sheets": [5]}, "$.sheets[0]"),
            ([], "$"),
        ):
            with self.subTest(path=path), self.assertRaises(Refused) as caught:
                list(read_json("modules", json.dumps(body).encode()))
            self.assertIn(path, {p.path for p in caught.exception.problems})

    def test_sheets_that_contradict_themselves_are_refused(self) -> None:
        breaker = flat(catalogue.sheets("breakers")[0])
        optimiser = flat(catalogue.optimiser("fenbrow-500"))
        for kind, cells, path in (
            ("breakers", breaker | {"residual_ma": ""}, "$.residual_ma"),
            ("breakers", breaker | {"least_mm2": "25"}, "$.most_mm2"),
            ("optimisers", optimiser | {"most_in_string": "5"}, "$.most_in_string"),
            ("optimisers", optimiser | {"safety_tolerance_v": "0.6"}, "$.safety_tolerance_v"),
        ):
            with self.subTest(path=path), self.assertRaises(Refused) as caught:
                sheet_of(kind, cells)
            self.assertEqual([p.path for p in caught.exception.problems], [path])
        self.assertEqual(set(SHEETS), set(KINDS))
