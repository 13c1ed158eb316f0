"""Stage 3, Earth: the path from frame to electrode, its sizes, and its continuity as it is read."""

from __future__ import annotations

from typing import NamedTuple

from core.assessment.site import EarthLinkState, EarthNodeState, EarthStage
from core.assessment.whole import Prompt
from core.base.glossary import Pole
from core.base.judgement import Judgement, holds, waiting, worst
from core.base.messages import figure, say
from core.base.stage_numbers import EARTH as STAGE
from core.base.trace import kept_ready
from core.figures.rule_packs import Figure, RulePack
from core.job.earthing import Earthing, EarthLink
from core.job.job import Job
from core.job.reading_kinds import kinds_of
from core.job.readings import EARTH
from core.planning.earth.path import left_out, reaching, roof_methods
from core.rules.ac.supply_safety import exposed_earth
from core.rules.earth.earth_bonding import (
    CONTINUITY_SOURCE,
    LEADS_SOURCE,
    SIZE_SOURCE,
    ContinuityBand,
    array_pole,
    bond_reaches_earth,
    bond_size,
    continuity,
    continuity_current,
    continuity_expected,
    leads_subtracted,
    protective_size,
    ring_lug,
    roof_bonding,
)
from core.rules.prove.yes_no_steps import step_seen, step_waits
from core.stages.earth.microinverters import earth_judgement
from core.stages.reading_index import Kept, Readings, prompt

OHM_DIGITS = 2
# What gives the power: a path without it is not drawn yet.
SOURCES = ("inverter", "units")
PATHS_KEPT = 32
EARTH_KINDS = frozenset(kinds_of(stage=STAGE))


class Plan(NamedTuple):
    """What the earth path is judged by: the path, what the sheet earths, the AC line, the pack.

    combined: neutral and earth are one in the supply. exposed: the conductor lies where it can be
    hurt.
    """

    earthing: Earthing
    pole_earthed: Pole
    line_mm2: float | None
    rules: RulePack
    combined: bool = False
    exposed: bool = False


# The path without what the roof needs, and what is asked of it.
Judged = tuple[str, tuple[EarthLinkState, ...], tuple[Judgement, ...], tuple[Prompt, ...]]


def earth_stage(job: Job, readings: Readings) -> tuple[EarthStage, tuple[Prompt, ...]]:
    """Every step of the path judged, and its continuity asked for."""
    last = job.feed.last
    line_mm2 = last.section_mm2 if last else None
    plan = Plan(
        job.earthing,
        job.inverter.pole_earthed if job.inverter else "none",
        line_mm2,
        job.rules,
        combined=job.feed.safety.combined_neutral is True,
        exposed=job.feed.safety.earth_exposed is True,
    )
    line, links, overall, asks = _judged(plan, readings.of_kinds(EARTH_KINDS))
    reach = reaching(job.earthing)
    rails = [node.name for node in job.earthing.nodes if node.kind == "rails"]
    units = earth_judgement(job, rails_bonded=bool(rails) and reach.issuperset(rails))
    stage = EarthStage(
        line=line,
        nodes=tuple(
            EarthNodeState(name=node.name, kind=node.kind, reaches=node.name in reach)
            for node in job.earthing.nodes
        ),
        links=links,
        schools=roof_methods(job),
        judgements=(*overall, *_left_out(job), *units),
    )
    return stage, asks


def _left_out(job: Job) -> tuple[Judgement, ...]:
    """Whether the path holds all of the plan; nothing while there is no path."""
    if not job.earthing.links:
        return ()
    needs = left_out(job)
    if needs:
        return (waiting("earth_path_whole", "", SIZE_SOURCE, needs),)
    return (holds("earth_path_whole", True, SIZE_SOURCE),)


@kept_ready(PATHS_KEPT)
def _judged(plan: Plan, read: Kept) -> Judged:
    """One path with what was read of it; a key pressed elsewhere in the job finds it ready."""
    readings, reach = Readings(read), reaching(plan.earthing)
    bonded = tuple(
        bond_reaches_earth(
            name=node.name, reaches=node.name in reach, ends_at=_ends(plan, node.name)
        )
        for node in plan.earthing.nodes
    )
    links, asks = [], list[Prompt]()
    if plan.earthing.links:
        asks += [_null_prompt(readings), _current_prompt(plan, readings)]
    for link in plan.earthing.links:
        band = _band(plan, link)
        own = _continuity_prompt(readings, link, band, tuple(asks[:2]))
        asks.append(own)
        links.append(_link(plan, link, band, own, readings))
    nulled = readings.latest("lead_null", EARTH)
    if plan.earthing.links and nulled is not None and nulled.sign != 1:
        asks.append(_leads_prompt(readings))
    overall = _overall(plan, bonded)
    return _line(tuple(links), overall), tuple(links), overall, tuple(asks)


