"""Lines of code and of tests, without blank lines, comments, docstrings and generated files."""

from __future__ import annotations

import ast
import subprocess
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
CODE_SUFFIXES = {".py", ".ts", ".tsx", ".js", ".css", ".sh"}
COMMENTS = ("#", "//", "/*", "*")
GENERATED = {"schema.d.ts"}


def is_test(path: Path) -> bool:
    """Tests live in folders named tests, in journeys, and beside what they test in the web."""
    return "tests" in path.parts or "journeys" in path.parts or ".test." in path.name


def lines(path: Path) -> int:
    """Lines of code: neither blank nor comment nor docstring."""
    text = (ROOT / path).read_text(encoding="utf-8")
    prose = docstring_lines(text) if path.suffix == ".py" else set()
    return sum(
        1
        for number, line in enumerate(text.splitlines(), start=1)
        if line.strip() and not line.strip().startswith(COMMENTS) and number not in prose
    )


def docstring_lines(text: str) -> set[int]:
    """Numbers of the lines that docstrings fill."""
    found: set[int] = set()
    for node in ast.walk(ast.parse(text)):
        if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant):
            found.update(range(node.lineno, (node.end_lineno or node.lineno) + 1))
    return found


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
