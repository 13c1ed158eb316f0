"""Write the generated files, or check that they are fresh (--check).

docs/*.schema.json from the core's values; docs/openapi.json from the API. The client's types
come from docs/openapi.json by the front end's own generator.
"""

from __future__ import annotations

import json
import os
import random
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Any

from core.base.messages import figure

ROOT = Path(__file__).resolve().parent.parent
FIGURES = ROOT / "web" / "src" / "shared" / "lib" / "figures.cases.json"
TYPES = ROOT / "web" / "src" / "shared" / "api" / "schema.d.ts"


def generated() -> dict[Path, str]:
    """Each generated file and what it must hold."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
    import django

    django.setup()
    from core.assessment.whole import assessment_schema
    from core.base.palette import tokens_css
    from core.equipment.catalogue_json import catalogue_schema
    from core.files.job import job_schema
    from server.api import api
    from tools.house import house_md
    from tools.permissions import permissions_md

    return {
        ROOT / "docs" / "job.schema.json": _text(job_schema()),
        ROOT / "docs" / "assessment.schema.json": _text(assessment_schema()),
        ROOT / "docs" / "shelf.schema.json": _text(catalogue_schema()),
        ROOT / "web" / "src" / "styles" / "tokens.css": tokens_css(),
        ROOT / "docs" / "house.md": house_md(),
        ROOT / "docs" / "permissions.md": permissions_md(),
        FIGURES: _text(figure_cases()),
        ROOT / "docs" / "openapi.json": _text(api.get_openapi_schema()),
    }


def figure_cases() -> list[dict[str, Any]]:
    """Numbers as the core writes them, for the front end to be held against."""
    chance = random.Random(232)
    numbers = [232.25, 232.35, 0.125, 2.675, 1.005, -0.04, -0.05, 0.0, 1e6, 99.995, 0.5, 1.5, 2.5]
    numbers += [round(chance.uniform(-700, 700), chance.randint(0, 4)) for _ in range(200)]
    numbers += [chance.randint(-4000, 4000) / 2 ** chance.randint(1, 6) for _ in range(200)]
    return [
        {"value": value, "unit": unit, "digits": digits, "text": figure(value, unit, digits)}
        for value in numbers
        for unit, digits in (("V", 1), ("Ω", 2), ("", 0), ("°", 1))
    ]


def _text(data: Any) -> str:
    return json.dumps(data, indent=1, ensure_ascii=False) + "\n"


def stale_types() -> bool:
    """Whether the client's types differ from what the generator makes now."""
    with tempfile.TemporaryDirectory() as folder:
        fresh = Path(folder) / "schema.d.ts"
        command = [
            "npx",
            "openapi-typescript",
            "../docs/openapi.json",
            "-o",
            str(fresh),
        ]
        subprocess.run(command, cwd=ROOT / "web", check=True, capture_output=True)
        return not TYPES.exists() or fresh.read_text() != TYPES.read_text()


def main(arguments: list[str]) -> int:
    """Write, or with --check say what is stale; exit code 1 when something is."""
    files = generated()
    if "--check" not in arguments:
        for path, text in files.items():
            path.write_text(text, encoding="utf-8")
        return 0
    stale = [path for path, text in files.items() if not path.exists() or path.read_text() != text]
    if not stale and stale_types():
        stale.append(TYPES)
    for path in stale:
        print(f"{path.relative_to(ROOT)} is stale: run ./noon write")
    return 1 if stale else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
