"""Made dead: an order with times, which holds for the day at most and while nothing is switched."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import pairwise
from zoneinfo import ZoneInfo

from core.base.judgement import Judgement, holds, waiting
from core.base.messages import figure, say
from core.job.job import Job
from core.job.readings import Reading
from core.job.sequences import SwitchId
from core.job.subjects import DEAD_SOURCE, dead_steps
from core.planning.wake.order import discharge_min
from core.stages.permissions.switches import BRANCH, Positions
from core.stages.reading_index import Readings

AC_OFF, DC_OFF, WAITED, DEAD = "ac_off", "dc_off", "waited", "dead"


@dataclass(frozen=True, kw_only=True)
class MadeDead:
    """What making dead still lacks at a moment; due_at: before it the capacitors may hold."""

    lacks: tuple[Judgement, ...]
    due_at: datetime | None


def made_dead(job: Job, readings: Readings, said: Positions, at: datetime | None) -> MadeDead:
    """Whether everything is dead now: every step good, in its order, waited out, of today, nothing
    switched ON since, and every other source OFF.

    Source: EN 50110-1:2013, 6.2.
    """
    read = {
        step: readings.latest("dead_step", step)
        for step in dead_steps(on_wall=job.inverter is not None)
    }
    due_at = _due_at(job, read)
    lacks = (
        *_undone(read),
        *_out_of_order(read),
        *_too_soon(read, due_at),
        *_past(job, read, at),
        *_switched(read, said),
        *_other_sources(job, said),
    )
    return MadeDead(lacks=lacks, due_at=due_at)


Read = dict[str, Reading | None]


def _undone(read: Read) -> Iterator[Judgement]:
    """What is not OFF comes before what is only not done yet."""
    live = [step for step, one in read.items() if one is not None and not one.is_good]
    for step in live:
        yield holds("dead_step", False, DEAD_SOURCE, step=say("dead_steps", step))
    undone = [step for step, one in read.items() if one is None]
    if undone:
        needs = (say("needs", "dead_step", step=say("dead_steps", undone[0])),)
        yield waiting("dead_step", "", DEAD_SOURCE, needs)


def _out_of_order(read: Read) -> Iterator[Judgement]:
    done = [(step, one.taken_at) for step, one in read.items() if one is not None]
    for (_, before), (step, after) in pairwise(done):
        if after < before:
            yield _lacks("order", step=say("dead_steps", step))
            return


def _due_at(job: Job, read: Read) -> datetime | None:
    """When the capacitors have had their time: counted from the last switch that was put OFF."""
    off = [one.taken_at for step in (AC_OFF, DC_OFF) if (one := read.get(step)) is not None]
    return max(off) + timedelta(minutes=discharge_min(job)) if off else None


def _too_soon(read: Read, due_at: datetime | None) -> Iterator[Judgement]:
    """The wait is measured from the readings; a tick says nothing of it."""
    waited = read[WAITED]
    if waited is not None and due_at is not None and waited.taken_at < due_at:
        short = (due_at - waited.taken_at).total_seconds()
        yield _lacks("too_soon", short=figure(short, "s", 0))


def _past(job: Job, read: Read, at: datetime | None) -> Iterator[Judgement]:
    """It holds for the working day: a night is long enough for somebody to switch on."""
    done = [one.taken_at for one in read.values() if one is not None]
    if done and at is not None:
        zone = ZoneInfo(job.site.timezone)
        if min(done).astimezone(zone).date() != at.astimezone(zone).date():
            yield waiting("proved_dead", "", DEAD_SOURCE, (say("proved_dead", "today"),))


def _switched(read: Read, said: Positions) -> Iterator[Judgement]:
    """Any switch put ON since the first step voids it."""
    done = [one.taken_at for one in read.values() if one is not None]
    last = said.last_on()
    if done and last is not None and last.at >= min(done):
        yield _lacks("switched", switch=switch_title(last.switch))


def _other_sources(job: Job, said: Positions) -> Iterator[Judgement]:
    """What feeds beside the strings and the supply stands OFF, by word on it."""
    backup = job.feed.backup
    if backup is None or backup.battery is None:
        return
    battery: SwitchId = "battery"
    stands = said.of(battery)
    if stands != "OFF":
        key = "battery_on" if stands == "ON" else "battery_unsaid"
        yield _lacks(key)


def _lacks(key: str, **facts: str) -> Judgement:
    """It is not dead for this reason."""
    return holds("proved_dead", False, DEAD_SOURCE, reason=say("proved_dead", key, **facts))


def switch_title(switch: str) -> str:
    """A switch in words; a branch by its own name."""
    if switch.startswith(f"{BRANCH} "):
        return say("switch_names", "branch_named", name=switch.removeprefix(f"{BRANCH} "))
    return say("switch_names", switch)