def _ends(plan: Plan, name: str) -> str:
    """What a bond that does not reach the electrode leads to."""
    onward = [link.end for link in plan.earthing.links if link.start == name]
    return onward[0] if onward else say("earth", "nothing")


def _overall(plan: Plan, bonded: tuple[Judgement, ...]) -> tuple[Judgement, ...]:
    earthing = plan.earthing
    # A path without its inverter or its steps is not drawn yet, and says nothing.
    if not earthing.links or not any(node.kind in SOURCES for node in earthing.nodes):
        return (waiting("earth_path", "", SIZE_SOURCE, ()),)
    return (
        *(one for one in bonded if one.verdict != "clear"),
        roof_bonding(school=earthing.roof),
        array_pole(planned=earthing.array_pole, sheet=plan.pole_earthed),
    )


def _line(links: tuple[EarthLinkState, ...], overall: tuple[Judgement, ...]) -> str:
    wrong = [one for one in overall if one.verdict in ("stop", "waiting")]
    if wrong:
        return wrong[0].reason
    bad = [one for one in links if one.verdict == "stop"]
    if bad:
        return say("earth", "wrong", name=bad[0].name, reason=bad[0].line)
    read = sum(one.read_ohm is not None for one in links)
    return say("earth", "read", read=str(read), of=str(len(links)))


def least_mm2(plan: Plan, link: EarthLink) -> float | None:
    """The smallest conductor that a step of the path may be; None for a washer or clamp."""
    if link.how in ("washer", "clamp"):
        return None
    if link.how == "core" and plan.line_mm2 is not None:
        return protective_size(line_mm2=plan.line_mm2, rule_pack=plan.rules)
    return _bond_least(plan).value


def _bond_least(plan: Plan) -> Figure:
    """The least of a bonding conductor, with where that comes from."""
    rule, combined = plan.rules.earth, plan.rules.safety.bond_combined
    least = rule.bond_lightning if plan.earthing.lightning else rule.bond_least
    # Where neutral and earth are one in the supply, a bond may carry what the neutral should.
    return max(least, combined, key=lambda one: one.value) if plan.combined else least


def _sized(plan: Plan, link: EarthLink) -> tuple[Judgement, ...]:
    least = least_mm2(plan, link)
    if least is None:
        return ()
    if link.how == "core" and plan.line_mm2 is None:
        return (waiting("bond_size", "mm²", SIZE_SOURCE, (say("needs", "ac_run"),)),)
    if link.section_mm2 is None:
        needs = (say("needs", "earth_size", name=link.name),)
        return (waiting("bond_size", "mm²", SIZE_SOURCE, needs),)
    source = SIZE_SOURCE if link.how == "core" else _bond_least(plan).source
    found = [bond_size(section_mm2=link.section_mm2, least_mm2=least, source=source)]
    if plan.exposed and link.how == "wire":
        found.append(
            exposed_earth(section_mm2=link.section_mm2, name=link.name, rule_pack=plan.rules)
        )
    if link.stud_mm is not None:
        lug = ring_lug(section_mm2=link.section_mm2, stud_mm=link.stud_mm, rule_pack=plan.rules)
        found.append(lug)
    return tuple(found)


def _band(plan: Plan, link: EarthLink) -> ContinuityBand | None:
    """What a step's continuity should read: by length and size, or by its joint alone."""
    rule = plan.rules.earth
    if link.how in ("washer", "clamp"):
        return ContinuityBand(conductor_ohm=0.0, low_ohm=0.0, high_ohm=rule.joint_most.value)
    conductor = next(
        (one for one in plan.rules.ac.conductors if one.section_mm2 == link.section_mm2), None
    )
    if link.length_m is None or conductor is None:
        return None
    return continuity_expected(
        length_m=link.length_m,
        r20_ohm_per_km=conductor.r20_ohm_per_km,
        joints=link.joints,
        joint_ohm=rule.joint.value,
        meter_ohm=rule.meter.value,
        coldest_c=rule.coldest.value,
        hottest_c=rule.hottest.value,
    )


