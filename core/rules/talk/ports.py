"""Which function goes on which port: one way, several, or none, and then what stands against it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import combinations
from typing import Annotated

from core.base.errors import Refused, problem
from core.base.form import Checked
from core.base.glossary import Name
from core.base.quantity import Items, Quantity
from core.base.rule import rule

Pair = Annotated[tuple[Name, ...], Items("two functions", 2, 2)]
Pairs = Annotated[tuple[Pair, ...], Items("pairs that exclude each other", 0, 60)]
Functions = Annotated[tuple[Name, ...], Items("functions", 0, 40)]
# Ways of one group of wishes that are counted one by one; a house has a handful.
MOST_WAYS = 500_000
MOST_WISHES_IN_CONFLICT = 16


@dataclass(frozen=True, kw_only=True)
class TalkPort(Checked):
    """A port of a device: which functions it takes, how many at once, which never together."""

    id: Name
    device: Name
    functions: Functions
    most: Annotated[int, Quantity("functions at once", "", 0, 20)] = 1
    excludes: Pairs = ()


@dataclass(frozen=True, kw_only=True)
class PortBlock(Checked):
    """Ports that share something inside: functions that are never both on them."""

    ports: Annotated[tuple[Name, ...], Items("ports", 1, 40)]
    excludes: Pairs


@dataclass(frozen=True, kw_only=True)
class Wish(Checked):
    """A function that a device must have on one of its ports."""

    device: Name
    function: Name

    @property
    def name(self) -> str:
        """It in one word."""
        return f"{self.device}:{self.function}"


@dataclass(frozen=True, kw_only=True)
class Need(Checked):
    """A function that makes no sense without another."""

    function: Name
    needs: Functions


Ports = Annotated[tuple[TalkPort, ...], Items("ports", 0, 60)]
Blocks = Annotated[tuple[PortBlock, ...], Items("blocks", 0, 20)]
Wishes = Annotated[tuple[Wish, ...], Items("wishes", 0, 40)]
Needs = Annotated[tuple[Need, ...], Items("needs", 0, 40)]


@dataclass(frozen=True, kw_only=True)
class OnPort:
    """A wish and the only port that it ever goes on."""

    wish: str
    port: str


@dataclass(frozen=True, kw_only=True)
class PortPlan:
    """Where wishes go. placings: how many ways there are. first: one of them.

    one_port: wishes with the same port in every way. idle_always: ports without a function in
    every way; idle_least, idle_most: how many of them there are. conflicts: the smallest sets of
    wishes that never fit together; most_together: how many fit at once. missing: what a wish needs
    that nobody wished for, as ``function needs function``.
    """

    fits: bool
    placings: int
    first: tuple[OnPort, ...]
    one_port: tuple[OnPort, ...]
    idle_always: tuple[str, ...]
    idle_least: int
    idle_most: int
    conflicts: tuple[tuple[str, ...], ...]
    most_together: int
    missing: tuple[str, ...]


@rule
def port_plan(*, ports: Ports, wishes: Wishes, blocks: Blocks = (), needs: Needs = ()) -> PortPlan:
    """On which port does each function go, and where not all fit, what stands against it?

    A wish goes on a port of its own device that names it; a port takes so many; functions that
    exclude each other are never on one port, nor on the ports of one block.
    Raises Refused where there are too many ways to count.
    Source: device sheets (ports); combinatorics, every way tried.
    """
    every = _Every(ports, blocks)
    groups = every.groups(wishes)
    ways = [every.ways(group) for group in groups]
    fits = all(ways)
    idle = _idle(ports, groups, ways) if fits else (len(ports), len(ports), ())
    total = 1
    for some in ways:
        total *= len(some)
    return PortPlan(
        fits=fits,
        placings=total if fits else 0,
        first=_told(groups, [some[0] for some in ways]) if fits else (),
        one_port=_only(groups, ways) if fits else (),
        idle_always=idle[2] if fits else (),
        idle_least=idle[0] if fits else 0,
        idle_most=idle[1] if fits else 0,
        conflicts=() if fits else every.conflicts(wishes),
        most_together=len(wishes) if fits else every.most(wishes),
        missing=_missing(wishes, needs),
    )


@dataclass(frozen=True, kw_only=True)
class PortPlaces:
    """One way to put wishes on ports. conflicts: where there is none, the smallest sets that never
    fit together; most_together: how many fit at once."""

    places: tuple[OnPort, ...]
    conflicts: tuple[tuple[str, ...], ...]
    most_together: int


@rule
def port_places(*, ports: Ports, wishes: Wishes, blocks: Blocks = ()) -> PortPlaces:
    """Where could each function go, the hardest to place first?

    The first way that is found; how many there are is `port_plan`'s to say.
    Source: device sheets (ports); combinatorics.
    """
    every = _Every(ports, blocks)
    hardest = tuple(sorted(wishes, key=lambda one: len(every.allowed(one))))
    groups = every.groups(hardest)
    ways = [next(every.try_ways(group), None) for group in groups]
    found = [way for way in ways if way is not None]
    if len(found) == len(groups):
        return PortPlaces(places=_told(groups, found), conflicts=(), most_together=len(wishes))
    return PortPlaces(
        places=(), conflicts=every.conflicts(wishes), most_together=every.most(wishes)
    )


Way = tuple[str, ...]


class _Every:
    """Every way to put wishes on ports."""

    def __init__(self, ports: tuple[TalkPort, ...], blocks: tuple[PortBlock, ...]) -> None:
        self.ports = {port.id: port for port in ports}
        self.blocks = defaultdict[str, list[PortBlock]](list)
        for block in blocks:
            for name in block.ports:
                self.blocks[name].append(block)

    def allowed(self, wish: Wish) -> list[str]:
        """The ports that take a function at all."""
        return [
            port.id
            for port in self.ports.values()
            if port.device == wish.device and wish.function in port.functions and port.most > 0
        ]

    def groups(self, wishes: tuple[Wish, ...]) -> list[tuple[Wish, ...]]:
        """Wishes that touch each other's ports or blocks, apart from those that do not."""
        found: list[tuple[set[str], list[Wish]]] = []
        for wish in wishes:
            touched = set(self.allowed(wish))
            for name in tuple(touched):
                for block in self.blocks[name]:
                    touched.update(block.ports)
            own = [wish]
            apart = []
            for names, group in found:
                if names & touched:
                    touched |= names
                    own = [*group, *own]
                else:
                    apart.append((names, group))
            found = [*apart, (touched, own)]
        return [tuple(group) for _, group in found]

    def ways(self, wishes: tuple[Wish, ...]) -> list[Way]:
        """Every way to put these on ports, the port of each in order. Raises Refused."""
        found = []
        for way in self.try_ways(wishes):
            found.append(way)
            if len(found) > MOST_WAYS:
                said = f"More than {MOST_WAYS} ways: put some of these on a port by hand first."
                raise Refused([problem("$.wishes", len(wishes), "fewer at once", said)])
        return found

    def try_ways(self, wishes: tuple[Wish, ...]) -> Iterator[Way]:
        """The ways one by one, as they are found."""
        return self._ways(wishes, ())

    def _ways(self, wishes: tuple[Wish, ...], before: Way) -> Iterator[Way]:
        if len(before) == len(wishes):
            yield before
            return
        wish = wishes[len(before)]
        for name in self.allowed(wish):
            if self._goes(wishes, before, wish.function, name):
                yield from self._ways(wishes, (*before, name))

    def _goes(self, wishes: tuple[Wish, ...], before: Way, function: str, name: str) -> bool:
        port = self.ports[name]
        here = [w.function for w, at in zip(wishes, before, strict=False) if at == name]
        if len(here) >= port.most or _clashes(function, here, port.excludes):
            return False
        for block in self.blocks[name]:
            inside = [
                w.function for w, at in zip(wishes, before, strict=False) if at in block.ports
            ]
            if _clashes(function, inside, block.excludes):
                return False
        return True

    def place(self, wishes: tuple[Wish, ...]) -> bool:
        """Whether these go on ports at all."""
        return all(next(self.try_ways(group), None) is not None for group in self.groups(wishes))

    def conflicts(self, wishes: tuple[Wish, ...]) -> tuple[tuple[str, ...], ...]:
        """The smallest sets of wishes that never fit together; of the fewest members there are."""
        _few(wishes)
        for size in range(1, len(wishes) + 1):
            found = {
                tuple(sorted(one.name for one in some))
                for some in combinations(wishes, size)
                if not self.place(some)
            }
            if found:
                return tuple(sorted(found))
        return ()

    def most(self, wishes: tuple[Wish, ...]) -> int:
        """How many of these fit at once."""
        _few(wishes)
        sizes = range(len(wishes), -1, -1)
        return next(s for s in sizes if any(map(self.place, combinations(wishes, s))))


