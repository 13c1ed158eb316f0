"""The command line: every rule by name, bad files with exit code 2, never a traceback."""

from __future__ import annotations

import io
import json
import tempfile
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from unittest import TestCase

import core
from core import registry
from core.base import messages as words
from core.base.form import write
from core.cli import main
from core.figures.rule_packs import pack
from core.files.job import write_job
from core.rules.prove.yes_no_steps import STEPS
from core.tests.samples import measured_job


def run(*arguments: str) -> tuple[int, str, str]:
    out, err = io.StringIO(), io.StringIO()
    with redirect_stdout(out), redirect_stderr(err):
        code = main(list(arguments))
    return code, out.getvalue(), err.getvalue()


def run_rule(name: str, parameters: object) -> tuple[int, str, str]:
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "parameters.json"
        file.write_text(json.dumps(parameters), encoding="utf-8")
        return run("rule", name, str(file))


class Commands(TestCase):
    def test_assess_prints_the_assessment(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "job.json"
            file.write_text(write_job(measured_job()), encoding="utf-8")
            code, out, err = run("assess", str(file))
        self.assertEqual((code, err), (0, ""))
        self.assertEqual(json.loads(out)["stands_at"], 1)

    def test_every_public_rule_has_a_whole_data_sheet(self) -> None:
        code, out, _ = run("rules")
        self.assertEqual(code, 0)
        for name in registry.rules():
            sheet = registry.data_sheet(name)
            self.assertIn(f"{name}  (", out)
            self.assertIn("?", sheet.question, name)
            self.assertIn("Source:", sheet.notes, name)

    def test_one_rule_on_its_parameters(self) -> None:
        code, out, _ = run_rule(
            "string_voc_cold",
            {
                "modules_in_series": 10,
                "voc_v": 50,
                "beta_voc_pct_per_k": -0.25,
                "t_air_min_c": -15,
                "max_dc_v": 550,
                "max_system_v": 1500,
            },
        )
        judged = json.loads(out)["result"]
        self.assertEqual((code, judged["verdict"], judged["margin"]), (0, "watch", 0.0))

    def test_a_rule_takes_sheets_and_lists(self) -> None:
        segment = {"name": "run", "length_m": 20, "r_ohm_per_km": 4.61, "x_ohm_per_km": 0.08}
        code, out, err = run_rule(
            "ac_rise",
            {
                "run": [segment],
                "service": "single",
                "nominal_v": 230,
                "supply_v": 240,
                "output_va": 5000,
            },
        )
        self.assertEqual((code, err), (0, ""))
        self.assertGreater(json.loads(out)["result"]["terminal_v"], 240)

    def test_a_rule_takes_a_pack_by_name_or_whole(self) -> None:
        cold = {
            "modules_in_series": 10,
            "voc_v": 50,
            "beta_voc_pct_per_k": -0.25,
            "t_air_min_c": -15,
            "max_dc_v": 600,
            "max_system_v": 1500,
            "school": "flat",
        }
        own = write(pack("uk-small"))
        own["cold"]["flat_factor"]["value"] = 1.2
        for rule_pack, value in (("uk-small", 575.0), (own, 600.0)):
            _, out, _ = run_rule("string_voc_cold", cold | {"rule_pack": rule_pack})
            self.assertAlmostEqual(json.loads(out)["result"]["value"], value)
        code, _, err = run_rule("string_voc_cold", cold | {"rule_pack": "moon"})
        self.assertEqual(code, 2)
        self.assertIn("uk-small", err)

    def test_each_new_rule_runs_from_plain_json(self) -> None:
        for name, parameters, wanted in (
            (
                "earth_fault_place",
                {
                    "plus_to_earth_v": 280,
                    "minus_to_earth_v": -120,
                    "plus_to_minus_v": 400,
                    "modules_in_series": 10,
                },
                {"place": 3.0, "between": [3, 4], "fault_ohm": 0.0},
            ),
            (
                "fuse_window",
                {"isc_a": 10.0, "parallel_strings": 3, "max_series_fuse_a": 20},
                {"reverse_a": 25.0, "needed": True, "chosen_a": 15.0},
            ),
            ("string_agreement", {"volts": [95, 105]}, {"mean_pct": 5.0}),
            ("strings_agree", {"volts": [100, 95], "school": "max"}, {"verdict": "watch"}),
            (
                "expected_from_neighbour",
                {
                    "neighbour": "A",
                    "neighbour_v": 440,
                    "neighbour_modules": 11,
                    "modules_in_series": 9,
                },
                {"centre_v": 360.0, "basis": "neighbour"},
            ),
        ):
            with self.subTest(rule=name):
                code, out, err = run_rule(name, parameters)
                self.assertEqual((code, err), (0, ""))
                result = json.loads(out)["result"]
                self.assertEqual({key: result[key] for key in wanted}, wanted)

    def test_bad_parameters_name_their_path_and_what_is_allowed(self) -> None:
        code, out, err = run_rule("ac_cores", {"service": "five", "cores": 40, "colour": "red"})
        self.assertEqual((code, out), (2, ""))
        for said in ("$.service", "single · split · three", "$.cores", "2 to 5", "$.colour"):
            self.assertIn(said, err)

    def test_a_run_over_which_nothing_can_be_exported_is_refused(self) -> None:
        endless = {"name": "run", "length_m": 500, "r_ohm_per_km": 90, "x_ohm_per_km": 2}
        code, _, err = run_rule(
            "ac_rise",
            {
                "run": [endless] * 20,
                "service": "single",
                "nominal_v": 230,
                "supply_v": 230,
                "output_va": 5000,
                "power_factor": 0.5,
                "reactive": "absorbing",
            },
        )
        self.assertEqual(code, 2)
        self.assertIn("$.run", err)

    def test_files_that_are_not_there_or_not_json(self) -> None:
        for arguments in (
            ("assess", "no-such-file.json"),
            ("assess", "/"),
            ("assess", __file__),
            ("rule", "no_such_rule", __file__),
            ("rule", "ac_cores", __file__),
            ("nonsense",),
            (),
        ):
            with self.subTest(arguments=arguments):
                code, out, err = run(*arguments)
                self.assertEqual((code, out), (2, ""))
                self.assertTrue(err)


class Words(TestCase):
    def test_every_sentence_is_used_somewhere(self) -> None:
        here = Path(core.__file__).parent
        source = "".join(
            path.read_text(encoding="utf-8")
            for folder in (here, here.parent / "server")
            for path in folder.rglob("*.py")
            if "tests" not in path.parts
        )
        steps = {f"step_{step}" for step in STEPS}
        for section in words.table():
            self.assertTrue(section in steps or f'"{section}"' in source, section)
