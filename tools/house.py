"""The map of the house, made from the first words of each folder."""

from __future__ import annotations

import ast
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
ROOMS = ("core", "places", "sun", "schedule", "devices", "server", "journeys", "tools")
LEFT_OUT = {"tests", "migrations", "management", "commands", "__pycache__"}
BEGIN, END = "<!-- the map: made by ./noon write -->", "<!-- the map ends -->"


def folders() -> list[Path]:
    """Every package of the house, rooms in their order, each before what lies in it."""
    found: list[Path] = []
    for room in ROOMS:
        found += sorted(
            init.parent.relative_to(ROOT)
            for init in (ROOT / room).rglob("__init__.py")
            if not LEFT_OUT & set(init.relative_to(ROOT).parts)
        )
    return found


def map_lines() -> list[str]:
    """One line a folder: its name, and the first sentence of its docstring."""
    lines = []
    for folder in folders():
        said = ast.get_docstring(ast.parse((ROOT / folder / "__init__.py").read_text("utf-8")))
        if not said:
            raise LookupError(f"{folder}/__init__.py does not say what lives there")
        first = " ".join(said.split("\n\n")[0].split())
        name = "  " * (len(folder.parts) - 1) + folder.name + "/"
        lines.append(f"{name:24} {first}")
    return lines


def house_md() -> str:
    """docs/house.md with its map made anew; what is written round it stays."""
    text = (ROOT / "docs" / "house.md").read_text("utf-8")
    before, rest = text.split(BEGIN)
    _, after = rest.split(END)
    return f"{before}{BEGIN}\n\n```\n" + "\n".join(map_lines()) + f"\n```\n\n{END}{after}"
