"""What stands on the way: supply, board with its breaker, isolators; the switching of DC."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Literal, get_args

from core.assessment.feed import FeedDeviceState
from core.assessment.whole import Prompt
from core.base.judgement import Judgement, holds, waiting, worst
from core.base.messages import figure, say
from core.base.stage_numbers import FEED as STAGE
from core.job.feed import CIRCUIT, FeedDevice
from core.job.job import Job
from core.job.subjects import DC_ISOLATOR, DC_SWITCHES, SAFETY_SWITCH
from core.planning.dc.currents import strongest_a
from core.planning.dc.switching import switch_count
from core.rules.ac.circuit import breaker_carries, supply_fits
from core.rules.ac.meters import meter_carries, meter_phases, meter_two_way
from core.rules.ac.protection import (
    LOOP_SOURCE,
    breaker_two_way,
    busbar_far_end,
    busbar_share,
    busbar_sum,
    loop_trips,
    residual_sensitivity,
    residual_type,
    surge_ac,
    surge_dc,
)
from core.rules.ac.switching import (
    DC_SOURCE,
    SWITCH_SOURCE,
    ac_isolator_current,
    ac_isolator_duty,
    ac_isolator_poles,
    ac_isolator_voltage,
    breaker_poles,
    dc_isolator_current,
    dc_isolator_direction,
    dc_isolator_duty,
    dc_isolator_poles,
    dc_isolator_voltage,
    isolator_room,
)
from core.rules.dc.array_safety import outdoor_rating
from core.rules.prove.yes_no_steps import step_seen, step_waits
from core.rules.wall.wall_fixings import entry_outdoors
from core.stages.feed import other_sources
from core.stages.feed.context import Feed, deciding
from core.stages.feed.runs import StringLoad
from core.stages.feed.safety import array_judgements, breaker_judgements, supply_judgements
from core.stages.reading_index import prompt

SwitchStep = Literal["line_side", "isolator_up"]
BEFORE_WIRING: tuple[SwitchStep, ...] = get_args(SwitchStep)
BUSBAR_SOURCE = "IEC 61439-3; NEC 2023 705.12"


def device_state(feed: Feed, device: FeedDevice) -> FeedDeviceState:
    """One device of the AC side judged."""
    judgements = _judged(feed, device)
    line, _ = deciding(judgements, say("feed", "device_clear"))
    return FeedDeviceState(
        name=device.name,
        kind=device.kind,
        title=_title(feed, device),
        judgements=judgements,
        verdict=worst(("clear", *(one.verdict for one in judgements))),
        line=line,
    )


def _title(feed: Feed, device: FeedDevice) -> str:
    if device.kind == "inverter":
        return feed.source.label
    if device.breaker is not None:
        return f"{device.breaker.label}, {figure(device.breaker.rated_a, 'A')}"
    if device.isolator is not None:
        return f"{device.isolator.label}, {figure(device.isolator.rated_a, 'A')}"
    if device.meter is not None:
        return device.meter.label
    return say("feed_kinds", device.kind)


def _judged(feed: Feed, device: FeedDevice) -> tuple[Judgement, ...]:
    if device.breaker is not None:
        # Wherever the circuit's breaker sits, it is judged as such.
        return _board(feed, device)
    match device.kind:
        case "supply":
            return tuple(supply_judgements(feed, _supply(feed)))
        case "board":
            return _board(feed, device)
        case "isolator":
            return _isolator(feed, device)
        case "branches":
            return _branch_board(feed, device)
        case "meter":
            return tuple(_meter(feed, device))
        case _:
            return ()


def _supply(feed: Feed) -> Judgement:
    supply = feed.job.feed.supply_service
    if supply is None:
        needs = (say("needs", "supply_service"),)
        return waiting("supply_fits", "", "inverter sheet", needs)
    return supply_fits(inverter=feed.service, supply=supply)


def _meter(feed: Feed, device: FeedDevice) -> Iterator[Judgement]:
    """A meter by its sheet; one that is there already may have none."""
    meter, supply = device.meter, feed.job.feed.supply_service
    if meter is None:
        return
    yield meter_carries(design_a=feed.design_a, most_a=meter.most_a)
    if supply is not None:
        yield meter_phases(phases=meter.phases, supply=supply)
    yield meter_two_way(two_way=meter.two_way)


def _board(feed: Feed, device: FeedDevice) -> tuple[Judgement, ...]:
    plan, rules = feed.job.feed, feed.rules
    has_surge = device.surge != "none" or plan.of_kind("surge") is not None
    surge = surge_ac(fitted=has_surge)
    if device.breaker is None:
        if feed.board is not None:
            return (surge,)
        needs = (feed.breaker_wanted,)
        return (waiting("breaker_carries", "A", rules.circuit.source, needs), surge)
    breaker = device.breaker
    found = [
        breaker_carries(breaker_a=breaker.rated_a, design_a=feed.design_a, rule_pack=rules),
        breaker_poles(poles=breaker.poles, service=feed.service),
        breaker_two_way(two_way=breaker.two_way),
    ]
    # Where the code knows no residual devices, none is wanted; one that is there is no matter.
    if rules.safety.residual == "asked":
        found.append(
            residual_type(
                fitted=breaker.residual_type,
                dc_fault_limited=feed.source.dc_fault_limited,
                earth_system=plan.earth_system,
                rule_pack=rules,
            )
        )
    if breaker.residual_ma is not None and rules.safety.residual == "asked":
        found.append(
            residual_sensitivity(
                fitted_ma=breaker.residual_ma, earth_system=plan.earth_system, rule_pack=rules
            )
        )
    found += breaker_judgements(feed, breaker)
    return (*found, *_busbar(feed, device, breaker.rated_a), surge)


def _branch_board(feed: Feed, device: FeedDevice) -> tuple[Judgement, ...]:
    """The board of the branches: a two-way breaker for each; alone, its busbar too."""
    plan = feed.job.micro
    branches = [one for one in plan.branches if one.units] if plan else []
    found = list[Judgement]()
    for branch in branches:
        if branch.breaker is None:
            needs = (say("needs", "branch_breaker", name=branch.name),)
            found.append(waiting("branch_two_way", "", SWITCH_SOURCE, needs))
            continue
        found.append(
            holds("branch_two_way", branch.breaker.two_way, SWITCH_SOURCE, name=branch.name)
        )
        found.append(
            breaker_poles(poles=branch.breaker.poles, service=feed.job.roof_plan.unit.service)
        )
    is_alone = feed.board is device
    rated_a = math.fsum(one.breaker.rated_a for one in branches if one.breaker)
    switch = _isolator(feed, device) if device.isolator is not None else ()
    return (*switch, *found, *(_busbar(feed, device, rated_a) if is_alone and rated_a else ()))


def _busbar(feed: Feed, board: FeedDevice, inverter_a: float) -> tuple[Judgement, ...]:
    rules = feed.rules
    rule_id = "busbar_share" if rules.circuit.busbar == "share" else "busbar_sum"
    needs = tuple(
        say("needs", key, name=board.name)
        for key, value in (("busbar", board.busbar_a), ("supply_breaker", board.supply_a))
        if value is None
    )
    if feed.job.feed.others is None:
        needs = (*needs, say("needs", "other_sources"))
    if needs or board.busbar_a is None or board.supply_a is None:
        return (waiting(rule_id, "A", BUSBAR_SOURCE, needs),)
    beside_a = other_sources.on_bar_a(feed.job.feed, feed.source, board.name, inverter_a)
    if rule_id == "busbar_sum":
        return (
            busbar_sum(
                busbar_a=board.busbar_a,
                supply_a=board.supply_a,
                inverter_a=inverter_a,
                others_a=beside_a,
            ),
        )
    share = busbar_share(
        busbar_a=board.busbar_a,
        supply_a=board.supply_a,
        inverter_a=rules.circuit.continuous.value * feed.design_a,
        others_a=beside_a,
        rule_pack=rules,
    )
    return share, busbar_far_end(far_end=board.far_end)


def _isolator(feed: Feed, device: FeedDevice) -> tuple[Judgement, ...]:
    isolator = device.isolator
    entry = (entry_outdoors(entry=device.entry),) if device.outdoors else ()
    if isolator is None:
        needs = (say("needs", "sheet_of", name=device.name),)
        return (waiting("ac_isolator_current", "A", SWITCH_SOURCE, needs), *entry)
    cables = [run.section_mm2 for run in feed.job.feed.runs if device.name in (run.start, run.end)]
    room = [
        isolator_room(section_mm2=size, most_mm2=isolator.most_mm2, rule_pack=feed.rules)
        for size in sorted(cables)[-1:]
    ]
    return (
        holds("isolator_use", isolator.use == "ac", SWITCH_SOURCE, name=device.name),
        ac_isolator_current(rated_a=isolator.rated_a, design_a=feed.design_a),
        ac_isolator_voltage(rated_v=isolator.rated_v, supply_v=_between_lines_v(feed)),
        ac_isolator_duty(duty=isolator.duty),
        ac_isolator_poles(poles=isolator.poles, service=feed.service),
        *room,
        *entry,
        *([outdoor_rating(ip=isolator.ip, rule_pack=feed.rules)] if device.outdoors else []),
    )


def _between_lines_v(feed: Feed) -> float:
    """The highest voltage between two conductors that are parted."""
    own = feed.source.nominal_v
    return own * math.sqrt(3) if feed.service == "three" else own


def loop_prompt(feed: Feed) -> Prompt:
    """The loop impedance asked for, with what the breaker needs."""
    latest = feed.readings.latest("loop_impedance", CIRCUIT)
    breaker, plan = feed.breaker, feed.job.feed
    needs = tuple(
        [feed.breaker_wanted] * (breaker is None) + [say("needs", "reading")] * (latest is None)
    )
    limit: Judgement | None = None
    if breaker is not None:
        limit = loop_trips(
            loop_ohm=latest.number if latest else 0.0,
            nominal_v=feed.source.nominal_v,
            breaker_a=breaker.rated_a,
            curve=breaker.curve,
            earth_system=plan.earth_system,
            residual_ma=breaker.residual_ma,
            rule_pack=feed.rules,
        )
    judgement = waiting("loop_trips", "Ω", LOOP_SOURCE, needs) if needs or limit is None else limit
    most = limit.limit if limit else None
    return prompt(
        feed.readings,
        STAGE,
        "loop_impedance",
        CIRCUIT,
        (judgement,),
        expected=None if most is None else (0.0, most),
        expected_text="" if most is None else say("feed", "at_most", value=figure(most, "Ω", 2)),
    )


def switch_prompts(feed: Feed) -> tuple[Prompt, ...]:
    """Line and load side of every isolator, and its way up where the wall does not ask for it."""
    found = list[Prompt]()
    for name in feed.job.switches:
        steps: tuple[SwitchStep, ...] = ("line_side",) if name in feed.hung else BEFORE_WIRING
        found += [_step_prompt(feed, step, name) for step in steps]
    return tuple(found)


def _step_prompt(feed: Feed, step: SwitchStep, name: str) -> Prompt:
    latest = feed.readings.latest(step, name)
    judgement = step_seen(step=step, sign=latest.sign) if latest else step_waits(step=step)
    return prompt(feed.readings, STAGE, step, name, (judgement,))


def dc_switching_state(job: Job, strings: tuple[StringLoad, ...]) -> FeedDeviceState:
    """The chosen way of parting the DC side judged."""
    dc = job.feed.dc
    judgements = (
        _decided(job),
        *_dc_switches(job, strings),
        _dc_surge(job),
        *array_judgements(job, _coldest_v(job, strings), _longest_m(job)),
    )
    line, _ = deciding(judgements, say("dc_schools", f"{dc.school}_live"))
    return FeedDeviceState(
        name=say("dc_schools", "name"),
        kind="dc",
        title=say("dc_schools", dc.school),
        judgements=judgements,
        verdict=worst(one.verdict for one in judgements),
        line=line,
    )


def _decided(job: Job) -> Judgement:
    dc = job.feed.dc
    if not dc.reason.strip():
        return waiting("dc_school", "", DC_SOURCE, (say("needs", "dc_reason"),))
    return holds(
        "dc_school",
        True,
        DC_SOURCE,
        school=say("dc_schools", dc.school),
        by=dc.by,
        reason=dc.reason.rstrip("."),
    )


def _longest_m(job: Job) -> float | None:
    """The longest way of any string; None while one is not known."""
    lengths = [math.fsum(one.length_m for one in string.home_run) for string in job.strings]
    return max(lengths) if lengths and all(lengths) else None


def _dc_surge(job: Job) -> Judgement:
    length_m = _longest_m(job)
    if length_m is None:
        return waiting("surge_dc", "", DC_SOURCE, (say("needs", "home_run"),))
    return surge_dc(fitted=job.feed.dc.surge != "none", length_m=length_m, rule_pack=job.rules)


def _dc_switches(job: Job, strings: tuple[StringLoad, ...]) -> tuple[Judgement, ...]:
    dc, found = job.feed.dc, list[Judgement]()
    volts, isc_a = _coldest_v(job, strings), strongest_a(job) / job.rules.current.isc_factor.value
    names = DC_SWITCHES[dc.school]
    if names and not strings:
        return (waiting("dc_isolator_voltage", "V", DC_SOURCE, (say("needs", "strings"),)),)
    for name, sheet in ((DC_ISOLATOR, dc.isolator), (SAFETY_SWITCH, dc.safety)):
        if name not in names:
            continue
        if sheet is None:
            needs = (say("needs", "sheet_of", name=name),)
            found.append(waiting("dc_isolator_voltage", "V", DC_SOURCE, needs))
            continue
        if volts is None:
            needs = (say("needs", "cold_volts"),)
            found.append(waiting("dc_isolator_voltage", "V", DC_SOURCE, needs))
        else:
            found.append(dc_isolator_voltage(rated_v=sheet.rated_v, voc_cold_v=volts))
        found.append(dc_isolator_current(rated_a=sheet.rated_a, isc_a=isc_a, rule_pack=job.rules))
    if dc.isolator is not None and DC_ISOLATOR in names:
        found.append(holds("isolator_use", dc.isolator.use == "dc", DC_SOURCE, name=DC_ISOLATOR))
        found.append(dc_isolator_duty(duty=dc.isolator.duty))
        found.append(dc_isolator_direction(directional=dc.isolator.directional))
        found.append(
            dc_isolator_poles(
                poles=dc.isolator.poles * switch_count(job, DC_ISOLATOR),
                poles_in_series=dc.isolator.poles_in_series,
                strings=len(job.strings),
            )
        )
    return tuple(found)


def _coldest_v(job: Job, strings: tuple[StringLoad, ...]) -> float | None:
    """The highest that any string's switch must part; None while a string's is not known."""
    if job.optimiser is not None:
        return job.optimiser.fixed_string_v
    volts = [one.voc_cold_v for one in strings]
    known = [one for one in volts if one is not None]
    return max(known) if known and len(known) == len(strings) else None
