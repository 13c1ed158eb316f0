"""A sheet of A4 on its side: its frame and its title block, the same for every drawing."""

from __future__ import annotations

from collections.abc import Iterator

from core.base.drawing import Mark, Stroke, VerdictMark, line, text
from core.base.judgement import Verdict
from core.base.messages import say
from core.job.job import Job

WIDTH_MM, HEIGHT_MM = 297.0, 210.0
MARGIN_MM = 10.0
BLOCK_MM = 26.0


def frame() -> Iterator[Mark]:
    """The sheet's frame, and the line above its title block."""
    inner = (MARGIN_MM, MARGIN_MM, WIDTH_MM - 2 * MARGIN_MM, HEIGHT_MM - 2 * MARGIN_MM)
    yield Mark(layer="frame", stroke=Stroke(kind="rect", at=inner))
    y = HEIGHT_MM - MARGIN_MM - BLOCK_MM
    yield line("frame", MARGIN_MM, y, WIDTH_MM - MARGIN_MM, y)


def title_block(job: Job, what: str, note: str, stands: str, made: str) -> Iterator[Mark]:
    """The title block: what, where, by which rules, when; licensed practice wins."""
    top = HEIGHT_MM - MARGIN_MM - BLOCK_MM
    left = MARGIN_MM + 4
    columns = (left, MARGIN_MM + 92, MARGIN_MM + 186)
    yield text(job.name, columns[0], top + 8, 4.6, anchor="start", strong=True)
    yield text(what, columns[0], top + 14, 3.2, anchor="start")
    yield text(job.site.place, columns[0], top + 19.5, 3, anchor="start")
    rows: tuple[tuple[float, float, str, dict[str, str]], ...] = (
        (columns[1], 7.0, "rules", {"rules": job.rules.name}),
        (columns[1], 12.5, "edition", {"edition": job.rules.edition}),
        (columns[1], 18.0, "day", {"day": job.day.isoformat(), "made": made}),
    )
    for x, down, key, facts in rows:
        yield text(say("sheet", key, **facts), x, top + down, 2.5, anchor="start")
    yield text(note, columns[1], top + 23.0, 2.5, anchor="start")
    for x in columns[1:]:
        yield line("frame", x - 4, top, x - 4, top + BLOCK_MM)
    yield text(say("sheet", "maker"), columns[2], top + 8, 3.6, anchor="start", strong=True)
    yield text(say("sheet", "caution"), columns[2], top + 21.5, 2.5, anchor="start")
    yield text(stands, WIDTH_MM - MARGIN_MM - 36, top + 14, 3, anchor="start")


def block_verdict(verdict: Verdict) -> VerdictMark:
    """The stage's verdict in the title block."""
    middle = HEIGHT_MM - MARGIN_MM - BLOCK_MM / 2
    return VerdictMark(verdict=verdict, x_mm=WIDTH_MM - MARGIN_MM - 40, y_mm=middle)
