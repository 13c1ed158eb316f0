"""Stage 3, Earth: the path from frame to electrode, its sizes, and its continuity as it is read."""

from __future__ import annotations

from core.assessment import Ask
from core.earthing import EarthLink
from core.job import Job
from core.judgement import Judgement, waiting, worst
from core.kept import EARTH
from core.planning.earth_path import reaching, roof_schools
from core.rules.earth_bonding import (
    CONTINUITY_SOURCE,
    SIZE_SOURCE,
    ContinuityBand,
    array_pole,
    bond_reaches_earth,
    bond_size,
    continuity,
    continuity_current,
    continuity_expected,
    protective_size,
    ring_lug,
    roof_bonding,
)
from core.rules.steps import step_seen, step_waits
from core.site_assessment import EarthLinkState, EarthNodeState, EarthStage
from core.stages.readings import Readings, ask
from core.words import figure, say

STAGE = 3
OHM_DIGITS = 2


def earth_stage(job: Job, readings: Readings) -> tuple[EarthStage, tuple[Ask, ...]]:
    """Every step of the path judged, and its continuity asked for."""
    earthing = job.earthing
    reach = reaching(earthing)
    bonded = tuple(
        bond_reaches_earth(
            name=node.name, reaches=node.name in reach, ends_at=_ends(job, node.name)
        )
        for node in earthing.nodes
    )
    links, asks = [], list[Ask]()
    if earthing.links:
        asks += [_null_ask(readings), _current_ask(job, readings)]
    for link in earthing.links:
        band = _band(job, link)
        own = _continuity_ask(readings, link, band, tuple(asks[:2]))
        asks.append(own)
        links.append(_link(job, link, band, own, readings))
    overall = _overall(job, bonded)
    stage = EarthStage(
        line=_line(tuple(links), overall),
        nodes=tuple(
            EarthNodeState(name=node.name, kind=node.kind, reaches=node.name in reach)
            for node in earthing.nodes
        ),
        links=tuple(links),
        schools=roof_schools(job),
        judgements=overall,
    )
    return stage, tuple(asks)


def _ends(job: Job, name: str) -> str:
    """What a bond that does not reach the electrode leads to."""
    onward = [link.end for link in job.earthing.links if link.start == name]
    return onward[0] if onward else say("earth", "nothing")


def _overall(job: Job, bonded: tuple[Judgement, ...]) -> tuple[Judgement, ...]:
    earthing = job.earthing
    if not earthing.nodes:
        return (waiting("earth_path", "", SIZE_SOURCE, ()),)
    return (
        *(one for one in bonded if one.verdict != "clear"),
        roof_bonding(school=earthing.roof),
        array_pole(planned=earthing.array_pole, sheet=job.inverter.pole_earthed),
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


def least_mm2(job: Job, link: EarthLink) -> float | None:
    """The smallest conductor that a step of the path may be; None for a washer or clamp."""
    if link.how in ("washer", "clamp"):
        return None
    rule = job.rules.earth
    if link.how == "core":
        return protective_size(line_mm2=job.feed.section_mm2, rule_pack=job.rules)
    return (rule.bond_lightning if job.earthing.lightning else rule.bond_least).value


def _sized(job: Job, link: EarthLink) -> tuple[Judgement, ...]:
    least = least_mm2(job, link)
    if least is None:
        return ()
    if link.section_mm2 is None:
        needs = (say("needs", "earth_size", name=link.name),)
        return (waiting("bond_size", "mm²", SIZE_SOURCE, needs),)
    found = [bond_size(section_mm2=link.section_mm2, least_mm2=least)]
    if link.stud_mm is not None:
        lug = ring_lug(section_mm2=link.section_mm2, stud_mm=link.stud_mm, rule_pack=job.rules)
        found.append(lug)
    return tuple(found)


def _band(job: Job, link: EarthLink) -> ContinuityBand | None:
    """What a step's continuity should read: by length and size, or by its joint alone."""
    rule = job.rules.earth
    if link.how in ("washer", "clamp"):
        return ContinuityBand(conductor_ohm=0.0, low_ohm=0.0, high_ohm=rule.joint_most.value)
    conductor = next(
        (one for one in job.rules.ac.conductors if one.section_mm2 == link.section_mm2), None
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


def _null_ask(readings: Readings) -> Ask:
    latest = readings.latest("lead_null", EARTH)
    judgement = (
        step_seen(step="lead_null", sign=int(latest.value))
        if latest
        else step_waits(step="lead_null")
    )
    return ask(readings, STAGE, "lead_null", EARTH, (judgement,))


def _current_ask(job: Job, readings: Readings) -> Ask:
    least = job.rules.earth.test_current.value
    latest = readings.latest("test_current", EARTH)
    judgement = (
        continuity_current(read_a=latest.value, least_a=least)
        if latest
        else waiting("continuity_current", "A", "IEC 61557-4", (say("needs", "reading"),))
    )
    text = say("earth", "at_least", value=figure(least, "A", OHM_DIGITS))
    return ask(readings, STAGE, "test_current", EARTH, (judgement,), expected_text=text)


def _continuity_ask(
    readings: Readings, link: EarthLink, band: ContinuityBand | None, tester: tuple[Ask, ...]
) -> Ask:
    latest = readings.latest("continuity", link.name)
    unsound = [one for one in tester if one.verdict in ("stop", "waiting")]
    needs = tuple(
        [say("needs", "reading")] * (latest is None)
        + [say("needs", "earth_length", name=link.name)] * (band is None)
        + [one.title for one in unsound if latest is not None]
    )
    if latest is None or band is None or unsound:
        judgement = waiting("continuity", "Ω", CONTINUITY_SOURCE, needs)
    else:
        judgement = continuity(read_ohm=latest.value, low_ohm=band.low_ohm, high_ohm=band.high_ohm)
    low_high = (band.low_ohm, band.high_ohm) if band else None
    return ask(
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
    job: Job, link: EarthLink, band: ContinuityBand | None, own: Ask, readings: Readings
) -> EarthLinkState:
    planned = _sized(job, link)
    latest = readings.latest("continuity", link.name)
    every = (*planned, *own.judgements)
    verdict = worst(one.verdict for one in every)
    lug = next((one.reason for one in planned if one.rule_id == "ring_lug"), "")
    return EarthLinkState(
        name=link.name,
        start=link.start,
        end=link.end,
        how=link.how,
        least_mm2=least_mm2(job, link),
        band=band,
        lug=lug,
        read_ohm=latest.value if latest else None,
        judgements=planned,
        verdict=verdict,
        line=next(one.reason for one in every if one.verdict == verdict),
    )
