"""Rails of a row of modules: marks for the tape, hooks on rafters, pieces cut from bars."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from math import fsum
from typing import Annotated

from core.base.errors import Refused, problem
from core.base.judgement import Judgement, at_most, fits
from core.base.quantity import Items, Quantity
from core.base.rule import rule

ModulesInRow = Annotated[int, Quantity("modules in the row", "", 1, 100)]
AlongMm = Annotated[float, Quantity("along the rail", "mm", 0, 200_000)]
SideMm = Annotated[float, Quantity("side of the module along the row", "mm", 200, 3000)]
SmallMm = Annotated[float, Quantity("gap or end", "mm", 0, 3000)]
RafterMm = Annotated[float, Quantity("middle of a rafter", "mm", -10_000, 200_000)]
SpanMm = Annotated[float, Quantity("span", "mm", 50, 6000)]
PieceMm = Annotated[float, Quantity("piece", "mm", 1, 20_000)]
KerfMm = Annotated[float, Quantity("width of the cut", "mm", 0, 50)]
Rafters = Annotated[tuple[RafterMm, ...], Items("rafters", 0, 400)]
Cut = Annotated[tuple[PieceMm, ...], Items("pieces to cut", 1, 40)]
Stock = Annotated[tuple[PieceMm, ...], Items("lengths that are sold", 1, 12)]

# Sets of pieces that are looked at before the search ends with the best that it has.
MOST_SETS = 40_000


@dataclass(frozen=True, kw_only=True)
class RailMarks:
    """Marks from the rail's left end [mm]: modules' edges, clamps between them and outside."""

    rail_mm: float
    module_edges_mm: tuple[tuple[float, float], ...]
    middle_clamps_mm: tuple[float, ...]
    end_clamps_mm: tuple[float, float]


@rule
def rail_marks(
    *,
    modules: ModulesInRow,
    module_mm: SideMm,
    clamp_gap_mm: SmallMm,
    rail_end_mm: SmallMm,
    end_clamp_half_mm: SmallMm = 0.0,
) -> RailMarks:
    """Where along the rail do modules and clamps sit?

    The first module's edge is rail_end_mm from the left end, the rail ends as far beyond the last.
    A clamp sits in the middle of each gap, an end clamp end_clamp_half_mm outside an outer edge.
    Raises Refused when an end clamp would sit beyond the rail.
    Source: module and rail sheets; geometry.
    """
    if end_clamp_half_mm > rail_end_mm:
        allowed = f"0 to {rail_end_mm:g} mm, what the rail is longer"
        raise Refused([problem("$.end_clamp_half_mm", end_clamp_half_mm, allowed)])
    pitch = module_mm + clamp_gap_mm
    edges = tuple(
        (rail_end_mm + at * pitch, rail_end_mm + at * pitch + module_mm) for at in range(modules)
    )
    last = edges[-1][1]
    return RailMarks(
        rail_mm=last + rail_end_mm,
        module_edges_mm=edges,
        middle_clamps_mm=tuple(right + clamp_gap_mm / 2 for _, right in edges[:-1]),
        end_clamps_mm=(rail_end_mm - end_clamp_half_mm, last + end_clamp_half_mm),
    )


@dataclass(frozen=True, kw_only=True)
class HookPlan:
    """Hooks on rafters: the fewest, and of those the least greatest span.

    hooks_mm: one such plan, its hooks as far left as may be; empty where none is. plans: how many
    are as good. common_mm: marks that all of them share. greatest_span_mm: None without one, or
    with a single hook.
    """

    hooks_mm: tuple[float, ...]
    greatest_span_mm: float | None
    plans: int
    common_mm: tuple[float, ...]


@rule
def hook_plan(
    *,
    rail_mm: AlongMm,
    rafters_mm: Rafters,
    cantilever_most_mm: SpanMm,
    span_most_mm: SpanMm,
) -> HookPlan:
    """On which rafters do the hooks of a rail sit?

    The first and last at most the cantilever from the rail's ends, neighbours at most the span
    apart, exactly so allowed: fewest hooks, then the least greatest span.
    Source: rail sheet; geometry (shortest path over the rafters).
    """
    under = sorted({one for one in rafters_mm if 0 <= one <= rail_mm})
    firsts = [one for one in under if fits(one, cantilever_most_mm)]
    lasts = {one for one in under if fits(rail_mm - one, cantilever_most_mm)}
    fewest = _fewest(under, firsts, lasts, span_most_mm)
    if fewest is None:
        return HookPlan(hooks_mm=(), greatest_span_mm=None, plans=0, common_mm=())
    spans = sorted({b - a for a in under for b in under if a < b and fits(b - a, span_most_mm)})
    # A wider span never takes more hooks: the least that still takes the fewest is found by halves.
    at = bisect_left(spans, True, key=lambda one: _fewest(under, firsts, lasts, one) == fewest)
    least = spans[at] if at < len(spans) else span_most_mm
    ways = _ways(under, firsts, lasts, least, fewest)
    plans = sum(ways[0].values())
    kept = _plan(under, firsts, lasts, least, fewest)
    through = _through(ways, under, lasts, least)
    return HookPlan(
        hooks_mm=kept,
        greatest_span_mm=None if fewest == 1 else least,
        plans=plans,
        common_mm=tuple(one for one in under if through.get(one) == plans),
    )


@rule
def hook_span(*, span_mm: SpanMm, most_mm: SpanMm) -> Judgement:
    """Are neighbouring hooks close enough?

    Source: rail sheet.
    """
    return at_most("hook_span", span_mm, most_mm, "mm", "rail sheet", exact="clear")


def _fewest(under: list[float], firsts: list[float], lasts: set[float], span: float) -> int | None:
    """The fewest hooks from the left end to the right at no more than this span."""
    hooks, reached, seen = 1, set(firsts), set(firsts)
    while reached:
        if reached & lasts:
            return hooks
        reached = {
            one for one in under if one not in seen and any(_next(at, one, span) for at in reached)
        }
        seen |= reached
        hooks += 1
    return None


def _next(at: float, other: float, span: float) -> bool:
    """Whether a hook may follow another to its right."""
    return other > at and fits(other - at, span)


def _ways(
    under: list[float], firsts: list[float], lasts: set[float], span: float, hooks: int
) -> list[dict[float, int]]:
    """By how many ways each rafter leads on to the right end, for each hook of the plan."""
    onward = [dict.fromkeys(lasts, 1)]
    for _ in range(hooks - 1):
        after = onward[0]
        onward.insert(0, {
            one: ways
            for one in under
            if (ways := sum(n for at, n in after.items() if _next(one, at, span)))
        })  # fmt: skip
    onward[0] = {one: ways for one, ways in onward[0].items() if one in firsts}
    return onward


def _through(
    onward: list[dict[float, int]], under: list[float], lasts: set[float], span: float
) -> dict[float, int]:
    """Through how many of the plans each rafter goes."""
    here = dict.fromkeys(onward[0], 1)
    found: dict[float, int] = {}
    for number, ways in enumerate(onward):
        for one, before in here.items():
            found[one] = found.get(one, 0) + before * ways.get(one, 0)
        if number + 1 < len(onward):
            here = {
                one: sum(n for at, n in here.items() if _next(at, one, span))
                for one in onward[number + 1]
            }
    return found


def _plan(
    under: list[float], firsts: list[float], lasts: set[float], span: float, hooks: int
) -> tuple[float, ...]:
    """One of the plans, each hook as far left as the rest still allows."""
    onward = _ways(under, firsts, lasts, span, hooks)
    found: list[float] = []
    for ways in onward:
        near = (one for one in sorted(ways) if not found or _next(found[-1], one, span))
        found.append(next(near))
    return tuple(found)


@dataclass(frozen=True, kw_only=True)
class CuttingPlan:
    """Which pieces are cut from which bar; bars: (length sold, its pieces), longest piece first.

    proven: no cheaper plan exists; False where there were too many pieces to try them all.
    """

    bars: tuple[tuple[float, tuple[float, ...]], ...]
    bought_mm: float
    waste_mm: float
    proven: bool

    @property
    def by_length(self) -> dict[float, int]:
        """How many bars of each length that is sold."""
        lengths = [length for length, _ in self.bars]
        return {one: lengths.count(one) for one in sorted(set(lengths))}


@rule
def cutting_plan(*, pieces_mm: Cut, stock_mm: Stock, kerf_mm: KerfMm = 0.0) -> CuttingPlan:
    """From which bars are the pieces cut, so that least is bought?

    Each piece comes whole from one bar; k pieces need their lengths and k − 1 cuts. Least length
    bought, then fewest bars. The waste is what is bought beyond the pieces, cuts included.
    Raises Refused when a piece is longer than every bar.
    Source: arithmetic (search over sets of pieces).
    """
    longest = max(stock_mm)
    for index, piece in enumerate(pieces_mm):
        if not fits(piece, longest):
            raise Refused([problem(f"$.pieces_mm[{index}]", piece, f"at most {longest:g} mm")])
    pieces = tuple(sorted(pieces_mm, reverse=True))
    search = _Cutting(tuple(sorted(set(stock_mm))), kerf_mm)
    bars = search.best(pieces)
    bought = fsum(length for length, _ in bars)
    return CuttingPlan(
        bars=bars,
        bought_mm=bought,
        waste_mm=bought - fsum(pieces),
        proven=search.sets_seen <= MOST_SETS,
    )


Bars = tuple[tuple[float, tuple[float, ...]], ...]


class _Cutting:
    """The longest piece left lies in some bar: each full set it may share one with is tried."""

    def __init__(self, stock: tuple[float, ...], kerf: float) -> None:
        self.stock, self.kerf = stock, kerf
        self.sets_seen = 0
        self.best = cache(self._best)

    def _best(self, pieces: tuple[float, ...]) -> Bars:
        if not pieces:
            return ()
        self.sets_seen += 1
        found: Bars | None = None
        for length, taken in self._bars(pieces):
            left = list(pieces)
            for one in taken:
                left.remove(one)
            bars = ((length, taken), *self.best(tuple(left)))
            if found is None or _cost(bars) < _cost(found):
                found = bars
            if self.sets_seen > MOST_SETS:
                break
        assert found is not None
        return found

    def _bars(self, pieces: tuple[float, ...]) -> Iterator[tuple[float, tuple[float, ...]]]:
        """Each bar with its longest piece first, filled so that no other piece goes in."""
        first, rest = pieces[0], pieces[1:]
        seen: set[tuple[float, ...]] = set()
        for length in self.stock:
            if not fits(first, length):
                continue
            for more in self._full(rest, length - first):
                taken = (first, *more)
                if taken not in seen:
                    seen.add(taken)
                    yield length, taken

    def _full(self, rest: tuple[float, ...], room: float) -> Iterator[tuple[float, ...]]:
        going = [one for one in rest if self._goes_in(one, room)]
        self.sets_seen += 1
        if not going:
            yield ()
            return
        if self.sets_seen > MOST_SETS:
            yield self._as_they_come(going, room)
            return
        tried: set[float] = set()
        for at, one in enumerate(going):
            if one in tried:
                continue
            tried.add(one)
            for more in self._full(tuple(going[at + 1 :]), room - self.kerf - one):
                left = room - self.kerf - one - sum(self.kerf + other for other in more)
                unused = list(going)
                for other in (one, *more):
                    unused.remove(other)
                # Filled: what is left takes none of the others.
                if not any(self._goes_in(other, left) for other in unused):
                    yield (one, *more)

    def _as_they_come(self, going: list[float], room: float) -> tuple[float, ...]:
        """A bar filled with the longest piece that still goes in, again and again."""
        taken = []
        for one in going:
            if self._goes_in(one, room):
                taken.append(one)
                room -= one + self.kerf
        return tuple(taken)

    def _goes_in(self, piece: float, room: float) -> bool:
        return fits(piece + self.kerf, room)


def _cost(bars: Bars) -> tuple[float, int]:
    return fsum(length for length, _ in bars), len(bars)
