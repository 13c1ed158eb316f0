"""The energy path on paper: A4 on its side, standard symbols, conductor data, a title block."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise

from core.assessment.feed import EnergyPath, FeedStage, PathPlace, PathWire
from core.base.drawing import HALF_UNITS, Drawing, Layer, Mark, VerdictMark, line, symbol, text
from core.base.judgement import Verdict
from core.base.messages import figure, say
from core.job.job import Job
from core.sheets.frame import (
    BLOCK_MM,
    HEIGHT_MM,
    MARGIN_MM,
    WIDTH_MM,
    block_verdict,
    frame,
    title_block,
)

# The widest a column or row gets; a long path is drawn closer.
COLUMN_MM, ROW_MM = 42.0, 42.0
SYMBOL_OF_COLUMN = 0.34
NAME_MM, LINE_MM = 2.9, 2.5
LEADING = 1.28
# Where a wire turns: under a symbol, in its halves; before one, of a column.
LEAD, BEND = 1.7, 0.45
# The table of conductors: its leading, its columns from the frame, what it holds at most.
SCHEDULE_MM, MOST_CONDUCTORS = 4.0, 10
COLUMNS_MM = (4.0, 58.0, 128.0, 178.0, 208.0, 238.0)
HEADS = ("run", "cable", "laid", "current", "carries", "volts")
HANGING = ("earth", "surge", "battery", "loads")
NAMED_BELOW = (*HANGING, "joint")
LAYERS: dict[str, Layer] = {"dc": "dc", "ac": "ac", "earth": "earth", "signal": "signal"}


@dataclass(frozen=True, kw_only=True)
class Grid:
    """Where columns and rows lie on the paper."""

    column_mm: float
    row_mm: float
    top_mm: float
    scale: float

    def x(self, column: float) -> float:
        return MARGIN_MM + (column + 0.5) * self.column_mm

    def y(self, row: float) -> float:
        return self.top_mm + (row + 0.5) * self.row_mm

    @property
    def half_mm(self) -> float:
        return HALF_UNITS * self.scale


def path_sheet(job: Job, stage: FeedStage, verdict: Verdict, made: str) -> Drawing:
    """The energy path drawn to order, with its conductors. made: when, for the title block."""
    path, rows = stage.path, tuple(_conductors(job, stage))
    grid = _grid(path, len(rows))
    at = {one.id: one for one in path.places}
    marks = [
        *frame(),
        *(mark for wire in path.wires for mark in _wire(grid, at, wire)),
        *(mark for place in path.places for mark in _place(grid, place)),
        *_schedule(rows),
        *title_block(
            job,
            say("sheet", "what"),
            say("sheet", "symbols"),
            say("sheet", "stands", verdict=verdict),
            made,
        ),
    ]
    verdicts = [
        VerdictMark(
            verdict=place.verdict,
            x_mm=grid.x(place.column) + grid.half_mm + 2,
            y_mm=grid.y(place.row) - grid.half_mm,
        )
        for place in path.places
    ]
    verdicts.append(block_verdict(verdict))
    return Drawing(
        title=say("sheet", "title", name=job.name),
        width_mm=WIDTH_MM,
        height_mm=HEIGHT_MM,
        marks=tuple(marks),
        verdicts=tuple(verdicts),
    )


def _grid(path: EnergyPath, conductors: int) -> Grid:
    wide = (WIDTH_MM - 2 * MARGIN_MM) / path.columns
    free = HEIGHT_MM - 2 * MARGIN_MM - BLOCK_MM - _schedule_mm(conductors)
    row = min(ROW_MM, free / path.rows)
    top = MARGIN_MM + (free - row * path.rows) / 2
    size = min(wide, row, COLUMN_MM) * SYMBOL_OF_COLUMN / (2 * HALF_UNITS)
    return Grid(column_mm=wide, row_mm=row, top_mm=top, scale=size)


Row = tuple[str, str, str, str, str, str]


def _conductors(job: Job, stage: FeedStage) -> Iterator[Row]:
    """Every run with its data, the AC runs first; what is beyond the sheet is counted."""
    found = [*_ac_rows(job, stage), *_dc_rows(job, stage)]
    yield from found[:MOST_CONDUCTORS]
    if len(found) > MOST_CONDUCTORS:
        more = say("sheet", "more", count=str(len(found) - MOST_CONDUCTORS))
        yield (more, "", "", "", "", "")


def _ac_rows(job: Job, stage: FeedStage) -> Iterator[Row]:
    for run, state in zip(job.feed.runs, stage.runs, strict=True):
        insulation = say("insulation", run.insulation)
        lifts = "" if state.rise_v is None else figure(state.rise_v, "V", 2)
        yield (
            run.name,
            state.title,
            say("sheet", "ac_laid", insulation=insulation, method=run.method),
            figure(state.current_a, "A"),
            "" if state.ampacity is None else figure(state.ampacity.iz_a, "A"),
            lifts and say("sheet", "lifts", volts=lifts),
        )


def _dc_rows(job: Job, stage: FeedStage) -> Iterator[Row]:
    for string, state in zip(job.strings, stage.dc_runs, strict=True):
        laid = string.home_run[0].laid if string.home_run else "touching"
        drops = "" if state.drop is None else figure(state.drop.drop_v, "V", 2)
        yield (
            state.name,
            state.title,
            say("sheet", "dc_laid", laid=say("laid", laid)),
            figure(state.current_a, "A"),
            "" if state.ampacity is None else figure(state.ampacity.iz_a, "A"),
            drops and say("sheet", "drops", volts=drops),
        )


def _schedule_mm(rows: int) -> float:
    return (rows + 2) * SCHEDULE_MM


def _schedule(rows: tuple[Row, ...]) -> Iterator[Mark]:
    """The conductors as a table above the title block."""
    top = HEIGHT_MM - MARGIN_MM - BLOCK_MM - _schedule_mm(len(rows))
    head = tuple(say("sheet", key) for key in HEADS)
    for number, row in enumerate((head, *rows), start=1):
        for x, words in zip(COLUMNS_MM, row, strict=True):
            y = top + number * SCHEDULE_MM
            yield text(words, MARGIN_MM + x, y, LINE_MM, anchor="start", strong=number == 1)
    y = top + SCHEDULE_MM + 1.2
    yield line("frame", MARGIN_MM + COLUMNS_MM[0], y, WIDTH_MM - MARGIN_MM - COLUMNS_MM[0], y)


def _place(grid: Grid, place: PathPlace) -> Iterator[Mark]:
    x, y = grid.x(place.column), grid.y(place.row)
    yield from symbol(place.symbol, x, y, grid.scale)
    # What hangs below is named below it, the rest above: wires pass through neither.
    step = LINE_MM * LEADING
    top = y - grid.half_mm - 2 - len(place.lines) * step
    base = y + grid.half_mm + NAME_MM * LEADING if place.symbol in NAMED_BELOW else top
    yield text(place.name, x, base, NAME_MM, strong=True)
    for number, words in enumerate(place.lines, start=1):
        yield text(words, x, base + number * step, LINE_MM)


def _wire(grid: Grid, at: dict[str, PathPlace], wire: PathWire) -> Iterator[Mark]:
    start, end = at[wire.start], at[wire.end]
    layer = LAYERS[wire.medium]
    corners = wire_corners(grid, start, end)
    for (x1, y1), (x2, y2) in pairwise(corners):
        if (x1, y1) != (x2, y2):
            yield line(layer, x1, y1, x2, y2)
    (x1, y1), (x2, _) = corners[0], corners[1]
    middle = (x1 + x2) / 2
    for number, words in enumerate(reversed(wire.lines)):
        yield text(words, middle, y1 - 1.4 - number * LINE_MM * LEADING, LINE_MM)


def wire_corners(grid: Grid, start: PathPlace, end: PathPlace) -> list[tuple[float, float]]:
    """A wire's way: level between neighbours; down and across to what hangs below."""
    x1, y1, x2, y2 = (
        grid.x(start.column),
        grid.y(start.row),
        grid.x(end.column),
        grid.y(end.row),
    )
    half = grid.half_mm
    if start.column == end.column:
        return [(x1, y1 + half), (x2, y2 - half)]
    way = 1 if end.column > start.column else -1
    if end.symbol in HANGING:
        lead, out = y1 + half * LEAD, x1 + way * half / 2
        return [(out, y1 + half), (out, lead), (x2, lead), (x2, y2 - half)]
    bend = x2 - way * grid.column_mm * BEND
    return [(x1 + way * half, y1), (bend, y1), (bend, y2), (x2 - way * half, y2)]
