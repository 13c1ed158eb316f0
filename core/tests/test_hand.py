"""Changes that meet, and text that is the same as what is written."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import replace
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from core.assess import ask_of, assess
from core.base.form import as_text, write
from core.edits.fields import Change, changed
from core.edits.strings import without_string
from core.files.touches import touches
from core.hand.changes import ITEMS, NEW, WHERE, WHOLE, changes
from core.hand.meeting import meetings
from core.job.job import Job
from core.tests.samples import measured_job, sample_job, wired_roof, with_wall

FIELDS = ("$.site.altitude_m", "$.site.t_air_min_c", "$.site.t_air_max_c", "$.name")
STATES: tuple[Callable[[], Job], ...] = (
    sample_job,
    measured_job,
    wired_roof,
    lambda: with_wall(sample_job()),
    lambda: without_string(sample_job(), "A"),
)
Entered = st.tuples(st.sampled_from(FIELDS), st.integers(50, 56))


def put(job: Job, *entered: tuple[str, int]) -> Job:
    for path, number in entered:
        low = -number if "min" in path else number
        job = changed(job, (Change(path=path, entered=f"{low}"),))
    return job


class Meeting(TestCase):
    @given(mine=st.lists(Entered, max_size=3), theirs=st.lists(Entered, max_size=3))
    def test_changes_meet_where_both_put_something_else(
        self, mine: list[tuple[str, int]], theirs: list[tuple[str, int]]
    ) -> None:
        job = sample_job()
        ours, others = touches(job, put(job, *mine)), touches(job, put(job, *theirs))
        met = {one.path for one in meetings(ours, others)}
        wanted = dict(mine)
        both = {path for path, number in theirs if path in wanted}
        self.assertEqual(met, {path for path in both if dict(theirs)[path] != wanted[path]})

    def test_what_was_added_to_a_list_meets_what_was_changed_in_it(self) -> None:
        job = sample_job()
        (plane, *_) = job.planes
        added = replace(job, planes=(*job.planes, replace(plane, name="Another")))
        steeper = replace(
            job, planes=(replace(plane, tilt_deg=plane.tilt_deg + 1), *job.planes[1:])
        )
        self.assertTrue(meetings(touches(job, added), touches(job, steeper)))
        self.assertFalse(meetings(touches(job, added), touches(job, replace(job, name="x"))))


def after(before: Any, told: Any) -> Any:
    """What was told of as changed, made on what was before, both as JSON has them."""
    if WHOLE in told:
        return told[WHOLE]
    if ITEMS in told:
        stood = [None if at == NEW else before[at] for at in told.get(WHERE, range(len(before)))]
        return [after(one, told[ITEMS].get(str(number), {})) for number, one in enumerate(stood)]
    inside = told.get("fields", {})
    return (
        before | {name: after(before[name], one) for name, one in inside.items()}
        if inside
        else before
    )


class Told(TestCase):
    @given(
        jobs=st.tuples(st.sampled_from(STATES), st.sampled_from(STATES)),
        entered=st.lists(Entered, max_size=3),
    )
    def test_changes_on_what_was_shown_are_what_is_shown(
        self, jobs: tuple[Callable[[], Job], Callable[[], Job]], entered: list[tuple[str, int]]
    ) -> None:
        was, now = jobs[0](), put(jobs[1](), *entered)
        before, made = assess(was), assess(now)
        told = json.loads(as_text(changes(before, made)))
        self.assertEqual(after(json.loads(as_text(before)), told), json.loads(as_text(made)))


class Typed(TestCase):
    def test_what_is_typed_is_told_as_the_whole_assessment_tells_it(self) -> None:
        for job in (sample_job(), wired_roof()):
            asks = assess(job).asks
            self.assertIn("label_stuck", {one.kind for one in asks})
            self.assertEqual(tuple(ask_of(job, one.key) for one in asks), asks)
            self.assertIsNone(ask_of(job, "label_stuck/of nothing"))


class Text(TestCase):
    def test_text_says_what_is_written(self) -> None:
        for job in (sample_job(), wired_roof()):
            said = assess(job)
            self.assertEqual(json.loads(as_text(said)), json.loads(json.dumps(write(said))))
            self.assertEqual(json.loads(as_text(job)), json.loads(json.dumps(write(job))))
