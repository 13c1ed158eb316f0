"""What is known of supply and array beside the plan, judged where it belongs."""

from __future__ import annotations

from collections.abc import Iterator

from core.base.judgement import Judgement, waiting
from core.base.messages import say
from core.equipment.cables_switches_fixings import Breaker
from core.job.feed import CIRCUIT
from core.job.job import Job
from core.rules.ac.supply_safety import (
    BREAKING_SOURCE,
    breaking_capacity,
    fault_current,
    outbuilding_earth,
    supply_side,
    upstream_protection,
)
from core.rules.dc.array_safety import (
    arc_detection,
    array_point,
    inverter_monitors,
    shutdown_inside,
    shutdown_listed,
    shutdown_outside,
    shutdown_within,
    surge_by_lightning,
    surge_leads,
    surge_level,
)
from core.stages.feed import other_sources
from core.stages.feed.context import Feed


def supply_judgements(feed: Feed, fits: Judgement) -> Iterator[Judgement]:
    """The supply: its kind, an outbuilding's earth, a joint before the main switch."""
    facts, last = feed.job.feed.safety, feed.job.feed.last
    yield fits
    if facts.outbuilding:
        yield outbuilding_earth(combined_neutral=facts.combined_neutral)
    if facts.service_a is not None and last is not None:
        first = feed.chain.runs[0] if feed.chain.runs else last
        yield supply_side(
            service_a=facts.service_a,
            sources_a=feed.rules.circuit.continuous.value
            * (feed.design_a + other_sources.fullest_a(feed.job.feed, feed.source, first)),
            section_mm2=first.section_mm2,
            rule_pack=feed.rules,
        )


def breaker_judgements(feed: Feed, breaker: Breaker) -> Iterator[Judgement]:
    """The circuit's breaker: whether it parts a fault, and whether the inverter bears it."""
    ac = feed.job.inverter.ac if feed.job.inverter else None
    if ac is not None and ac.upstream_most_a is not None:
        yield upstream_protection(breaker_a=breaker.rated_a, upstream_most_a=ac.upstream_most_a)
    known_ka, breaks_ka = feed.job.feed.safety.fault_ka, breaker.breaking_ka
    if breaks_ka is None:
        if known_ka is not None:
            needs = (say("needs", "breaking", name=breaker.label),)
            yield waiting("breaking_capacity", "kA", BREAKING_SOURCE, needs)
        return
    loop = feed.readings.latest("loop_impedance", CIRCUIT)
    # The loop is read behind the breaker: it shows too small a one, and never one large enough.
    at_end_ka = 0.0
    if loop is not None and loop.number > 0:
        at_end_ka = fault_current(loop_ohm=loop.number, nominal_v=feed.source.nominal_v)
    if known_ka is not None or at_end_ka > breaks_ka:
        yield breaking_capacity(breaking_ka=breaks_ka, fault_ka=max(known_ka or 0.0, at_end_ka))


def array_judgements(
    job: Job, voc_cold_v: float | None, longest_m: float | None
) -> Iterator[Judgement]:
    """The array: what the inverter watches, arcs, a shutdown, surges, a point to part it at."""
    facts, rules, inverter = job.feed.safety, job.rules, job.wall_inverter
    says = (inverter.insulation_monitor, inverter.residual_monitor)
    if set(says) != {"unsaid"}:
        yield inverter_monitors(insulation=says[0], residual=says[1])
    if voc_cold_v is not None and rules.safety.arc == "asked":
        yield arc_detection(detects=inverter.arc_detection, voc_cold_v=voc_cold_v, rule_pack=rules)
    if rules.safety.shutdown == "asked" or facts.shutdown is not None:
        yield shutdown_inside(shutdown=facts.shutdown, rule_pack=rules)
    if facts.shutdown is not None:
        yield shutdown_outside(shutdown=facts.shutdown, rule_pack=rules)
        yield shutdown_within(shutdown=facts.shutdown, rule_pack=rules)
        yield shutdown_listed(shutdown=facts.shutdown)
    if facts.surge_ucpv_v is not None and voc_cold_v is not None:
        yield surge_level(ucpv_v=facts.surge_ucpv_v, voc_cold_v=voc_cold_v)
    if facts.surge_lead_m is not None:
        yield surge_leads(lead_m=facts.surge_lead_m, rule_pack=rules)
    if facts.flashes is not None and longest_m is not None:
        fitted = job.feed.dc.surge != "none"
        yield surge_by_lightning(
            fitted=fitted, length_m=longest_m, flashes=facts.flashes, rule_pack=rules
        )
    if rules.safety.disconnect == "point":
        yield array_point(point=facts.point)
