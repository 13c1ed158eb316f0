"""Each guard is broken on purpose: a guard that cannot fail is none."""

from __future__ import annotations

import shutil
import subprocess
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from unittest import TestCase

ROOT = Path(__file__).resolve().parents[2]
LINT_IMPORTS = Path(sys.executable).parent / "lint-imports"


class ImportContract(TestCase):
    def broken_by(self, file: str, line: str) -> str:
        with tempfile.TemporaryDirectory() as folder:
            for name in ("core", "sun", "devices", "server"):
                shutil.copytree(ROOT / name, Path(folder) / name)
            shutil.copy(ROOT / "pyproject.toml", folder)
            target = Path(folder) / file
            target.write_text(target.read_text() + f"\n{line}\n")
            done = subprocess.run(
                [LINT_IMPORTS, "--no-cache"],
                cwd=folder,
                capture_output=True,
                text=True,
                check=False,
            )
        self.assertEqual(done.returncode, 1, done.stdout)
        return next(text for text in done.stdout.splitlines() if text.endswith("BROKEN"))

    def test_each_contract_breaks(self) -> None:
        broken = (
            ("core/assess.py", "import django", "The core is pure"),
            ("core/assess.py", "import pvlib", "The core is pure"),
            ("core/assess.py", "import devices.client", "One direction"),
            ("devices/client.py", "import server.urls", "One direction"),
            ("devices/client.py", "import django", "Devices know no server"),
            ("server/urls.py", "import pvlib", "Only the sun port"),
            ("core/rules/string_roof.py", "import core.planning.arrangements", "Inside the core"),
            ("core/planning/allowance.py", "import core.stages.string", "Inside the core"),
        )
        with ThreadPoolExecutor(2) as pool:
            found = pool.map(lambda row: self.broken_by(row[0], row[1]), broken)
        for (file, line, contract), told in zip(broken, found, strict=True):
            with self.subTest(file=file, line=line):
                self.assertIn(contract, told)


class WebContract(TestCase):
    def lint(self, file: str, line: str) -> str:
        """Lint a real file of the front end with one more import on its first line."""
        text = (ROOT / "web" / file).read_text(encoding="utf-8")
        done = subprocess.run(
            ["npx", "eslint", "--stdin", "--stdin-filename", file],
            cwd=ROOT / "web",
            input=f"{line}\n{text}",
            capture_output=True,
            text=True,
            check=False,
        )
        return done.stdout

    def test_a_stage_may_not_know_another_nor_shared_a_stage(self) -> None:
        broken = (
            ("src/stages/feed/FeedStage.tsx", 'import "../set/SetStage";', "A stage knows shared"),
            ("src/stages/set/SetStage.tsx", 'import "../../app/Arc";', "A stage knows shared"),
            ("src/shared/Entry.tsx", 'import "../stages/feed/FeedStage";', "shared knows nobody"),
            ("src/shared/NewJob.tsx", 'import "../home/Home";', "shared knows nobody"),
            ("src/home/Home.tsx", 'import "../app/Arc";', "A page knows shared"),
            ("src/bench/BenchPage.tsx", 'import "../home/Home";', "A page knows shared"),
            ("src/shelf/ShelfPage.tsx", 'import "../stages/set/SetStage";', "A page knows shared"),
        )
        # Unbroken, every file passes: the linter runs over all of them in the checks.
        with ThreadPoolExecutor(2) as pool:
            found = pool.map(lambda row: self.lint(row[0], row[1]), broken)
        for (file, _, said), told in zip(broken, found, strict=True):
            with self.subTest(file=file):
                self.assertIn(said, told)
