"""Equality, noise, NaN and missing inputs: decided once, for every rule."""

from __future__ import annotations

import math
import re
from unittest import TestCase

from hypothesis import assume, given
from hypothesis import strategies as st

from core.base.judgement import GRAVITY, at_least, at_most, waiting, within, worst
from core.rules.ac.voltage_rise import ac_rise_limit

RULE = "string_track_hot"
volts = st.floats(min_value=1, max_value=2000)


class Deciding(TestCase):
    @given(value=volts, limit=volts)
    def test_at_most_and_at_least_mirror_each_other(self, value: float, limit: float) -> None:
        assume(not math.isclose(value, limit, rel_tol=1e-8))
        above, below = at_most(RULE, value, limit, "V", "s"), at_least(RULE, value, limit, "V", "s")
        self.assertEqual({above.verdict, below.verdict}, {"clear", "stop"})
        self.assertEqual(above.margin, -(below.margin or 0))
        self.assertEqual(above.verdict == "clear", value < limit)

    @given(limit=volts, noise=st.floats(min_value=-9e-10, max_value=9e-10))
    def test_on_the_limit_is_watch_with_no_margin_whatever_the_noise(
        self, limit: float, noise: float
    ) -> None:
        for judge in (at_most, at_least):
            judged = judge(RULE, limit * (1 + noise), limit, "V", "s")
            self.assertEqual((judged.verdict, judged.margin), ("watch", 0.0))

    @given(value=volts, limit=volts)
    def test_the_reason_never_shows_two_different_numbers_alike(
        self, value: float, limit: float
    ) -> None:
        assume(abs(value - limit) > 1e-6)
        reason = at_most("string_under_max", value, limit, "V", "s").reason
        shown = [float(number) for number in re.findall(r"\d+(?:\.\d+)?(?=\u00a0V)", reason)]
        first, last = (shown[0], shown[-1])
        self.assertEqual(first < last, value < limit, reason)
        self.assertNotEqual(first, last, reason)

    def test_nan_and_infinity_are_never_clear(self) -> None:
        for odd in (math.nan, math.inf, -math.inf):
            for judged in (
                at_most(RULE, odd, 600, "V", "s"),
                at_least(RULE, 600, odd, "V", "s"),
                within(RULE, odd, 1, 2, "V", "s"),
            ):
                self.assertEqual(judged.verdict, "waiting")
                self.assertTrue(judged.needs)

    def test_a_missing_input_is_named_and_outweighs_clear_and_watch(self) -> None:
        judged = waiting(RULE, "V", "s", ("the reading",))
        self.assertIn("the reading", judged.reason)
        self.assertEqual(worst(["clear", "watch", judged.verdict]), "waiting")
        self.assertEqual(worst(GRAVITY), "stop")
        self.assertEqual(worst([]), "waiting")

    def test_advisory_is_watch_and_its_edge_is_clear(self) -> None:
        verdicts = [
            ac_rise_limit(rise_pct=rise, limit_pct=3.0, advisory_pct=1.0).verdict
            for rise in (0.5, 1.0, 1.01, 3.0, 3.01)
        ]
        self.assertEqual(verdicts, ["clear", "clear", "watch", "watch", "stop"])

    @given(value=volts, low=volts, span=st.floats(min_value=1, max_value=500))
    def test_within_shows_the_nearer_bound(self, value: float, low: float, span: float) -> None:
        judged = within("ac_supply", value, low, low + span, "V", "s", nominal="230 V")
        other = low + span if judged.limit == low else low
        assert judged.limit is not None
        self.assertLessEqual(abs(value - judged.limit), abs(value - other))
        self.assertEqual((judged.margin or 0) < 0, judged.verdict == "stop")
