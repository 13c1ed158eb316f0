"""Strings on trackers: every legal arrangement of the roof's modules, best first.

Legal: whole strings inside the hard bounds of volts, currents and inputs, each on one plane,
strings beside each other on a tracker alike. Ranked by what is left on the ground, then full
power cold to hot, like with like, clipping and fuses, balance, terminations.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cache
from heapq import nsmallest
from itertools import islice, product

from core.equipment.inverter import Tracker
from core.job import Job, Plane
from core.judgement import worst
from core.planning.string_plans import StringPlanner, planner_for
from core.rules.string_fuses import fuse_window
from core.rules.tracker_current import planes_alike, tracker_imp, tracker_isc
from core.stages import optimised
from core.words import figure, say

# Both ends of both leads of a string.
TERMINATIONS_A_STRING = 4
# A joint for each pole of each further string on a tracker.
TERMINATIONS_A_JOINT = 2
# Trackers are called balanced alike within this step, so that a trifle outweighs no termination.
BALANCE_STEP_PCT = 5
MOST_TRIED = 20_000
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
    search = _Search(job, modules)
    found = list(islice(search.every(), MOST_TRIED))
    shown = nsmallest(SHOWN, found, key=lambda one: one.rank)
    ranked = [search.told(one, shown[0]) for one in shown]
    blocks, frees = search.blocks(ranked[0] if ranked else None)
    return Arrangements(
        ranked=tuple(ranked),
        legal=len(found),
        all_tried=len(found) < MOST_TRIED,
        blocks=blocks,
        frees=frees,
    )


class _Search:
    """The roof, the inverter and what each length and tracker allows, each found once."""

    def __init__(self, job: Job, modules: Mapping[str, int]) -> None:
        self.job, self.modules = job, modules
        self.rules = job.rules
        site = job.site
        self.planner: StringPlanner = planner_for(
            job.module, job.inverter.dc, site.t_air_min_c, site.t_air_max_c, self.rules
        )
        self.planes: tuple[Plane, ...] = tuple(p for p in job.planes if modules.get(p.name, 0))
        self.faces = self._faces()
        bifacial = job.module.bifacial
        self.rear_gain = self.rules.current.rear_gain.value if bifacial else 0.0
        self.trackers: tuple[Tracker, ...] = job.inverter.trackers
        self.most_beside = tuple(self._most_beside(tracker) for tracker in self.trackers)
        self.inputs_from = tuple(sum(self.most_beside[n:]) for n in range(len(self.trackers)))
        self.fits = cache(self._fits)
        self.clips = cache(self._clips)
        self.needs_fuses = cache(self._needs_fuses)
        self.total = sum(modules[plane.name] for plane in self.planes)
        limit_w = job.inverter.max_dc_w
        most_by_power = self.total if limit_w is None else int(limit_w // job.module.pmax_w)
        self.most_modules = min(self.total, most_by_power)

    def _faces(self) -> dict[str, int]:
        """Planes that may share a tracker have one number."""
        tolerance = self.rules.current.alike_deg.value
        faces: dict[str, int] = {}
        for index, plane in enumerate(self.planes):
            alike = (
                faces[other.name]
                for other in self.planes[:index]
                if planes_alike(plane, other, tolerance)
            )
            faces[plane.name] = next(alike, index)
        return faces

    def lengths(self, plane: Plane) -> range:
        """The counts in series that break no hard bound on a plane."""
        sheet = self.job.optimiser
        if sheet is not None:
            by_power = int(sheet.most_string_w // self.job.module.pmax_w)
            return range(sheet.least_in_string, min(sheet.most_in_string, by_power) + 1)
        count = self.planner.count(plane.mounting)
        return range(count.least, (count.most or 0) + 1)

    def _fits(self, length: int, mounting: str) -> bool:
        sheet = self.job.optimiser
        judged = (
            optimised.judged(self.planner, sheet, length)
            if sheet is not None
            else self.planner.judged(length, mounting)
        )
        # A limit met exactly is a watch, but it is inside.
        return worst(one.verdict for one in judged if one.margin != 0) == "clear"

    def _most_beside(self, tracker: Tracker) -> int:
        if self.job.optimiser is not None:
            return tracker.inputs
        bears = [n for n in range(1, tracker.inputs + 1) if self._bears(tracker, n)]
        return max(bears, default=0)

    def _bears(self, tracker: Tracker, strings: int) -> bool:
        judged = tracker_isc(
            isc_a=self.job.module.isc_a,
            parallel_strings=strings,
            max_short_circuit_a=tracker.max_short_circuit_a,
            isc_factor=self.rules.current.isc_factor.value,
            rear_gain=self.rear_gain,
        )
        return judged.verdict != "stop"

    def every(self) -> Iterator[_Weighed]:
        """Each legal arrangement once."""
        places = sum(self.most_beside)
        splits = [list(self._splits(plane, places)) for plane in self.planes]
        for chosen in product(*splits):
            used = sum(map(sum, chosen))
            strings = sum(map(len, chosen))
            if used > self.most_modules or not 0 < strings <= places:
                continue
            lots = self._lots(chosen)
            if len(lots) <= len(self.trackers):
                unfit = self._unfit(chosen)
                for beside in self._shared(0, tuple(map(len, lots.values())), ()):
                    yield self._weighed(lots, beside, self.total - used, unfit)

    def _unfit(self, chosen: tuple[tuple[int, ...], ...]) -> int:
        return sum(
            not self.fits(length, plane.mounting)
            for plane, split in zip(self.planes, chosen, strict=True)
            for length in split
        )

    def _splits(self, plane: Plane, most_strings: int) -> Iterator[tuple[int, ...]]:
        lengths = self.lengths(plane)
        yield ()
        if not lengths:
            return
        # Where the inverter bears less than the roof holds, a plane may give up the difference.
        spare = self.total - self.most_modules
        for strings in range(1, most_strings + 1):
            used = min(self.modules[plane.name], strings * lengths[-1])
            for fewer in range(max(used - spare, strings * lengths[0]), used + 1):
                yield from _parts(fewer, strings, lengths[0], lengths[-1])

    def _lots(self, chosen: tuple[tuple[int, ...], ...]) -> dict[Lot, list[str]]:
        lots: dict[Lot, list[str]] = {}
        for plane, split in zip(self.planes, chosen, strict=True):
            for length in split:
                lots.setdefault((self.faces[plane.name], length), []).append(plane.name)
        return lots

    def _shared(self, tracker: int, left: tuple[int, ...], sofar: Beside) -> Iterator[Beside]:
        """Ways to give each tracker so many strings of one lot; like trackers in one order only."""
        if tracker == len(self.trackers):
            if not any(left):
                yield sofar
            return
        trackers_left = len(self.trackers) - tracker
        if sum(left) > self.inputs_from[tracker] or sum(map(bool, left)) > trackers_left:
            return
        options: list[tuple[int, int] | None] = [
            (lot, strings)
            for lot, remaining in enumerate(left)
            for strings in range(min(remaining, self.most_beside[tracker]), 0, -1)
        ]
        same = tracker > 0 and self.trackers[tracker] == self.trackers[tracker - 1]
        for option in [*options, None]:
            if same and _before(option, sofar[-1]):
                continue
            after = list(left)
            if option is not None:
                after[option[0]] -= option[1]
            yield from self._shared(tracker + 1, tuple(after), (*sofar, option))

    def _weighed(
        self, lots: dict[Lot, list[str]], beside: Beside, left_out: int, unfit: int
    ) -> _Weighed:
        kinds = list(lots)
        taken = [0] * len(kinds)
        loads: list[int] = []
        mixed = clipping = fused = joints = strings = 0
        for tracker, option in enumerate(beside):
            if option is None:
                continue
            kind, count = option
            length = kinds[kind][1]
            first = taken[kind]
            taken[kind] += count
            mixed += len(set(lots[kinds[kind]][first : first + count])) > 1
            clipping += self.clips(tracker, count, length)
            fused += self.needs_fuses(count)
            loads.append(count * length)
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
            why=_why(one, best, self.total),
        )

    def _clips(self, number: int, strings: int, length: int) -> bool:
        tracker, load_w = self.trackers[number], strings * length * self.job.module.pmax_w
        if tracker.max_power_w is not None and load_w > tracker.max_power_w:
            return True
        if self.job.optimiser is not None:
            return False
        judged = tracker_imp(
            imp_a=self.job.module.imp_a,
            parallel_strings=strings,
            max_operating_a=tracker.max_operating_a,
            rear_gain=self.rear_gain,
        )
        return judged.verdict == "watch" and judged.margin != 0

    def _needs_fuses(self, strings: int) -> bool:
        fuse_a = self.job.module.max_series_fuse_a
        if strings == 1 or self.job.optimiser is not None or fuse_a is None:
            return False
        return fuse_window(
            isc_a=self.job.module.isc_a,
            parallel_strings=strings,
            max_series_fuse_a=fuse_a,
            rear_gain=self.rear_gain,
            rule_pack=self.rules,
        ).needed

    def blocks(self, best: Arrangement | None) -> tuple[tuple[str, ...], tuple[str, ...]]:
        """What keeps modules off, and the nearest changes that would free them."""
        if best is not None and best.left_out == 0:
            return (), ()
        pairs = [*self._plane_blocks(), *self._inverter_blocks()]
        return tuple(block for block, _ in pairs), tuple(dict.fromkeys(free for _, free in pairs))

    def _plane_blocks(self) -> Iterator[tuple[str, str]]:
        for plane in self.planes:
            lengths, count = self.lengths(plane), self.modules[plane.name]
            facts = {"plane": plane.name, "modules": str(count)}
            if not lengths:
                bounds = self.planner.count(plane.mounting)
                yield bounds.blocks or "", bounds.frees or ""
            elif count < lengths[0]:
                facts |= {"least": str(lengths[0]), "more": str(lengths[0] - count)}
                yield say("arrange", "too_few", **facts), say("arrange", "too_few_frees", **facts)

    def _inverter_blocks(self) -> Iterator[tuple[str, str]]:
        if not any(self.most_beside):
            tracker = self.trackers[0]
            current_a = self.job.module.isc_a * (1 + self.rear_gain)
            current_a *= self.rules.current.isc_factor.value
            facts = {
                "current": figure(current_a, "A"),
                "limit": figure(tracker.max_short_circuit_a, "A"),
            }
            yield say("arrange", "current", **facts), say("arrange", "current_frees", **facts)
            return
        count = self.total
        most = max((lengths[-1] for p in self.planes if (lengths := self.lengths(p))), default=0)
        places = sum(self.most_beside)
        if most and (count > places * most or len(self.planes) > places):
            facts = {"modules": str(count), "inputs": str(places), "most": str(most)}
            yield say("arrange", "inputs", **facts), say("arrange", "inputs_frees", **facts)
        elif most and len(set(self.faces.values())) > len(self.trackers):
            facts = {
                "faces": str(len(set(self.faces.values()))),
                "trackers": str(len(self.trackers)),
            }
            yield say("arrange", "faces", **facts), say("arrange", "faces_frees", **facts)
        limit_w = self.job.inverter.max_dc_w
        power_w = count * self.job.module.pmax_w
        if limit_w is not None and power_w > limit_w:
            off = -(-(power_w - limit_w) // self.job.module.pmax_w)
            facts = {
                "power": figure(power_w, "W", 0),
                "limit": figure(limit_w, "W", 0),
                "off": figure(off, digits=0),
            }
            yield say("arrange", "power", **facts), say("arrange", "power_frees", **facts)


def _before(option: tuple[int, int] | None, earlier: tuple[int, int] | None) -> bool:
    """Whether an option repeats, on a like tracker, what the other order gave already."""
    if earlier is None:
        return option is not None
    if option is None:
        return False
    return (option[0], -option[1]) < (earlier[0], -earlier[1])


def _parts(total: int, parts: int, least: int, most: int) -> Iterator[tuple[int, ...]]:
    """Every way to write a total as so many parts between two bounds, longest first."""
    if parts == 1:
        if least <= total <= most:
            yield (total,)
        return
    low = max(least, -(-total // parts))
    for first in range(low, min(most, total - (parts - 1) * least) + 1):
        for rest in _parts(total - first, parts - 1, least, min(first, most)):
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
