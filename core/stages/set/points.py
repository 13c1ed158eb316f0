"""What the inverter holds of a profile: point by point, as trips and as response curves."""

from __future__ import annotations

from datetime import datetime

from core.assessment.grid import PointState, Response, ResponsePoint, Sent, TripStep
from core.base.judgement import Judgement, waiting
from core.base.messages import figure, say
from core.figures.grid_profiles import (
    Corner,
    Former,
    Lookup,
    PointKind,
    Profile,
    curve,
    droop,
    point_kinds,
)
from core.job.job import Job
from core.job.readings import Outcome, SettingsWritten
from core.rules.grid.grid_settings import (
    READBACK_SOURCE,
    setting_agrees,
    setting_fingerprint,
    setting_former,
)
from core.stages.reading_index import Readings

# What counts as an answer at all; the rest are ways of not getting one.
READ_BACK: Outcome = "read_back"
HEARD: tuple[Outcome, ...] = ("read_back", "refused")
DIGITS = 3


def standing(job: Job) -> SettingsWritten | None:
    """The attempt that says what the inverter holds, of whatever profile.

    The last writing, whatever came of it, or a later look that was answered; a look that failed
    changes nothing of what is known.
    """
    if job.grid.by_hand:
        return None
    found = [one for one in job.settings_written if not one.only_read or one.outcome in HEARD]
    return found[-1] if found else None


def _carried(job: Job, current: SettingsWritten | None) -> frozenset[str]:
    """Settings for which the inverter has registers, as far as anybody knows."""
    if job.grid.by_hand:
        return frozenset()
    if current is not None and current.carried:
        return frozenset(current.carried)
    return frozenset(kind.id for kind in point_kinds().values() if not kind.by_hand)


def _read_of(current: SettingsWritten | None) -> frozenset[str]:
    """Settings that were read back, those too that the inverter turned out not to hold."""
    if current is None or current.outcome not in HEARD:
        return frozenset()
    if current.carried:
        return frozenset(current.read)
    # As it was kept before the parts of a writing were: all of it or nothing.
    whole = current.outcome == READ_BACK
    return frozenset(kind.id for kind in point_kinds().values() if whole and not kind.by_hand)


def _made_at(job: Job, current: SettingsWritten | None) -> datetime | None:
    """When what the inverter holds was set: a later look at it sets nothing."""
    if current is None or not current.only_read:
        return current.at if current else None
    made = [one.at for one in job.settings_written if not one.only_read and one.outcome in HEARD]
    return made[-1] if made else current.at


def points(
    job: Job, chosen: Profile, current: SettingsWritten | None, readings: Readings
) -> tuple[PointState, ...]:
    got = {s.id: s.value for s in current.readback} if current else {}
    carried, read = _carried(job, current), _read_of(current)
    made_at = _made_at(job, current)
    states = []
    for kind in point_kinds().values():
        wanted = chosen.value(kind.id)
        if kind.id in carried:
            if wanted is None and got.get(kind.id) is None:
                continue
            is_read = kind.id in read
            value = got.get(kind.id) if is_read else None
            before = chosen.former_of(kind.id, made_at) if made_at else None
            sent = _sent(current, kind.id)
            states.append(_point(kind, wanted, value, is_read, sent, before))
        elif wanted is not None:
            seen = readings.latest("setting", kind.id)
            value = seen.number if seen else None
            before = chosen.former_of(kind.id, seen.taken_at) if seen else None
            states.append(_point(kind, wanted, value, seen is not None, "by_hand", before))
    return tuple(states)


def _sent(current: SettingsWritten | None, point_id: str) -> Sent:
    if current is None or current.only_read or not current.carried:
        return ""
    if point_id in current.refused:
        return "refused"
    return "sent" if point_id in current.sent else "not_sent"


def _point(
    kind: PointKind,
    wanted: float | None,
    got: float | None,
    is_read: bool,
    sent: Sent,
    before: Former | None,
) -> PointState:
    by_hand = sent == "by_hand"
    needs = (say("needs", "hand" if by_hand else "readback"),)
    return PointState(
        id=kind.id,
        title=kind.title,
        unit=kind.unit,
        wanted=wanted,
        got=got,
        wanted_text=point_text(wanted, kind),
        got_text=point_text(got, kind) if is_read else "",
        by_hand=by_hand,
        where=kind.where,
        sent=sent,
        judgement=_agrees(kind, wanted, got, before)
        if is_read
        else waiting("setting_agrees", kind.unit, READBACK_SOURCE, needs),
    )


def _agrees(
    kind: PointKind, wanted: float | None, got: float | None, before: Former | None
) -> Judgement:
    """A setting against the profile, or against what the profile was when it was made."""
    now = setting_agrees(point_id=kind.id, wanted=wanted, got=got)
    if now.verdict != "stop" or before is None:
        return now
    value, until = before
    then = setting_agrees(point_id=kind.id, wanted=value, got=got)
    if then.verdict == "stop":
        return now
    return setting_former(point_id=kind.id, wanted=wanted, got=got, until=until)


def point_text(value: float | None, kind: PointKind) -> str:
    return "none" if value is None else figure(value, kind.unit, DIGITS)


def trips(points: dict[str, PointState]) -> tuple[TripStep, ...]:
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


def responses(chosen: Profile, points: tuple[PointState, ...]) -> tuple[Response, ...]:
    got: Lookup = {point.id: point.got for point in points}.get
    read = {point.id for point in points if point.got_text}

    def response(
        name: str,
        unit: str,
        wanted: tuple[Corner, ...],
        held: tuple[Corner, ...],
        switch: str,
    ) -> Response:
        return Response(
            name=name,
            title=say("responses", name),
            unit=unit,
            y_title=say("responses", f"{name}_y"),
            wanted=tuple(ResponsePoint(at=at, pct=pct) for at, pct in wanted),
            got=tuple(ResponsePoint(at=at, pct=pct) for at, pct in held),
            read=switch in read,
        )

    volts = tuple(
        response(name, "V", curve(chosen.value, name), curve(got, name), f"{name}_on")
        for name in ("volt_var", "volt_watt")
    )
    hertz = response(
        "frequency_watt",
        "Hz",
        droop(chosen.value, chosen.nominal_hz),
        droop(got, chosen.nominal_hz),
        "droop_start_hz",
    )
    return (*volts, hertz)


def fingerprint(points: tuple[PointState, ...]) -> str | None:
    if not points or any(not point.got_text for point in points):
        return None
    return setting_fingerprint((point.id, point.got) for point in points if point.got is not None)
