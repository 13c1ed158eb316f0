"""Make plain TrueType fonts for the record from the variable web fonts that ship with the app.

usage: make_fonts.py NODE_MODULES TARGET
"""

from __future__ import annotations

import sys
from pathlib import Path

from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

FONTS = (
    ("archivo", "Archivo", (500, 700)),
    ("atkinson-hyperlegible-next", "Atkinson Hyperlegible Next", (400, 700)),
)
STYLE_NAMES = {400: "Regular", 500: "Medium", 700: "Bold"}
FAMILY, STYLE, FULL, POSTSCRIPT, TYPOGRAPHIC_FAMILY, TYPOGRAPHIC_STYLE = (
    1,
    2,
    4,
    6,
    16,
    17,
)


def make(modules: Path, target: Path) -> None:
    """Write each font and weight as one file."""
    target.mkdir(parents=True, exist_ok=True)
    for package, family, weights in FONTS:
        source = modules / "@fontsource-variable" / package / "files"
        for weight in weights:
            font = TTFont(source / f"{package}-latin-wght-normal.woff2")
            plain = instantiateVariableFont(font, {"wght": weight})
            _name(plain, family, STYLE_NAMES[weight])
            plain["OS/2"].usWeightClass = weight
            plain.flavor = None
            plain.save(target / f"{package}-{weight}.ttf")


def _name(font: TTFont, family: str, style: str) -> None:
    names = {
        FAMILY: family,
        STYLE: style,
        FULL: f"{family} {style}",
        POSTSCRIPT: f"{family}-{style}".replace(" ", ""),
        TYPOGRAPHIC_FAMILY: family,
        TYPOGRAPHIC_STYLE: style,
    }
    for record in list(font["name"].names):
        if record.nameID in names:
            font["name"].removeNames(nameID=record.nameID)
    for name_id, text in names.items():
        font["name"].setName(text, name_id, 3, 1, 0x409)


if __name__ == "__main__":
    make(Path(sys.argv[1]), Path(sys.argv[2]))