def _few(wishes: tuple[Wish, ...]) -> None:
    if len(wishes) > MOST_WISHES_IN_CONFLICT:
        said = "So many do not fit that the smallest conflict cannot be searched: plan in parts."
        raise Refused(
            [problem("$.wishes", len(wishes), f"at most {MOST_WISHES_IN_CONFLICT}", said)]
        )


def _clashes(function: str, others: list[str], excludes: tuple[tuple[str, ...], ...]) -> bool:
    return any(
        (function == one and other in others) or (function == other and one in others)
        for one, other in excludes
    )


def _told(groups: list[tuple[Wish, ...]], ways: list[Way]) -> tuple[OnPort, ...]:
    pairs = (
        OnPort(wish=wish.name, port=port)
        for group, way in zip(groups, ways, strict=True)
        for wish, port in zip(group, way, strict=True)
    )
    return tuple(sorted(pairs, key=lambda one: one.wish))


def _only(groups: list[tuple[Wish, ...]], ways: list[list[Way]]) -> tuple[OnPort, ...]:
    """Wishes that go on the same port in every way."""
    found = []
    for group, some in zip(groups, ways, strict=True):
        for at, wish in enumerate(group):
            used = {way[at] for way in some}
            if len(used) == 1:
                found.append(OnPort(wish=wish.name, port=used.pop()))
    return tuple(sorted(found, key=lambda one: one.wish))


def _idle(
    ports: tuple[TalkPort, ...], groups: list[tuple[Wish, ...]], ways: list[list[Way]]
) -> tuple[int, int, tuple[str, ...]]:
    """How many ports stay idle, at least and at most, and those that always do."""
    used = [{frozenset(way) for way in some} for some in ways]
    most_used = sum(max(map(len, some)) for some in used)
    least_used = sum(min(map(len, some)) for some in used)
    ever = {name for some in used for names in some for name in names}
    never = tuple(sorted(port.id for port in ports if port.id not in ever))
    return len(ports) - most_used, len(ports) - least_used, never


def _missing(wishes: tuple[Wish, ...], needs: tuple[Need, ...]) -> tuple[str, ...]:
    """What wished functions need that is wished for on no device."""
    wished = {one.function for one in wishes}
    return tuple(
        sorted(
            f"{one.function} needs {other}"
            for one in needs
            if one.function in wished
            for other in one.needs
            if other not in wished
        )
    )
