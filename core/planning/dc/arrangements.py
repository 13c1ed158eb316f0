"""Strings on trackers: every legal arrangement of the roof's modules, best first.

Legal: whole strings inside the hard bounds of volts, currents and inputs, each on one plane,
strings beside each other on a tracker alike. Ranked by what is left on the ground, then full
power cold to hot, like with like, clipping and fuses, balance, terminations.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from heapq import nsmallest
from itertools import islice

from core.base.messages import figure, say
from core.job.job import Job
from core.job.roof import Plane
from core.planning.dc.allowance import Allowance
from core.planning.dc.arrangement_reasons import blocked

# Both ends of both leads of a string.
TERMINATIONS_A_STRING = 4
# A joint for each pole of each further string on a tracker.
TERMINATIONS_A_JOINT = 2
# Trackers are called balanced alike within this step, so that a trifle outweighs no termination.
BALANCE_STEP_PCT = 5
# A roof may be larger than can be searched through in a moment: then the best of these is shown.
MOST_TRIED = 20_000
MOST_STEPS = 100_000
MOST_SPLITS = 2_000
SHOWN = 12
FULL_PCT = 100


@dataclass(frozen=True, kw_only=True)
class ArrangedString:
    """One string of an arrangement."""

    plane: str
    tracker: int
    modules_in_series: int


@dataclass(frozen=True, kw_only=True)
class Arrangement:
    """One way to string the roof, with what ranks it.

    left_out: modules without a string. unfit: strings that leave full power cold or hot.
    mixed: trackers with strings of two planes. clipping, fused: trackers that clip, and that
    need fuses. apart_pct: how far the least loaded tracker is below the most loaded.
    """

    strings: tuple[ArrangedString, ...]
    left_out: int
    unfit: int
    mixed: int
    clipping: int
    fused: int
    apart_pct: float
    terminations: int
    why: str


@dataclass(frozen=True, kw_only=True)
class Arrangements:
    """The best arrangements, how many are legal, and what blocks a better one.

    all_tried: False when there were too many to try every one.
    """

    ranked: tuple[Arrangement, ...]
    legal: int
    all_tried: bool
    blocks: tuple[str, ...]
    frees: tuple[str, ...]


Split = tuple[int, ...]  # the lengths of a plane's strings, longest first
Lot = tuple[int, int]  # which way it faces, how many in series
Beside = tuple[tuple[int, int] | None, ...]  # for each tracker: which lot, how many strings


@dataclass(frozen=True, slots=True)
class _Weighed:
    """An arrangement before it is written out: what ranks it, and what it is made of."""

    left_out: int
    unfit: int
    mixed: int
    clipping: int
    fused: int
    apart_pct: float
    terminations: int
    lots: dict[Lot, list[str]]
    beside: Beside

    @property
    def rank(self) -> tuple[float, ...]:
        return (
            self.left_out,
            self.unfit,
            self.mixed,
            self.clipping + self.fused,
            self.apart_pct // BALANCE_STEP_PCT,
            self.terminations,
            self.apart_pct,
        )


def arrange(job: Job, modules: Mapping[str, int]) -> Arrangements:
    """Every legal arrangement of so many modules on each plane, ranked."""
    allowed = Allowance(job, modules)
    search = _Search(allowed)
    found = list(islice(search.every(), MOST_TRIED))
    shown = nsmallest(SHOWN, found, key=lambda one: one.rank)
    ranked = [search.told(one, shown[0]) for one in shown]
    is_whole = bool(ranked) and ranked[0].left_out == 0
    blocks, frees = ((), ()) if is_whole else blocked(allowed)
    return Arrangements(
        ranked=tuple(ranked),
        legal=len(found),
        all_tried=len(found) < MOST_TRIED and search.steps <= MOST_STEPS,
        blocks=blocks,
        frees=frees,
    )


class _Search:
    """Every way to string a roof on an inverter inside what is allowed."""

    def __init__(self, allowed: Allowance) -> None:
        self.allowed = allowed
        self.trackers, self.most_beside = allowed.trackers, allowed.most_beside
        self.planes = sorted(allowed.planes, key=lambda plane: -allowed.modules[plane.name])
        self.steps = 0

    def every(self) -> Iterator[_Weighed]:
        """Each legal arrangement once, those that use most of the largest planes first."""
        places = sum(self.most_beside)
        splits = [
            sorted(islice(self._splits(plane, places), MOST_SPLITS), key=lambda cut: -sum(cut))
            for plane in self.planes
        ]
        for chosen in self._chosen(splits, places, (), frozenset()):
            used = sum(map(sum, chosen))
            if 0 < used <= self.allowed.most_modules:
                lots = self._lots(chosen)
                unfit = self._unfit(chosen)
                for beside in self._shared(0, tuple(map(len, lots.values())), ()):
                    yield self._weighed(lots, beside, self.allowed.total - used, unfit)

    def _chosen(
        self,
        splits: list[list[Split]],
        places: int,
        gathered: tuple[Split, ...],
        lots: frozenset[Lot],
    ) -> Iterator[tuple[Split, ...]]:
        """One split for each plane: no more strings than inputs, no more lots than trackers."""
        self.steps += 1
        if self.steps > MOST_STEPS:
            return
        if len(gathered) == len(splits):
            yield gathered
            return
        face = self.allowed.faces[self.planes[len(gathered)].name]
        for split in splits[len(gathered)]:
            both = lots.union((face, length) for length in split)
            if len(split) <= places and len(both) <= len(self.trackers):
                yield from self._chosen(splits, places - len(split), (*gathered, split), both)

    def _unfit(self, chosen: tuple[Split, ...]) -> int:
        return sum(
            not self.allowed.fits(length, plane.name)
            for plane, split in zip(self.planes, chosen, strict=True)
            for length in split
        )

    def _splits(self, plane: Plane, most_strings: int) -> Iterator[Split]:
        """Ways to cut a plane into strings, fewest first, each as even as can be; none last."""
        lengths = self.allowed.lengths(plane)
        # Where the inverter bears less than the roof holds, a plane may give up the difference.
        spare = self.allowed.total - self.allowed.most_modules
        for strings in range(1, most_strings + 1) if lengths else ():
            used = min(self.allowed.modules[plane.name], strings * lengths[-1])
            for total in range(used, max(used - spare, strings * lengths[0]) - 1, -1):
                yield from _parts(total, strings, lengths, len(self.trackers))
        yield ()

    def _lots(self, chosen: tuple[Split, ...]) -> dict[Lot, list[str]]:
        lots: dict[Lot, list[str]] = {}
        for plane, split in zip(self.planes, chosen, strict=True):
            for length in split:
                lots.setdefault((self.allowed.faces[plane.name], length), []).append(plane.name)
        return lots

    def _shared(self, tracker: int, left: tuple[int, ...], gathered: Beside) -> Iterator[Beside]:
        """Ways to give each tracker so many strings of one lot; like trackers in one order only."""
        self.steps += 1
        if self.steps > MOST_STEPS:
            return
        if tracker == len(self.trackers):
            if not any(left):
                yield gathered
            return
        trackers_left = len(self.trackers) - tracker
        if sum(left) > self.allowed.inputs_from[tracker] or sum(map(bool, left)) > trackers_left:
            return
        options: list[tuple[int, int] | None] = [
            (lot, strings)
            for lot, remaining in enumerate(left)
            for strings in range(min(remaining, self.most_beside[tracker]), 0, -1)
        ]
        same = tracker > 0 and self.trackers[tracker] == self.trackers[tracker - 1]
        for option in [*options, None]:
            if same and _before(option, gathered[-1]):
                continue
            after = list(left)
            if option is not None:
                after[option[0]] -= option[1]
            yield from self._shared(tracker + 1, tuple(after), (*gathered, option))

    def _weighed(
        self, lots: dict[Lot, list[str]], beside: Beside, left_out: int, unfit: int
    ) -> _Weighed:
        kinds = list(lots)
        taken = [0] * len(kinds)
        loads: list[float] = []
        mixed = clipping = fused = joints = strings = 0
        for tracker, option in enumerate(beside):
            if option is None:
                continue
            kind, count = option
            face, length = kinds[kind]
            first = taken[kind]
            taken[kind] += count
            mixed += len(set(lots[kinds[kind]][first : first + count])) > 1
            clipping += self.allowed.clips(tracker, count, length, face)
            fused += self.allowed.needs_fuses(count, face)
            loads.append(count * length * self.allowed.module_facing(face).pmax_w)
            joints += count - 1
            strings += count
        return _Weighed(
            left_out=left_out,
            unfit=unfit,
            mixed=mixed,
            clipping=clipping,
            fused=fused,
            apart_pct=FULL_PCT * (max(loads) - min(loads)) / max(loads),
            terminations=TERMINATIONS_A_STRING * strings + TERMINATIONS_A_JOINT * joints,
            lots=lots,
            beside=beside,
        )

    def told(self, one: _Weighed, best: _Weighed) -> Arrangement:
        """An arrangement written out, with its sentence."""
        queues = [(length, iter(planes)) for (_, length), planes in one.lots.items()]
        strings = tuple(
            ArrangedString(plane=next(planes), tracker=number, modules_in_series=length)
            for number, option in enumerate(one.beside, start=1)
            if option is not None
            for length, planes in (queues[option[0]],)
            for _ in range(option[1])
        )
        return Arrangement(
            strings=strings,
            left_out=one.left_out,
            unfit=one.unfit,
            mixed=one.mixed,
            clipping=one.clipping,
            fused=one.fused,
            apart_pct=one.apart_pct,
            terminations=one.terminations,
            why=_why(one, best, self.allowed.total),
        )


def _before(option: tuple[int, int] | None, earlier: tuple[int, int] | None) -> bool:
    """Whether an option repeats, on a like tracker, what the other order gave already."""
    if earlier is None:
        return option is not None
    if option is None:
        return False
    return (option[0], -option[1]) < (earlier[0], -earlier[1])


def _parts(
    total: int, parts: int, lengths: range, kinds: int, last: int | None = None
) -> Iterator[Split]:
    """Every way to write a total as so many lengths of at most so many kinds, evenest first."""
    if parts == 0:
        yield ()
        return
    most = lengths[-1] if last is None else last
    low = max(lengths[0], -(-total // parts))
    for first in range(low, min(most, total - (parts - 1) * lengths[0]) + 1):
        left = kinds - (first != last)
        if left >= 0:
            for rest in _parts(total - first, parts - 1, lengths, left, first):
                yield (first, *rest)


def _why(one: _Weighed, best: _Weighed, modules: int) -> str:
    """What the arrangement does, and what puts it behind the first."""
    words = [
        say(
            "arrange",
            "some" if one.left_out else "all",
            used=str(modules - one.left_out),
            of=str(modules),
        ),
        say("arrange", "weak" if one.unfit else "full_power", unfit=str(one.unfit)),
        *(
            say("arrange", key, count=str(count))
            for key, count in (("mixed", one.mixed), ("clips", one.clipping), ("fused", one.fused))
            if count
        ),
        say("arrange", "apart", apart=figure(one.apart_pct, "%", 0), ends=str(one.terminations)),
    ]
    told = "; ".join(words) + "."
    told = told[:1].upper() + told[1:]
    return told if one is best else f"{told} {_behind(one, best)}"


def _behind(one: _Weighed, best: _Weighed) -> str:
    for key, here, there in (
        ("left_out", one.left_out, best.left_out),
        ("unfit", one.unfit, best.unfit),
        ("mixed", one.mixed, best.mixed),
        ("strained", one.clipping + one.fused, best.clipping + best.fused),
        ("apart", one.apart_pct // BALANCE_STEP_PCT, best.apart_pct // BALANCE_STEP_PCT),
        ("terminations", one.terminations, best.terminations),
    ):
        if here != there:
            return say("arrange_behind", key, more=figure(here - there, digits=0))
    return say("arrange_behind", "equal")
