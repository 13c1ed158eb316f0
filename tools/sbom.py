"""What the product is made of: a CycloneDX list of its parts and their licences, for a build.

python -m tools.sbom FOLDER     writes long-noon.cdx.json and licences.txt there
"""

from __future__ import annotations

import json
import re
import subprocess
import sys
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parent.parent
NAME = re.compile(r"^([A-Za-z0-9][A-Za-z0-9._-]*)==", re.MULTILINE)
UNKNOWN = "not said"
# Said in the package's own licence file, not in its metadata.
IN_ITS_FILE = {"pyrage": "MIT"}


def main(folder: Path) -> int:
    """Write both files; 1 where a part says no licence."""
    folder.mkdir(parents=True, exist_ok=True)
    parts = sorted((*_python(), *_web()), key=lambda one: (one["name"].lower(), one["version"]))
    listed = {
        "bomFormat": "CycloneDX",
        "specVersion": "1.6",
        "version": 1,
        "metadata": {"component": {"type": "application", "name": "long-noon"}},
        "components": parts,
    }
    (folder / "long-noon.cdx.json").write_text(json.dumps(listed, indent=1), encoding="utf-8")
    lines = [f"{one['name']} {one['version']}: {licence_of(one)}\n" for one in parts]
    (folder / "licences.txt").write_text("".join(lines), encoding="utf-8")
    silent = [one["name"] for one in parts if licence_of(one) == UNKNOWN]
    sys.stderr.write(f"{len(parts)} parts; no licence said: {', '.join(silent) or 'none'}\n")
    return 1 if silent else 0


def licence_of(part: dict[str, Any]) -> str:
    """The licences that a part names."""
    said = [
        one.get("expression") or one["license"].get("id") or one["license"].get("name") or ""
        for one in part.get("licenses", ())
    ]
    told = " and ".join(dict.fromkeys(filter(None, said)))
    return told or IN_ITS_FILE.get(part["name"], UNKNOWN)


def _python() -> list[dict[str, Any]]:
    """The installed packages that the product runs on."""
    locked = NAME.findall((ROOT / "requirements.txt").read_text(encoding="utf-8"))
    wanted = {_plain(name) for name in locked}
    made = _asked(
        [sys.executable, "-m", "cyclonedx_py", "environment", "--of", "JSON", sys.executable]
    )
    return [_kept(one) for one in made["components"] if _plain(one["name"]) in wanted]


def _web() -> list[dict[str, Any]]:
    """The packages that are built into the front end, as they were installed."""
    lock = json.loads((ROOT / "web" / "package-lock.json").read_text(encoding="utf-8"))
    return [
        _package(ROOT / "web" / path)
        for path, told in lock["packages"].items()
        if path and not told.get("dev") and not told.get("optional")
    ]


def _package(folder: Path) -> dict[str, Any]:
    told = json.loads((folder / "package.json").read_text(encoding="utf-8"))
    name, version = told["name"], told["version"]
    licence = told.get("license", "")
    return {
        "type": "library",
        "name": name,
        "version": version,
        "purl": f"pkg:npm/{name.replace('@', '%40')}@{version}",
        "licenses": [{"expression": licence}] if isinstance(licence, str) and licence else [],
    }


def _asked(command: list[str]) -> Any:
    made = subprocess.run(command, cwd=ROOT, check=True, capture_output=True, text=True)
    return json.loads(made.stdout)


def _kept(part: dict[str, Any]) -> dict[str, Any]:
    """What is told of a part: no address of where it was fetched from."""
    told = ("type", "name", "version", "purl", "licenses", "hashes")
    return {name: part[name] for name in told if name in part}


def _plain(name: str) -> str:
    return re.sub(r"[-_.]+", "-", name).lower()


if __name__ == "__main__":
    sys.exit(main(Path(sys.argv[1]) if len(sys.argv) > 1 else ROOT / "dist"))
