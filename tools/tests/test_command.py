"""The one command as a user calls it: from any folder, with any file."""

from __future__ import annotations

import json
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path
from unittest import TestCase

from tools.house import ROOMS

ROOT = Path(__file__).resolve().parents[2]
EXAMPLE = ROOT / "docs" / "example.noon.json"


def noon(*arguments: str, given: str = "", cwd: Path = ROOT) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [ROOT / "noon", *arguments],
        input=given,
        cwd=cwd,
        capture_output=True,
        text=True,
        check=False,
    )


class Command(TestCase):
    def test_assess_from_another_folder(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            shutil.copy(EXAMPLE, Path(folder) / "job.json")
            done = noon("assess", "job.json", cwd=Path(folder))
        self.assertEqual((done.returncode, done.stderr), (0, ""))
        self.assertEqual(json.loads(done.stdout)["name"], "Lantern House")

    def test_a_rule_from_standard_input(self) -> None:
        done = noon("rule", "ac_cores", "-", given='{"service": "single", "cores": 3}')
        self.assertEqual(json.loads(done.stdout)["result"]["verdict"], "clear")

    def test_a_reader_that_stops_early_is_no_fault(self) -> None:
        done = subprocess.run(
            f"{ROOT}/noon rules | head -1", shell=True, capture_output=True, text=True, check=False
        )
        self.assertEqual(done.stderr, "")

    def test_bad_calls_end_with_two_and_a_line(self) -> None:
        for arguments, given, said in (
            (("assess", "nothing.json"), "", "nothing.json"),
            (("assess", "-"), "{", "line 1, column 2"),
            (("assess", "-"), "{}", "$.module: This field is missing"),
            (("rule", "ac_cores", "-"), "[]", "an object of the rule's parameters"),
            (("rule", "magic", "-"), "{}", "one of"),
            (("assess",), "", "usage"),
            (("dance",), "", "noon demo"),
        ):
            with self.subTest(arguments=arguments):
                done = noon(*arguments, given=given)
                self.assertEqual((done.returncode, done.stdout), (2, ""))
                self.assertIn(said, done.stderr)
                self.assertNotIn("Traceback", done.stderr)

    def test_help_names_every_command(self) -> None:
        said = noon("help").stdout
        for command in (
            "demo",
            "test",
            "serve",
            "assess",
            "rules",
            "rule",
            "bench",
            "count",
            "help",
        ):
            self.assertIn(f"./noon {command}", said)

    def test_count_adds_up(self) -> None:
        rows = [line.split() for line in noon("count").stdout.splitlines()[1:-1]]
        *folders, total = rows
        for column in (1, 2):
            self.assertEqual(sum(int(row[column]) for row in folders), int(total[column]))


class Generated(TestCase):
    def test_a_stale_file_is_found(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            copy = Path(folder)
            for name in (*ROOMS, "docs"):
                shutil.copytree(ROOT / name, copy / name)
            schema = copy / "docs" / "job.schema.json"
            schema.write_text(schema.read_text().replace("Long Noon job file", "Old file"))
            done = subprocess.run(
                [sys.executable, "-m", "tools.generate", "--check"],
                cwd=copy,
                capture_output=True,
                text=True,
                check=False,
            )
        self.assertEqual((done.returncode, done.stderr), (1, ""))
        self.assertIn("docs/job.schema.json is stale", done.stdout)
