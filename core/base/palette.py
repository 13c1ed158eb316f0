"""The colours of screens, drawings and paper, as one data file has them."""

from __future__ import annotations

from functools import cache

from core.data import load

PALETTE = "palette"
# Beside paper: against the sun, and where it is dark.
OTHERS = ("glare", "loft")


@cache
def lights() -> dict[str, dict[str, str]]:
    """Every light by name, and the lamps: a colour for each name. A light lacks what paper says."""
    loaded: dict[str, dict[str, str]] = load(PALETTE)
    return loaded


def colour(name: str) -> str:
    """The colour of that name on paper. Raises KeyError when there is none."""
    return lights()["paper"][name]


def tokens_css() -> str:
    """The palette as custom properties of a stylesheet."""
    others = "".join(
        f':root[data-light="{name}"] {{\n{_properties(lights()[name])}}}\n' for name in OTHERS
    )
    return (
        "/* Generated from core/data/palette.json. */\n"
        f":root {{\n{_properties(lights()['paper'])}}}\n{others}"
    )


def _properties(names: dict[str, str]) -> str:
    return "".join(f"  --{name}: {value};\n" for name, value in names.items())
