"""How the set inverter behaves: loss of supply, over-voltage, the mean of the supply."""

from __future__ import annotations

from datetime import datetime, timedelta

from core.assessment.grid import LossMoment
from core.assessment.whole import Prompt
from core.base.judgement import Judgement, holds, waiting
from core.base.messages import figure, say
from core.base.stage_numbers import SET as STAGE
from core.figures.grid_profiles import Profile
from core.job.job import Job
from core.job.readings import LOSS_MOMENTS, SITE
from core.rules.grid.loss_of_supply import (
    MEAN_SOURCE,
    RUN_ON_S,
    RUN_ON_SOURCE,
    loss_returns,
    loss_stops,
    mean_voltage_under,
    over_voltage_stops,
)
from core.stages.reading_index import Readings, prompt, prompt_key

OPENED, STOPPED, CLOSED, RETURNED = LOSS_MOMENTS


def run_on_s(chosen: Profile) -> float:
    """How long the inverter may run on without its supply."""
    return chosen.value("loss_of_mains_s") or RUN_ON_S


def loss_moments(chosen: Profile, readings: Readings) -> tuple[LossMoment, ...]:
    """The moments of the test in their order; the first opens it, what came before is of an
    earlier one."""
    seen = _seen(readings)
    due = {
        STOPPED: (seen[OPENED], run_on_s(chosen)),
        RETURNED: (seen[CLOSED], chosen.value("observe_s") or 0.0),
    }
    first_left = next((moment for moment in LOSS_MOMENTS if seen[moment] is None), None)
    found = []
    for moment in LOSS_MOMENTS:
        begin, seconds = due.get(moment, (None, 0.0))
        found.append(
            LossMoment(
                moment=moment,
                title=say("loss", moment),
                key=prompt_key("loss_moment", moment),
                at=seen[moment],
                due_at=begin + timedelta(seconds=seconds) if begin else None,
                due_text=say("loss", f"{moment}_due", time=figure(seconds, "s"))
                if moment in due
                else "",
                is_next=moment == first_left,
            )
        )
    return tuple(found)


def _seen(readings: Readings) -> dict[str, datetime | None]:
    """When each moment of the present test was seen: none before the one ahead of it."""
    found: dict[str, datetime | None] = {}
    earlier: datetime | None = None
    for index, moment in enumerate(LOSS_MOMENTS):
        latest = readings.latest("loss_moment", moment)
        at = latest.taken_at if latest and latest.is_good else None
        in_order = at is not None and (index == 0 or (earlier is not None and at >= earlier))
        found[moment] = earlier = at if in_order else None
    return found


def loss_judgements(chosen: Profile, readings: Readings) -> tuple[Judgement, ...]:
    """Did it stop in time, did it return late enough?"""
    return _stops(chosen, readings), _returns(chosen, readings)


def _never_came(readings: Readings, moment: str, begun: datetime | None) -> bool:
    latest = readings.latest("loss_moment", moment)
    return bool(latest and begun and not latest.is_good and latest.taken_at >= begun)


def _stops(chosen: Profile, readings: Readings) -> Judgement:
    seen = _seen(readings)
    opened, stopped = seen[OPENED], seen[STOPPED]
    if _never_came(readings, STOPPED, opened):
        return holds("loss_never_stops", False, RUN_ON_SOURCE)
    if opened is None or stopped is None:
        return waiting("loss_stops", "s", RUN_ON_SOURCE, (say("needs", "loss_stop"),))
    return loss_stops(seconds=(stopped - opened).total_seconds(), limit_s=run_on_s(chosen))


def _returns(chosen: Profile, readings: Readings) -> Judgement:
    seen = _seen(readings)
    closed, returned = seen[CLOSED], seen[RETURNED]
    if _never_came(readings, RETURNED, closed):
        return holds("loss_never_returns", False, chosen.edition, bad="watch")
    if closed is None or returned is None:
        return waiting("loss_returns", "s", chosen.edition, (say("needs", "loss_return"),))
    seconds = (returned - closed).total_seconds()
    return loss_returns(seconds=seconds, observe_s=chosen.value("observe_s") or 0.0)


def check_prompts(job: Job, chosen: Profile, readings: Readings) -> tuple[Prompt, ...]:
    """The mean of the supply where the profile limits it; the over-voltage test where made."""
    return (
        *(_mean_prompt(chosen, readings) if chosen.value("over_voltage_mean_v") else ()),
        *_over_voltage_prompt(chosen, readings),
    )


def _mean_prompt(chosen: Profile, readings: Readings) -> tuple[Prompt, ...]:
    limit_v = chosen.value("over_voltage_mean_v") or 0.0
    latest = readings.latest("mean_voltage", SITE)
    judgement = (
        mean_voltage_under(mean_v=latest.number, limit_v=limit_v)
        if latest
        else waiting("mean_voltage_under", "V", MEAN_SOURCE, (say("needs", "mean"),))
    )
    text = say("loss", "mean_expect", limit=figure(limit_v, "V"))
    return (prompt(readings, STAGE, "mean_voltage", SITE, (judgement,), expected_text=text),)


def _over_voltage_prompt(chosen: Profile, readings: Readings) -> tuple[Prompt, ...]:
    latest = readings.latest("over_voltage_stop", SITE)
    names = ("over_voltage_1_v", "over_voltage_1_s")
    level_v, limit_s = (
        chosen.value_at(name, latest.taken_at) if latest else chosen.value(name) for name in names
    )
    if level_v is None or limit_s is None:
        return ()
    judgement = (
        over_voltage_stops(seconds=latest.number, limit_s=limit_s, level_v=level_v)
        if latest
        else waiting("over_voltage_stops", "s", chosen.edition, (say("needs", "reading"),))
    )
    text = say("loss", "over_expect", level=figure(level_v, "V"), time=figure(limit_s, "s", 2))
    found = prompt(
        readings,
        STAGE,
        "over_voltage_stop",
        SITE,
        (judgement,),
        expected_text=text,
    )
    return (found,)
