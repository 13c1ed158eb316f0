"""Stage 9, Set: the grid profile, what was written, and what the inverter holds."""

from __future__ import annotations

from core.assessment import Ask, Attempt, GridStage, PointState, TripStep
from core.job import SUPPLY_PAIRS, Job
from core.judgement import Judgement, holds, waiting
from core.kept import SettingsWritten
from core.profiles import PointKind, Profile, point_kinds, profile
from core.rules.grid_settings import (
    READBACK_SOURCE,
    profile_fits_supply,
    setting_agrees,
    setting_fingerprint,
)
from core.stages.readings import Readings, ask
from core.words import figure, say

STAGE = 9
# What counts as an answer at all; the rest are ways of not getting one.
ANSWERED = "read_back"


def grid_stage(job: Job, readings: Readings) -> tuple[GridStage, tuple[Ask, ...]]:
    """The profile against the supply and against the inverter, point by point."""
    chosen = profile(job.grid.profile) if job.grid.profile else None
    last = job.settings_written[-1] if job.settings_written else None
    current = last if last and chosen and last.profile == chosen.id else None
    points = _points(chosen, current, readings) if chosen else ()
    stage = GridStage(
        profile=chosen.id if chosen else None,
        profile_name=chosen.name if chosen else "",
        profile_edition=chosen.edition if chosen else "",
        profile_note=chosen.note if chosen else "",
        nominal_v=chosen.nominal_v if chosen else None,
        nominal_hz=chosen.nominal_hz if chosen else None,
        points=points,
        trips=_trips({point.id: point for point in points}),
        attempts=tuple(_attempt(written) for written in reversed(job.settings_written)),
        judgements=_judgements(job, readings, chosen, current, points),
    )
    asks = tuple(_hand_ask(readings, point) for point in points if point.by_hand)
    return stage, asks


def _points(
    chosen: Profile, current: SettingsWritten | None, readings: Readings
) -> tuple[PointState, ...]:
    answered = current is not None and current.outcome == ANSWERED
    got = {s.id: s.value for s in current.readback} if current and answered else {}
    states = []
    for kind in point_kinds().values():
        wanted = chosen.value(kind.id)
        if wanted is None and kind.id not in got:
            continue
        states.append(_point(kind, wanted, got.get(kind.id), answered, readings))
    return tuple(states)


def _point(
    kind: PointKind,
    wanted: float | None,
    got: float | None,
    answered: bool,
    readings: Readings,
) -> PointState:
    if kind.by_hand:
        seen = readings.latest("setting", kind.id)
        got, answered = (seen.value if seen else None), seen is not None
    needs = (say("needs", "hand" if kind.by_hand else "readback"),)
    return PointState(
        id=kind.id,
        title=kind.title,
        unit=kind.unit,
        wanted=wanted,
        got=got,
        wanted_text=_text(wanted, kind),
        got_text=_text(got, kind) if answered else "",
        by_hand=kind.by_hand,
        judgement=setting_agrees(point_id=kind.id, wanted=wanted, got=got)
        if answered
        else waiting("setting_agrees", kind.unit, READBACK_SOURCE, needs),
    )


def _text(value: float | None, kind: PointKind) -> str:
    return "none" if value is None else figure(value, kind.unit, 3)


def _trips(points: dict[str, PointState]) -> tuple[TripStep, ...]:
    steps = []
    for quantity, unit in (("voltage", "v"), ("frequency", "hz")):
        for side in ("over", "under"):
            for number in (1, 2):
                level = points.get(f"{side}_{quantity}_{number}_{unit}")
                time = points.get(f"{side}_{quantity}_{number}_s")
                if level and time and level.wanted is not None and time.wanted is not None:
                    steps.append(
                        TripStep(
                            quantity=quantity,
                            side=side,
                            level=level.wanted,
                            time_s=time.wanted,
                            got_level=level.got,
                            got_time_s=time.got,
                        )
                    )
    return tuple(steps)


def _judgements(
    job: Job,
    readings: Readings,
    chosen: Profile | None,
    current: SettingsWritten | None,
    points: tuple[PointState, ...],
) -> tuple[Judgement, ...]:
    if chosen is None:
        return (waiting("grid_profile", "", "network operator's requirement", ()),)
    return (
        holds("grid_profile", True, chosen.edition, name=chosen.name),
        holds(
            "profile_fits_service",
            job.source.service in chosen.services,
            chosen.edition,
            name=chosen.name,
        ),
        _supply_judgement(job, readings, chosen),
        _device_judgement(current),
        _agreement(current, points),
    )


def _supply_judgement(job: Job, readings: Readings, chosen: Profile) -> Judgement:
    measured = [
        reading.value
        for pair in SUPPLY_PAIRS[job.source.service]
        if (reading := readings.latest("supply_voltage", pair)) is not None
    ]
    if not measured:
        return waiting("profile_fits_supply", "V", chosen.edition, (say("needs", "supply"),))
    return profile_fits_supply(nominal_v=chosen.nominal_v, supply_v=max(measured))


def _device_judgement(current: SettingsWritten | None) -> Judgement:
    if current is None:
        return waiting("device_answer", "", READBACK_SOURCE, ())
    answered = current.outcome == ANSWERED
    return holds("device_answer", answered, READBACK_SOURCE, what=outcome_text(current))


def _agreement(current: SettingsWritten | None, points: tuple[PointState, ...]) -> Judgement:
    carried = [point for point in points if not point.by_hand]
    if current is None or current.outcome != ANSWERED:
        return waiting("settings_agree", "", READBACK_SOURCE, ())
    wrong = [point for point in carried if point.judgement.verdict in ("stop", "waiting")]
    first = f"{wrong[0].title}: {wrong[0].judgement.reason}" if wrong else ""
    return holds(
        "settings_agree",
        not wrong,
        READBACK_SOURCE,
        count=str(len(carried)),
        wrong=str(len(wrong)),
        first=first.removesuffix("."),
    )


def outcome_text(written: SettingsWritten) -> str:
    """What happened on the line and what to do, in a sentence."""
    return say(
        "outcomes",
        written.outcome,
        host=written.host,
        port=str(written.port),
        unit=str(written.unit_id),
        detail=written.detail.removesuffix("."),
    )


def _attempt(written: SettingsWritten) -> Attempt:
    answered = written.outcome == ANSWERED
    points = [(setting.id, setting.value) for setting in written.readback]
    return Attempt(
        id=written.id,
        at=written.at,
        by=written.by,
        profile=written.profile,
        address=f"{written.host}:{written.port}, unit {written.unit_id}",
        outcome=written.outcome,
        said=outcome_text(written),
        device=written.device,
        fingerprint=setting_fingerprint(points) if answered else None,
    )


def _hand_ask(readings: Readings, point: PointState) -> Ask:
    return ask(
        readings,
        STAGE,
        "setting",
        point.id,
        (point.judgement,),
        shown_subject=point.title,
        unit=point.unit,
        expected_text=point.wanted_text,
    )
