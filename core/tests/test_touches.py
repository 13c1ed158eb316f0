"""What a change touched is put back, and nothing else."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

from hypothesis import assume, given
from hypothesis import strategies as st

from core.base.errors import Refused
from core.files.touches import Touch, put_back, told_of, touches
from core.tests.samples import sample_job
from core.tests.test_hand import Entered, put


class Undo(TestCase):
    @given(mine=st.lists(Entered, min_size=1, max_size=3), theirs=st.lists(Entered, max_size=2))
    def test_a_change_is_put_back_and_what_others_did_since_stays_or_stands_against_it(
        self, mine: list[tuple[str, int]], theirs: list[tuple[str, int]]
    ) -> None:
        before = sample_job()
        after = put(before, *mine)
        now = put(after, *theirs)
        made = touches(before, after)
        assume(not set(theirs) & set(mine))
        again = {one.path for one in made} & {one.path for one in touches(after, now)}
        if again:
            with self.assertRaises(Refused) as refused:
                put_back(now, made)
            self.assertIn(refused.exception.problems[0].path, again)
            return
        back = put_back(now, made)
        self.assertEqual(back, put(before, *theirs))
        self.assertEqual(put_back(back, touches(now, back)), now)

    def test_a_plane_that_was_added_is_gone_and_words_say_what_it_was(self) -> None:
        job = sample_job()
        (plane, *_) = job.planes
        added = replace(job, planes=(*job.planes, replace(plane, name="Another")))
        (touch,) = touches(job, added)
        self.assertIn("Another", told_of(touch).made)
        self.assertEqual(put_back(added, (touch,)), job)

    def test_where_what_it_stood_in_is_gone_it_is_refused_and_nothing_crashes(self) -> None:
        job = sample_job()
        (plane, *_) = job.planes
        for path in ("$.planes[19].tilt_deg", "$.micro.unit.model", "$.planes[19]"):
            with self.subTest(path), self.assertRaises(Refused):
                put_back(job, (Touch(path=path, was=plane.tilt_deg, made=None),))
