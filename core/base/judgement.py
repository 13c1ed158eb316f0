"""The one judgement shape, and the three ways to come to one.

Equality, float noise at the limit, NaN and missing inputs are decided here, once: equality
holds the rule and is *watch*; noise of 1e-9 relative does not flip a verdict; NaN and missing
are never *clear*.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from core.base.messages import digits_apart, figure, say, sentence

Verdict = Literal["clear", "watch", "stop", "waiting"]

# Relative noise that binary floats leave on decimal sheets: 10 x 55.00000000000001 V is 550 V.
NOISE_REL = 1e-9

# From mildest to gravest; a missing input outweighs a watch but never hides a stop.
GRAVITY: tuple[Verdict, ...] = ("clear", "watch", "waiting", "stop")


@dataclass(frozen=True, kw_only=True, slots=True)
class Judgement:
    """A value held against a limit.

    rule_id: stable name of the rule. title: what was asked. margin: signed distance to the
    limit in `unit`, positive on the safe side; margin_pct: the same in percent of the limit.
    reason: one sentence with the numbers. source: standard and clause, sheet or pack.
    needs: names of the inputs that are missing when the verdict is *waiting*.
    """

    rule_id: str
    title: str
    verdict: Verdict
    value: float | None
    limit: float | None
    margin: float | None
    margin_pct: float | None
    unit: str
    reason: str
    source: str
    needs: tuple[str, ...] = ()


def same(value: float, limit: float) -> bool:
    """Equal but for float noise."""
    return math.isclose(value, limit, rel_tol=NOISE_REL, abs_tol=0.0)


def fits(value: float, limit: float) -> bool:
    """At most the limit; exactly on it, but for float noise, fits."""
    return value <= limit or same(value, limit)


def worst(verdicts: Iterable[Verdict]) -> Verdict:
    """The gravest of some verdicts; *waiting* when there are none."""
    return max(verdicts, key=GRAVITY.index, default="waiting")


@lru_cache(maxsize=256)
def waiting(rule_id: str, unit: str, source: str, needs: tuple[str, ...]) -> Judgement:
    """A judgement that cannot be made yet, naming what is missing."""
    return Judgement(
        rule_id=rule_id,
        title=say(rule_id, "title"),
        verdict="waiting",
        value=None,
        limit=None,
        margin=None,
        margin_pct=None,
        unit=unit,
        reason=say(rule_id, "waiting") if not needs else "Waiting for " + " and ".join(needs) + ".",
        source=source,
        needs=needs,
    )


def at_most(
    rule_id: str,
    value: float,
    limit: float,
    unit: str,
    source: str,
    *,
    over: Verdict = "stop",
    exact: Verdict = "watch",
    advisory: float | None = None,
    **facts: str,
) -> Judgement:
    """Value must not exceed the limit; above an `advisory` below it, watch.

    exact: the verdict of a value on the limit itself, clear where limits are met on purpose.
    """
    ends = _Ends(beyond=over, exact=exact, advisory=advisory)
    return _judge(rule_id, value, limit, limit - value, unit, source, ends, facts)


def at_least(
    rule_id: str,
    value: float,
    limit: float,
    unit: str,
    source: str,
    *,
    under: Verdict = "stop",
    exact: Verdict = "watch",
    **facts: str,
) -> Judgement:
    """Value must not fall below the limit."""
    ends = _Ends(beyond=under, exact=exact)
    return _judge(rule_id, value, limit, value - limit, unit, source, ends, facts)


def within(
    rule_id: str,
    value: float,
    low: float,
    high: float,
    unit: str,
    source: str,
    *,
    outside: Verdict = "stop",
    exact: Verdict = "watch",
    **facts: str,
) -> Judgement:
    """Value must lie between low and high; the limit shown is the nearer of the two."""
    nearer_low = abs(value - low) <= abs(high - value)
    limit = low if nearer_low else high
    margin = value - low if nearer_low else high - value
    side = "low" if value < low else "high"
    shown = {"low": figure(low), "high": figure(high), "side": side}
    ends = _Ends(beyond=outside, exact=exact)
    return _judge(rule_id, value, limit, margin, unit, source, ends, shown | facts)


def holds(rule_id: str, good: bool, source: str, bad: Verdict = "stop", **facts: str) -> Judgement:
    """A judgement of a fact that is so or not so; no figure, no margin."""
    verdict: Verdict = "clear" if good else bad
    return Judgement(
        rule_id=rule_id,
        title=say(rule_id, "title"),
        verdict=verdict,
        value=None,
        limit=None,
        margin=None,
        margin_pct=None,
        unit="",
        reason=say(rule_id, verdict, **facts),
        source=source,
    )


@dataclass(frozen=True, kw_only=True)
class _Ends:
    """What a value beyond a limit, on it, and above the advisory one is."""

    beyond: Verdict
    exact: Verdict
    advisory: float | None = None


def _judge(
    rule_id: str,
    value: float,
    limit: float,
    margin: float,
    unit: str,
    source: str,
    ends: _Ends,
    facts: dict[str, str],
) -> Judgement:
    if not (math.isfinite(value) and math.isfinite(limit)):
        return waiting(rule_id, unit, source, (say(rule_id, "title"),))
    key, verdict, margin = _decide(value, limit, margin, ends)
    digits = digits_apart(value, limit, unit)
    shown = {
        "value": figure(value, unit, digits),
        "limit": figure(limit, unit, digits),
        "margin": figure(abs(margin), unit, digits),
    }
    return Judgement(
        rule_id=rule_id,
        title=say(rule_id, "title"),
        verdict=verdict,
        value=value,
        limit=limit,
        margin=margin,
        margin_pct=100 * margin / abs(limit) if limit else None,
        unit=unit,
        reason=sentence(rule_id, key).format_map(shown | facts),
        source=source,
    )


def _decide(value: float, limit: float, margin: float, ends: _Ends) -> tuple[str, Verdict, float]:
    if same(value, limit):
        return "on_limit", ends.exact, 0.0
    if margin < 0:
        return "beyond", ends.beyond, margin
    advisory = ends.advisory
    if advisory is not None and value > advisory and not same(value, advisory):
        return "advisory", "watch", margin
    return "clear", "clear", margin