def _null_prompt(readings: Readings) -> Prompt:
    latest = readings.latest("lead_null", EARTH)
    judgement = (
        step_seen(step="lead_null", sign=latest.sign) if latest else step_waits(step="lead_null")
    )
    leads = _leads_ohm(readings)
    if leads is not None:
        judgement = leads_subtracted(leads_ohm=leads)
    return prompt(readings, STAGE, "lead_null", EARTH, (judgement,))


def _leads_ohm(readings: Readings) -> float | None:
    """What the leads have, where the tester cannot be nulled and they were read by themselves."""
    nulled, leads = readings.latest("lead_null", EARTH), readings.latest("lead_ohm", EARTH)
    is_nulled = nulled is None or nulled.sign == 1
    return None if is_nulled or leads is None else leads.number


def _leads_prompt(readings: Readings) -> Prompt:
    latest = readings.latest("lead_ohm", EARTH)
    judgement = (
        leads_subtracted(leads_ohm=latest.number)
        if latest
        else waiting("leads_subtracted", "Ω", LEADS_SOURCE, (say("needs", "reading"),))
    )
    return prompt(readings, STAGE, "lead_ohm", EARTH, (judgement,))


def _current_prompt(plan: Plan, readings: Readings) -> Prompt:
    least = plan.rules.earth.test_current.value
    latest = readings.latest("test_current", EARTH)
    judgement = (
        continuity_current(read_a=latest.number, least_a=least)
        if latest
        else waiting("continuity_current", "A", "IEC 61557-4", (say("needs", "reading"),))
    )
    text = say("earth", "at_least", value=figure(least, "A", OHM_DIGITS))
    return prompt(readings, STAGE, "test_current", EARTH, (judgement,), expected_text=text)


def _continuity_prompt(
    readings: Readings, link: EarthLink, band: ContinuityBand | None, tester: tuple[Prompt, ...]
) -> Prompt:
    latest = readings.latest("continuity", link.name)
    unsound = [one for one in tester if one.verdict in ("stop", "waiting")]
    needs = tuple(
        [say("needs", "reading")] * (latest is None)
        + [say("needs", "earth_length", name=link.name)] * (band is None)
        + [one.title for one in unsound if latest is not None]
    )
    leads_ohm = _leads_ohm(readings) or 0.0
    # More in the leads than in leads and path together: one of the two was misread.
    if latest is not None and latest.number < leads_ohm:
        needs = (*needs, say("needs", "leads_apart"))
    if latest is None or band is None or needs:
        judgement = waiting("continuity", "Ω", CONTINUITY_SOURCE, needs)
    else:
        own_ohm = latest.number - leads_ohm
        judgement = continuity(read_ohm=own_ohm, low_ohm=band.low_ohm, high_ohm=band.high_ohm)
    low_high = (band.low_ohm, band.high_ohm) if band else None
    return prompt(
        readings,
        STAGE,
        "continuity",
        link.name,
        (judgement,),
        expected=low_high,
        expected_text=_band_text(band),
        expected_because=_because(link, band),
    )


def _band_text(band: ContinuityBand | None) -> str:
    if band is None:
        return ""
    low = figure(band.low_ohm, digits=OHM_DIGITS)
    return f"{low} to {figure(band.high_ohm, 'Ω', OHM_DIGITS)}"


def _because(link: EarthLink, band: ContinuityBand | None) -> str:
    if band is None or link.length_m is None or link.section_mm2 is None:
        return ""
    return say(
        "earth",
        "because",
        length=figure(link.length_m, "m"),
        size=figure(link.section_mm2, "mm²"),
        ohm=figure(band.conductor_ohm, "Ω", OHM_DIGITS + 1),
        joints=str(link.joints),
    )


def _link(
    plan: Plan, link: EarthLink, band: ContinuityBand | None, own: Prompt, readings: Readings
) -> EarthLinkState:
    planned = _sized(plan, link)
    latest = readings.latest("continuity", link.name)
    every = (*planned, *own.judgements)
    verdict = worst(one.verdict for one in every)
    lug = next((one.reason for one in planned if one.rule_id == "ring_lug"), "")
    return EarthLinkState(
        name=link.name,
        start=link.start,
        end=link.end,
        how=link.how,
        least_mm2=least_mm2(plan, link),
        band=band,
        lug=lug,
        read_ohm=latest.number if latest else None,
        judgements=planned,
        verdict=verdict,
        line=next(one.reason for one in every if one.verdict == verdict),
    )
