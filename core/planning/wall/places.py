"""Places on a wall that satisfy everything, best first, each with its reason."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from core.base.errors import Refused, problem
from core.base.messages import figure, say
from core.equipment.body import Body
from core.figures.rule_packs import WallRule
from core.job.job import Job
from core.job.wall import Rect, Wall, WallDevice
from core.planning.wall.device import hung
from core.planning.wall.space import FACING, Blocker, blockers, body_of, needs_of
from core.rules.wall.clearances import clearance_between, needed_field
from core.rules.wall.hole_marks import hole_marks

MOST_PLACES = 5
# Two proposals nearer to each other than this are the same place to a hand.
APART_MM = 150.0
# A top screw in a stud is worth this much of height and of cable to the nearest neighbour.
LOOSE_MM = 2000.0
MM_PER_M = 1000.0


@dataclass(frozen=True, kw_only=True)
class WallPlace:
    """One place for a device: its lower left corner in mm, and why it is good."""

    x_mm: float
    y_mm: float
    reason: str


@dataclass(frozen=True, kw_only=True)
class WallPlaces:
    """The places found, best first; with none, what blocks them and what would free one."""

    places: tuple[WallPlace, ...]
    line: str


def find_places(job: Job, name: str) -> WallPlaces:
    """Where a device of the wall can hang so that every clearance, height and fixing is kept.

    Raises Refused when there is no wall, no such device, or its sheet gives no body.
    """
    if job.wall is None:
        raise Refused([problem("$.wall", "none", "a drawn wall")])
    device = next((one for one in job.wall.devices if one.name == name), None)
    body = body_of(device, job.inverter) if device is not None else None
    if device is None or body is None:
        allowed = " · ".join(one.name for one in job.wall.devices) or "a device on the wall"
        raise Refused([problem("$.device", name, f"{allowed}, with a body on its sheet")])
    rules = job.rules.wall
    search = _Search(job.wall, body, blockers(job.wall, job.inverter, name), rules)
    found = search.best()
    if not found:
        return WallPlaces(places=(), line=search.blocks())
    there = replace(device, x_mm=found[0].x_mm, y_mm=found[0].y_mm)
    stops = [
        one
        for one in hung(job.wall, there, body, job.inverter, job.rules).judgements
        if one.verdict == "stop"
    ]
    # What still stops at the best place is no matter of place: depth in front, fixing, wall.
    if stops:
        return WallPlaces(places=found, line=say("places", "but", reason=stops[0].reason))
    return WallPlaces(places=found, line=say("places", "found", count=str(len(found))))


def with_device_placed(job: Job, device: WallDevice) -> Job:
    """The job with one more device, hung at the best place; where it was, when there is none.

    Raises Refused when the name is taken.
    """
    hung = replace(job, wall=job.drawn_wall.with_device(device))
    if body_of(device, job.inverter) is None:
        return hung
    best = find_places(hung, device.name).places[:1]
    if not best or hung.wall is None:
        return hung
    placed = hung.wall.with_device_at(device.name, best[0].x_mm, best[0].y_mm)
    return replace(hung, wall=placed)


class _Search:
    """Candidate corners made of the edges of everything on the wall, and those that fit."""

    def __init__(
        self, wall: Wall, body: Body, around: tuple[Blocker, ...], rules: WallRule
    ) -> None:
        self.wall, self.body, self.around, self.rules = wall, body, around, rules
        self.needs = needs_of(body)
        self.low_mm = max(self.needs["bottom"], body.floor_low_mm)
        if wall.reach == "out_of_reach":
            self.low_mm = max(self.low_mm, rules.out_of_reach.value)
        self.kept = tuple((one.name, one.rect, self._kept_off(one)) for one in around)

    def _kept_off(self, other: Blocker) -> Rect:
        """Where the device's corner must not be: its body and its spaces would reach the other."""
        gap = {
            side: clearance_between(first_mm=self.needs[side], second_mm=other.needs[FACING[side]])
            for side in self.needs
        }
        w, h, rect = self.body.width_mm, self.body.height_mm, other.rect
        return Rect(
            rect.x - w - gap["right"],
            rect.y - h - gap["top"],
            rect.w + w + gap["right"] + gap["left"],
            rect.h + h + gap["top"] + gap["bottom"],
        )

    def best(self) -> tuple[WallPlace, ...]:
        ranked = sorted((self._cost(x, y), x, y) for x, y in self._corners() if self._is_free(x, y))
        chosen: list[tuple[float, float]] = []
        for _, x, y in ranked:
            if all(max(abs(x - a), abs(y - b)) >= APART_MM for a, b in chosen):
                chosen.append((x, y))
            if len(chosen) == MOST_PLACES:
                break
        return tuple(WallPlace(x_mm=x, y_mm=y, reason=self._reason(x, y)) for x, y in chosen)

    def _corners(self) -> Iterator[tuple[float, float]]:
        low, high = self.low_mm, self.wall.top_mm - self.body.height_mm - self.needs["top"]
        left = self.needs["left"]
        right = self.wall.width_mm - self.body.width_mm - self.needs["right"]
        ys = sorted({y for y in self._heights() if low <= y <= high})
        xs = sorted({x for x in self._across() if left <= x <= right})
        return ((x, y) for y in ys for x in xs)

    def _across(self) -> Iterator[float]:
        yield self.needs["left"]
        yield self.wall.width_mm - self.body.width_mm - self.needs["right"]
        yield (self.wall.width_mm - self.body.width_mm) / 2
        for _, rect, off in self.kept:
            yield from (off.x, off.right)
            yield from (rect.x, rect.x + (rect.w - self.body.width_mm) / 2)
        bracket = self.body.bracket
        if bracket is not None:
            in_from = (self.body.width_mm - bracket.pattern_w_mm) / 2
            for stud in self.wall.studs_mm:
                yield stud - in_from
                yield stud - self.body.width_mm / 2

    def _heights(self) -> Iterator[float]:
        yield self.low_mm
        yield self.wall.top_mm - self.body.height_mm - self.needs["top"]
        if self.body.display_below_top_mm is not None:
            eye = self.body.height_mm - self.body.display_below_top_mm
            rules = self.rules
            for height in (rules.display_best, rules.display_low, rules.display_high):
                yield height.value - eye
        for _, rect, off in self.kept:
            yield from (off.y, off.top)
            yield from (rect.y, rect.top - self.body.height_mm)

    def _is_free(self, x: float, y: float) -> bool:
        if self._on_studs(x) == 0:
            return False
        return not any(off.x < x < off.right and off.y < y < off.top for _, _, off in self.kept)

    def _on_studs(self, x: float) -> int | None:
        """How many top holes lie in a stud; None where that does not matter.

        A backing board is drawn where a device already hangs: there the rule for fixings says it.
        """
        bracket = self.body.bracket
        if bracket is None or self.wall.kind != "stud":
            return None
        if self.body.mass_kg <= self.rules.board_most.value:
            return None
        marks = hole_marks(body=self.body, left_edge_mm=x, top_above_datum_mm=0, datum_mm=0)
        holes = [mark.x_mm for mark in marks.holes[: bracket.top_fixings]]
        half = self.rules.stud_half.value
        return sum(any(abs(hole - stud) <= half for stud in self.wall.studs_mm) for hole in holes)

    def _cost(self, x: float, y: float) -> float:
        away_mm = min((_between(self._rect(x, y), rect) for _, rect, _ in self.kept), default=0.0)
        bracket, on_studs = self.body.bracket, self._on_studs(x)
        loose = bracket.top_fixings - on_studs if bracket is not None and on_studs else 0
        return loose * LOOSE_MM + self._off_eye_mm(y) + away_mm

    def _off_eye_mm(self, y: float) -> float:
        if self.body.display_below_top_mm is None:
            middle = y + self.body.height_mm / 2
            return abs(middle - self.rules.display_best.value)
        display = y + self.body.height_mm - self.body.display_below_top_mm
        return abs(display - self.rules.display_best.value)

    def _rect(self, x: float, y: float) -> Rect:
        return Rect(x, y, self.body.width_mm, self.body.height_mm)

    def _reason(self, x: float, y: float) -> str:
        rect = self._rect(x, y)
        parts = []
        if self.body.display_below_top_mm is not None:
            display = y + self.body.height_mm - self.body.display_below_top_mm
            parts.append(say("places", "display", height=figure(display / MM_PER_M, "m", 2)))
        near = min(self.kept, key=lambda one: _between(rect, one[1]), default=None)
        if near is not None:
            gap = figure(_between(rect, near[1]), "mm", 0)
            parts.append(say("places", "near", gap=gap, name=near[0]))
        on_studs, bracket = self._on_studs(x), self.body.bracket
        if on_studs is not None and bracket is not None:
            count, every = str(on_studs), str(bracket.top_fixings)
            parts.append(say("places", "studs", count=count, all=every))
        return say("places", "reason", parts="; ".join(parts)) if parts else say("places", "free")

    def blocks(self) -> str:
        """Why nothing fits: the field that the device needs beside what the wall has."""
        body, needs = self.body, self.needs
        across = needed_field(
            size_mm=body.width_mm, before_mm=needs["left"], after_mm=needs["right"]
        )
        up = needed_field(size_mm=body.height_mm, before_mm=self.low_mm, after_mm=needs["top"])
        said = "wall" if across > self.wall.width_mm or up > self.wall.top_mm else "crowded"
        return say(
            "places",
            said,
            needed=f"{figure(across, digits=0)} × {figure(up, 'mm', 0)}",
            wall=f"{figure(self.wall.width_mm, digits=0)} × {figure(self.wall.top_mm, 'mm', 0)}",
        )


def _between(first: Rect, second: Rect) -> float:
    """Between two rectangles, mm: the larger of the gaps across and up; 0 where they touch."""
    across = max(first.x - second.right, second.x - first.right, 0.0)
    up = max(first.y - second.top, second.y - first.top, 0.0)
    return max(across, up)
