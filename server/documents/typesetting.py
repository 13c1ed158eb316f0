"""Setting pages with typst: a template and its data become PDF, or pictures of pages."""

from __future__ import annotations

import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any, Literal

import typst
from django.conf import settings

from core.base.messages import figure
from core.base.palette import lights
from server.platform.heavy import heavy

TEMPLATES = Path(__file__).parent / "templates"
MOST_PRINTED_DIGITS = 4
# To be kept for good: PDF/A-2, tagged for screen readers.
STANDARD: Literal["a-2a"] = "a-2a"


def typeset(template: Path, data: dict[str, Any], kind: Literal["pdf", "svg"]) -> list[bytes]:
    """The pages of a template with its data."""
    with heavy("typeset"):
        compiled: bytes | list[bytes] = typst.compile(
            str(template),
            root="/",
            format=kind,
            font_paths=[str(settings.RECORD_FONTS)],
            ignore_system_fonts=True,
            sys_inputs={"data": json.dumps(_printed(data))},
            pdf_standards=STANDARD if kind == "pdf" else None,
        )
    return compiled if isinstance(compiled, list) else [compiled]


def _printed(data: dict[str, Any]) -> dict[str, Any]:
    """The data with its colours, and every number in it as the core writes it, by its digits."""
    numbers = sorted({float(one) for one in _numbers(data)})
    texts = {
        _key(number): [figure(number, "", digits) for digits in range(MOST_PRINTED_DIGITS + 1)]
        for number in numbers
    }
    return {**data, "palette": lights()["paper"], "texts": texts}


def _numbers(data: Any) -> Iterator[float]:
    if isinstance(data, dict | list):
        for one in data.values() if isinstance(data, dict) else data:
            yield from _numbers(one)
    elif isinstance(data, int | float) and not isinstance(data, bool):
        yield data


def _key(number: float) -> str:
    """A number as the typesetter names it."""
    return repr(number).removesuffix(".0")
