"""The wheel holds the built front end, gathered for serving, and the record's fonts.

Made by `./noon wheel`, or by `pip wheel .` where the front end was built before.
"""

from __future__ import annotations

import shutil
from pathlib import Path

from setuptools import setup
from setuptools.command.build_py import build_py

ROOT = Path(__file__).parent
SHIPPED = {
    "web/dist": "web",
    ".cache/static": "static",
    ".cache/fonts": "fonts",
    ".cache/engine": "engine",
}


class BuildWithFrontEnd(build_py):
    """Copies what the front end's build and the font maker left into server/shipped."""

    def run(self) -> None:
        super().run()
        for made, name in SHIPPED.items():
            source = ROOT / made
            if not source.is_dir():
                raise SystemExit(f"{made} is not built yet: run ./noon wheel, which builds it")
            target = Path(self.build_lib) / "server" / "shipped" / name
            shutil.copytree(source, target, dirs_exist_ok=True)


setup(cmdclass={"build_py": BuildWithFrontEnd})
