"""Each guard is broken on purpose: a guard that cannot fail is none."""

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
LINT_IMPORTS = Path(sys.executable).parent / "lint-imports"
# One import more in a file, and the contract that it breaks.
BREACHES = (
    ("core/assess.py", "import django", "core is not allowed to import django"),
    ("core/assess.py", "import pvlib", "core is not allowed to import pvlib"),
    ("core/assess.py", "import devices.client", "core is not allowed to import devices"),
    ("devices/client.py", "import server.urls", "devices is not allowed to import server"),
    ("devices/client.py", "import django", "devices is not allowed to import django"),
    ("server/urls.py", "import ortools", "server is not allowed to import ortools"),
    ("schedule/solver.py", "import django", "schedule is not allowed to import django"),
    ("server/urls.py", "import pvlib", "server is not allowed to import pvlib"),
    (
        "core/rules/dc/string_roof.py",
        "import core.planning.dc.arrangements",
        "core.rules is not allowed to import core.planning",
    ),
    (
        "core/planning/dc/allowance.py",
        "import core.stages.string.stage",
        "core.planning is not allowed to import core.stages",
    ),
    (
        "core/edits/planes.py",
        "import core.stages.string.stage",
        "core.edits is not allowed to import core.stages",
    ),
    ("server/jobs/api.py", "import server.bench.api", "server.jobs.api"),
    ("core/loose.py", "", "core.loose"),
)


class ImportContract(TestCase):
    def test_each_contract_breaks(self) -> None:
        """All breaches at once, in a copy: each is told."""
        with tempfile.TemporaryDirectory() as folder:
            for name in ROOMS:
                shutil.copytree(ROOT / name, Path(folder) / name)
            shutil.copy(ROOT / "pyproject.toml", folder)
            for file, line, _ in BREACHES:
                with (Path(folder) / file).open("a") as opened:
                    opened.write(f"\n{line}\n")
            done = subprocess.run(
                [LINT_IMPORTS, "--no-cache"],
                cwd=folder,
                capture_output=True,
                text=True,
                check=False,
            )
        told = " ".join(done.stdout.split())
        self.assertEqual(done.returncode, 1, told)
        for file, line, said in BREACHES:
            with self.subTest(file=file, line=line):
                self.assertIn(said, told)
        for line in done.stdout.splitlines():
            self.assertNotIn("KEPT", line)


class WebContract(TestCase):
    def test_nobody_knows_one_above_or_beside(self) -> None:
        stages = sorted(path.name for path in (ROOT / "web/src/stages").iterdir() if path.is_dir())
        broken = [
            *((f"src/stages/{one}/x.ts", 'import "../../app/Arc";', "stage") for one in stages),
            *(
                (f"src/stages/{one}/x.ts", f'import "../{other}/x";', "stage")
                for one, other in zip(stages, [*stages[1:], stages[0]], strict=True)
            ),
            ("src/shared/fields/x.ts", 'import "../../stages/feed/FeedStage";', "shared"),
            ("src/shared/x.ts", 'import "../home/Home";', "shared"),
            ("src/home/x.ts", 'import "../app/Arc";', "page"),
            ("src/bench/x.ts", 'import "../home/Home";', "page"),
            ("src/shelf/x.ts", 'import "../stages/set/SetStage";', "page"),
            ("src/microinverter/x.ts", 'import "../stages/set/SetStage";', "microinverter"),
        ]
        sound = [("src/stages/feed/x.ts", 'import "../../shared/lib/figures";', "")]
        done = subprocess.run(
            ["node", "tools/contract.js"],
            cwd=ROOT / "web",
            input=json.dumps([{"file": file, "text": line} for file, line, _ in broken + sound]),
            capture_output=True,
            text=True,
            check=True,
        )
        for (file, line, said), told in zip(broken + sound, json.loads(done.stdout), strict=True):
            with self.subTest(file=file, line=line):
                self.assertEqual(bool(told), bool(said))
                self.assertTrue(all(said in one for one in told), told)
