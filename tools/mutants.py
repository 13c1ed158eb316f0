"""Change rules and stages in small ways, one at a time, and see whether a test of the core notices.

A change that nobody notices (a mutant that lives) is a line that no test holds. Seeded: the same
hundred every time. Run outside CI: it takes some minutes.
"""

from __future__ import annotations

import ast
import os
import random
import shutil
import subprocess
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
PLACES = ("core/rules", "core/stages")
HOW_MANY = 100
SEED = 20261128
WANTED = 0.9
# A mutant that makes a loop endless is noticed by its time.
LIMIT_S = 240

SWAPPED: dict[type[ast.AST], type[ast.AST]] = {
    ast.Lt: ast.LtE,
    ast.LtE: ast.Lt,
    ast.Gt: ast.GtE,
    ast.GtE: ast.Gt,
    ast.Eq: ast.NotEq,
    ast.NotEq: ast.Eq,
    ast.Add: ast.Sub,
    ast.Sub: ast.Add,
    ast.Mult: ast.Div,
    ast.Div: ast.Mult,
    ast.And: ast.Or,
    ast.Or: ast.And,
}


@dataclass(frozen=True, kw_only=True)
class Mutant:
    """One change: in which file, at which node of its tree, told as it was and as it is."""

    file: str
    node: int
    line: int
    was: str
    now: str


class _Changer(ast.NodeTransformer):
    """Changes the node of that number; with None it only lists what could be changed."""

    def __init__(self, wanted: int | None = None) -> None:
        self.wanted, self.at = wanted, -1
        self.found: list[tuple[int, int, str, str]] = []

    def visit(self, node: ast.AST) -> ast.AST:
        made = self._made(node)
        if made is not None:
            self.at += 1
            was, now = ast.unparse(node), ast.unparse(made)
            self.found.append((self.at, getattr(node, "lineno", 0), was, now))
            if self.at == self.wanted:
                return ast.copy_location(made, node)
        # What stands in a type or a docstring is no behaviour.
        if isinstance(node, ast.AnnAssign):
            if node.value is not None:
                node.value = self.visit(node.value)  # type: ignore[assignment]
            return node
        if isinstance(node, ast.arg):
            return node
        return self.generic_visit(node)

    def _made(self, node: ast.AST) -> ast.AST | None:
        if isinstance(node, ast.Compare) and type(node.ops[0]) in SWAPPED:
            ops = [SWAPPED[type(node.ops[0])](), *node.ops[1:]]
            return ast.Compare(left=node.left, ops=ops, comparators=node.comparators)
        if isinstance(node, ast.BinOp) and type(node.op) in SWAPPED:
            return ast.BinOp(left=node.left, op=SWAPPED[type(node.op)](), right=node.right)
        if isinstance(node, ast.BoolOp):
            return ast.BoolOp(op=SWAPPED[type(node.op)](), values=node.values)
        if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not):
            return node.operand
        return None


def mutants() -> list[Mutant]:
    """The hundred that are tried, spread over every file by chance."""
    every: list[Mutant] = []
    for place in PLACES:
        for path in sorted((ROOT / place).rglob("*.py")):
            lister = _Changer()
            lister.visit(ast.parse(path.read_text(encoding="utf-8")))
            file = str(path.relative_to(ROOT))
            every += [
                Mutant(file=file, node=at, line=line, was=was, now=now)
                for at, line, was, now in lister.found
            ]
    return random.Random(SEED).sample(every, HOW_MANY)


def is_noticed(mutant: Mutant) -> bool:
    """Whether a test of the core fails, or never ends, with this one change."""
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder)
        for name in ("core", "docs"):
            shutil.copytree(ROOT / name, copy / name)
        shutil.copytree(ROOT / "server" / "demo", copy / "server" / "demo")
        tree = ast.parse((copy / mutant.file).read_text(encoding="utf-8"))
        changed = ast.fix_missing_locations(_Changer(mutant.node).visit(tree))
        (copy / mutant.file).write_text(ast.unparse(changed), encoding="utf-8")
        command = [sys.executable, "-m", "unittest", "discover", "--failfast", "-q"]
        try:
            done = subprocess.run(
                [*command, "-s", "core/tests", "-t", "."],
                cwd=copy,
                env={**os.environ, "LONG_NOON_MUTANT": "1"},
                capture_output=True,
                timeout=LIMIT_S,
                check=False,
            )
        except subprocess.TimeoutExpired:
            return True
    return done.returncode != 0


def main() -> int:
    """Try them all; exit code 1 when more live than may."""
    tried = mutants()
    lived = 0
    with ThreadPoolExecutor(os.cpu_count()) as pool:
        for mutant, noticed in zip(tried, pool.map(is_noticed, tried), strict=True):
            if not noticed:
                lived += 1
                print(f"lives: {mutant.file}:{mutant.line}  {mutant.was}  →  {mutant.now}")
    print(f"{HOW_MANY - lived} of {HOW_MANY} were noticed")
    return 0 if HOW_MANY - lived >= WANTED * HOW_MANY else 1


if __name__ == "__main__":
    sys.exit(main())
