"""How old a reading may be before a permission no longer rests on it; core reads no clock."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime, timedelta

from core.assessment.whole import OpenPoint, Prompt
from core.base.judgement import waiting
from core.base.messages import figure, say
from core.job.job import Job
from core.job.reading_kinds import KINDS
from core.job.sequences import wake_key
from core.planning.wake.order import chosen
from core.stages.permissions.points import part_of
from core.stages.permissions.switches import Positions
from core.stages.reading_index import Readings

AGE_SOURCE = "how long a reading holds: Long Noon default, beside its kind; not from a standard"
MIN_PER_H, H_PER_DAY, S_PER_H = 60.0, 24.0, 3600.0
# From twice a unit on a span is told in it.
TWICE = 2
LEFT_TO_RUN = "normal"


def last_word(job: Job) -> datetime | None:
    """When the job was last read, written to or looked at; None of a job that nobody touched."""
    moments = (
        *(one.taken_at for one in job.readings),
        *(one.at for one in job.settings_written),
        *(one.at for one in job.gateway_reads),
        *(one.at for one in job.step_overrides),
    )
    return max(moments, default=None)


def left_running(job: Job, readings: Readings, said: Positions) -> datetime | None:
    """When the plant was left to run, while it still does: from then on readings do not age."""
    key = wake_key(chosen(job).id, "on", LEFT_TO_RUN)
    last = readings.latest("wake_step", key)
    if last is None or not last.is_good:
        return None
    put_off = (one.at for one in said.moves if one.to == "OFF")
    return last.taken_at if max(put_off, default=last.taken_at) <= last.taken_at else None


def outdated(asks: tuple[Prompt, ...], at: datetime | None) -> Iterator[OpenPoint]:
    """Every reading that is older than its kind holds, as a judgement that waits."""
    for ask in asks:
        holds_h = KINDS[ask.kind].holds_h
        if ask.reading is None or holds_h is None or at is None:
            continue
        age = at - ask.reading.taken_at
        if age > timedelta(hours=holds_h):
            needs = say("needs", "read_again", age=span(age), holds=span(timedelta(hours=holds_h)))
            yield OpenPoint(
                stage=ask.stage,
                where=ask.title,
                judgement=waiting("reading_old", "", AGE_SOURCE, (needs,)),
                key=ask.key,
                part=part_of(ask),
            )


def span(age: timedelta) -> str:
    """A span of time as it is told: days, hours or minutes."""
    hours = age.total_seconds() / S_PER_H
    if hours >= TWICE * H_PER_DAY:
        return figure(hours / H_PER_DAY, "days", 0)
    if hours >= TWICE:
        return figure(hours, "h", 0)
    return figure(hours * MIN_PER_H, "min", 0)
