"""Why a string may read what it reads: causes ranked, each with the reading it would give."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from operator import itemgetter
from typing import Annotated, Literal

from core.base.form import Checked, read
from core.base.glossary import BypassSections, ModulesInSeries, Name, StringV, VocReadV
from core.base.messages import say
from core.base.quantity import Items
from core.base.rule import rule
from core.base.trace import kept_ready
from core.data import load

CAUSES = "causes"
SHOWN_CAUSES = 5
MOST_FAULTY = 4
NEAREST_WHEN_NONE_FITS = 2


@dataclass(frozen=True, kw_only=True)
class CauseKind(Checked):
    """A cause's words, and how much less likely it is than the plan being met (0 = as likely).

    current: what a current test would show beside it, which tells causes of like volts apart.
    """

    id: Name
    title: str
    look_next: str
    unlikely: float
    each_more: float = 0.0
    current: Literal["full", "none", "less", "circulates"] = "full"


@dataclass(frozen=True, kw_only=True)
class OtherString(Checked):
    """Another string of the job whose tail may have been taken by mistake."""

    name: Name
    modules_in_series: ModulesInSeries


@dataclass(frozen=True, kw_only=True)
class Cause:
    """One possible cause: the reading it would give and whether the reading fits it.

    module_equivalents: how many whole modules such a string would show. off: distance of the
    reading from the cause's centre, in half-bands; at most 1 when it fits. current: what a
    current test would show.
    """

    cause_id: str
    title: str
    look_next: str
    module_equivalents: float
    expected_v: float
    low_v: float
    high_v: float
    fits: bool
    off: float
    rank: float
    current: str


@cache
def cause_kinds() -> dict[str, CauseKind]:
    """Every cause that is considered."""
    return {kind.id: kind for kind in read(tuple[CauseKind, ...], load(CAUSES), "$causes")}


@rule
def diagnose(
    *,
    read_v: VocReadV,
    modules_in_series: ModulesInSeries,
    expected_v: StringV,
    low_v: StringV,
    high_v: StringV,
    bypass_sections: BypassSections = 3,
    near_zero_v: float = 10.0,
    others: Annotated[tuple[OtherString, ...], Items("other strings", 0, 400)] = (),
    is_beside: bool = False,
) -> tuple[Cause, ...]:
    """What fits this reading, most likely first?

    Each cause scales the expected band by its module equivalents; those whose band holds the
    reading come first, ranked by distance and by how common the cause is. When none fits, the
    nearest are given and marked as not fitting. Causes that both fit cannot be told apart by
    this reading alone. is_beside: other strings are on the same tracker, in parallel.
    Source: arithmetic in module equivalents; IEC 62446-1:2016, 6.4.
    """
    scale = _Scale(
        one_v=expected_v / modules_in_series,
        down=(expected_v - low_v) / modules_in_series,
        up=(high_v - expected_v) / modules_in_series,
        near_zero_v=near_zero_v,
    )
    candidates = _candidates(modules_in_series, bypass_sections, others, is_beside)
    fitting = [one for one in candidates if _fits(one, read_v, scale)]
    tried = [_try(one, read_v, scale, bool(fitting)) for one in fitting or candidates]
    if fitting:
        best = sorted(tried, key=itemgetter(RANK))[:SHOWN_CAUSES]
    else:
        best = sorted(tried, key=itemgetter(OFF))[:NEAREST_WHEN_NONE_FITS]
    return tuple(_told(*one) for one in best)


# A candidate cause: its kind, what fills its {name}, the module equivalents it shows, and how
# unlikely it is. Held against a reading: with its band, its fit, its distance and its rank.
Candidate = tuple[CauseKind, str, float, float]
Tried = tuple[Candidate, float, float, float, bool, float, float]
OFF, RANK = 5, 6


@dataclass(frozen=True, slots=True)
class _Scale:
    """One module's volts now, and how far its band reaches down and up."""

    one_v: float
    down: float
    up: float
    near_zero_v: float


def _band(equivalents: float, scale: _Scale) -> tuple[float, float]:
    """Between which volts so many module equivalents read."""
    if equivalents > 0:
        return equivalents * (scale.one_v - scale.down), equivalents * (scale.one_v + scale.up)
    if equivalents < 0:
        return equivalents * (scale.one_v + scale.up), equivalents * (scale.one_v - scale.down)
    return -scale.near_zero_v, scale.near_zero_v


def _fits(candidate: Candidate, read_v: float, scale: _Scale) -> bool:
    _, _, equivalents, _ = candidate
    low, high = _band(equivalents, scale)
    return low <= read_v <= high


@kept_ready(256)
def _candidates(
    count: int, sections: int, others: tuple[OtherString, ...], is_beside: bool
) -> tuple[Candidate, ...]:
    return tuple(
        (kind, name, equivalents, kind.unlikely + more * kind.each_more)
        for kind_id, name, equivalents, more in _every_candidate(count, sections, others, is_beside)
        for kind in (cause_kinds()[kind_id],)
    )


def _every_candidate(
    count: int, sections: int, others: tuple[OtherString, ...], is_beside: bool
) -> Iterator[tuple[str, str, float, int]]:
    """Cause, what fills its {name}, the module equivalents it shows, how many more than one."""
    yield "as_planned", "", count, 0
    yield "polarity_swapped", "", -count, 0
    yield "open_circuit", "", 0.0, 0
    yield "leakage", "", count, 0
    if is_beside:
        yield "parallel_reversed", "", 0.0, 0
    for other in {other.modules_in_series: other for other in others}.values():
        if other.modules_in_series != count:
            yield "other_string", other.name, other.modules_in_series, 0
    for number in range(1, MOST_FAULTY + 1):
        yield "added", str(number), count + number, number - 1
        if number < count:
            yield "missing", str(number), count - number, number - 1
            yield "swapped_missing", str(number), number - count, number - 1
        if 2 * number < count:
            yield "reversed", str(number), count - 2 * number, number - 1
        if number < sections:
            yield "bypass", str(number), count - number / sections, number - 1


def _try(candidate: Candidate, read_v: float, scale: _Scale, fits: bool) -> Tried:
    _, _, equivalents, unlikely = candidate
    centre = equivalents * scale.one_v
    low, high = _band(equivalents, scale)
    reach = high - centre if read_v >= centre else centre - low
    off = abs(read_v - centre) / reach
    return candidate, centre, low, high, fits, off, off + unlikely


def _told(
    candidate: Candidate,
    expected_v: float,
    low_v: float,
    high_v: float,
    fits: bool,
    off: float,
    rank: float,
) -> Cause:
    kind, name, equivalents, _ = candidate
    words = {"name": name, "plural": "" if name == "1" else "s"}
    return Cause(
        cause_id=kind.id if not name or kind.id == "other_string" else f"{kind.id}_{name}",
        title=kind.title.format_map(words),
        look_next=kind.look_next.format_map(words),
        module_equivalents=equivalents,
        expected_v=expected_v,
        low_v=low_v,
        high_v=high_v,
        fits=fits,
        off=off,
        rank=rank,
        current=say("cause_current", kind.current),
    )
