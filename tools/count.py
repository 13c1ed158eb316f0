"""Lines of code and of tests, without blank lines, comments and generated files."""

from __future__ import annotations

import subprocess
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
CODE_SUFFIXES = {".py", ".ts", ".tsx", ".css", ".typ"}
GENERATED = {"schema.d.ts"}


def is_test(path: Path) -> bool:
    """Tests live in folders named tests, and in journeys."""
    return "tests" in path.parts or "journeys" in path.parts


def lines(path: Path) -> int:
    """Lines that are neither blank nor a comment alone."""
    text = (ROOT / path).read_text(encoding="utf-8")
    kept = (line.strip() for line in text.splitlines())
    return sum(1 for line in kept if line and not line.startswith(("#", "//")))


def main() -> None:
    """Print the count by top folder, and the share of tests."""
    listed = subprocess.run(
        ["git", "ls-files", "--cached", "--others", "--exclude-standard"],
        cwd=ROOT,
        check=True,
        capture_output=True,
        text=True,
    )
    paths = [Path(name) for name in listed.stdout.splitlines()]
    counted = [
        path
        for path in paths
        if (path.suffix in CODE_SUFFIXES or path.name == "noon")
        and path.name not in GENERATED
        and "migrations" not in path.parts
        and (ROOT / path).exists()
    ]
    by_folder: dict[str, list[int]] = {}
    for path in counted:
        folder = path.parts[0] if len(path.parts) > 1 else "."
        by_folder.setdefault(folder, [0, 0])[is_test(path)] += lines(path)
    print(f"{'':12}{'code':>8}{'tests':>8}")
    for folder, (code, tests) in sorted(by_folder.items()):
        print(f"{folder:12}{code:8}{tests:8}")
    code, tests = (sum(pair[i] for pair in by_folder.values()) for i in (0, 1))
    print(f"{'all':12}{code:8}{tests:8}")
    print(f"tests are {100 * tests / (code + tests):.0f} % of all code lines")


if __name__ == "__main__":
    main()
