"""Stage 9, Set: the grid profile, what was written, and what the inverter holds."""

from __future__ import annotations

from core.assessment import Ask
from core.grid_assessment import (
    Attempt,
    GridStage,
    PointState,
    Response,
    ResponsePoint,
    Sent,
    TripStep,
)
from core.job import SUPPLY_PAIRS, Job
from core.judgement import Judgement, holds, waiting
from core.kept import INVERTER, SITE, DeviceLabel, DevicePlate, Outcome, SettingsWritten
from core.profiles import Corner, Lookup, PointKind, Profile, curve, droop, point_kinds, profile
from core.rules.grid_settings import (
    READBACK_SOURCE,
    device_planned,
    plate_differs,
    profile_fits_hertz,
    profile_fits_supply,
    setting_agrees,
    setting_fingerprint,
    settings_unchanged,
)
from core.stages.grid_checks import check_asks, loss_judgements, loss_moments
from core.stages.readings import Readings, ask
from core.words import figure, say

STAGE = 9
# What counts as an answer at all; the rest are ways of not getting one.
READ_BACK: Outcome = "read_back"
HEARD: tuple[Outcome, ...] = ("read_back", "refused")
PHASES = {"single": 1, "split": 2, "three": 3}
DIGITS = 3


def grid_stage(job: Job, readings: Readings) -> tuple[GridStage, tuple[Ask, ...]]:
    """The profile against the supply and against the inverter, point by point."""
    chosen = profile(job.grid.profile) if job.grid.profile else None
    current = standing(job)
    points = _points(job, chosen, current, readings) if chosen else ()
    stage = GridStage(
        profile=chosen.id if chosen else None,
        profile_name=chosen.name if chosen else "",
        profile_edition=chosen.edition if chosen else "",
        profile_note=chosen.note if chosen else "",
        nominal_v=chosen.nominal_v if chosen else None,
        nominal_hz=chosen.nominal_hz if chosen else None,
        by_hand=job.grid.by_hand,
        points=points,
        trips=_trips({point.id: point for point in points}),
        responses=_responses(chosen, points) if chosen else (),
        attempts=tuple(_attempt(written) for written in reversed(job.settings_written)),
        loss=loss_moments(chosen, readings) if chosen else (),
        fingerprint=_fingerprint(points),
        judgements=_judgements(job, readings, chosen, current, points),
    )
    hand = tuple(_hand_ask(readings, point) for point in points if point.by_hand)
    return stage, (*hand, *(check_asks(job, chosen, readings) if chosen else ()))


def standing(job: Job) -> SettingsWritten | None:
    """The attempt that says what the inverter holds of the chosen profile.

    The last writing, whatever came of it, or a later look that was answered; a look that failed
    changes nothing of what is known.
    """
    if job.grid.by_hand:
        return None
    found = [
        one
        for one in job.settings_written
        if one.profile == job.grid.profile and (not one.only_read or one.outcome in HEARD)
    ]
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


def _points(
    job: Job, chosen: Profile, current: SettingsWritten | None, readings: Readings
) -> tuple[PointState, ...]:
    got = {s.id: s.value for s in current.readback} if current else {}
    carried, read = _carried(job, current), _read_of(current)
    states = []
    for kind in point_kinds().values():
        wanted = chosen.value(kind.id)
        if kind.id in carried:
            if wanted is None and got.get(kind.id) is None:
                continue
            is_read = kind.id in read
            value = got.get(kind.id) if is_read else None
            states.append(_point(kind, wanted, value, is_read, _sent(current, kind.id)))
        elif wanted is not None:
            seen = readings.latest("setting", kind.id)
            value = seen.value if seen else None
            states.append(_point(kind, wanted, value, seen is not None, "by_hand"))
    return tuple(states)


def _sent(current: SettingsWritten | None, point_id: str) -> Sent:
    if current is None or current.only_read or not current.carried:
        return ""
    if point_id in current.refused:
        return "refused"
    return "sent" if point_id in current.sent else "not_sent"


def _point(
    kind: PointKind, wanted: float | None, got: float | None, is_read: bool, sent: Sent
) -> PointState:
    by_hand = sent == "by_hand"
    needs = (say("needs", "hand" if by_hand else "readback"),)
    return PointState(
        id=kind.id,
        title=kind.title,
        unit=kind.unit,
        wanted=wanted,
        got=got,
        wanted_text=_text(wanted, kind),
        got_text=_text(got, kind) if is_read else "",
        by_hand=by_hand,
        where=kind.where,
        sent=sent,
        judgement=setting_agrees(point_id=kind.id, wanted=wanted, got=got)
        if is_read
        else waiting("setting_agrees", kind.unit, READBACK_SOURCE, needs),
    )


def _text(value: float | None, kind: PointKind) -> str:
    return "none" if value is None else figure(value, kind.unit, DIGITS)


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


def _responses(chosen: Profile, points: tuple[PointState, ...]) -> tuple[Response, ...]:
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


def _fingerprint(points: tuple[PointState, ...]) -> str | None:
    if not points or any(not point.got_text for point in points):
        return None
    return setting_fingerprint((point.id, point.got) for point in points if point.got is not None)


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
        *_supply_judgements(job, readings, chosen),
        *(_device_judgements(job, readings, current) if not job.grid.by_hand else ()),
        _agreement(points),
        *_drift(job, current),
        *loss_judgements(chosen, readings),
    )


def _supply_judgements(job: Job, readings: Readings, chosen: Profile) -> tuple[Judgement, ...]:
    measured = [
        reading.value
        for pair in SUPPLY_PAIRS[job.source.service]
        if (reading := readings.latest("supply_voltage", pair)) is not None
    ]
    hertz = readings.latest("supply_frequency", SITE)
    return (
        profile_fits_supply(nominal_v=chosen.nominal_v, supply_v=max(measured))
        if measured
        else waiting("profile_fits_supply", "V", chosen.edition, (say("needs", "supply"),)),
        profile_fits_hertz(nominal_hz=chosen.nominal_hz, supply_hz=hertz.value)
        if hertz
        else waiting("profile_fits_hertz", "Hz", chosen.edition, (say("needs", "hertz"),)),
    )


def _device_judgements(
    job: Job, readings: Readings, current: SettingsWritten | None
) -> tuple[Judgement, ...]:
    if current is None:
        return (waiting("device_answer", "", READBACK_SOURCE, ()),)
    answer = holds(
        "device_answer",
        current.outcome == READ_BACK,
        READBACK_SOURCE,
        what=outcome_text(current),
    )
    if current.device is None or current.plate is None or job.micro is not None:
        return (answer,)
    plate = nameplate_serial(job, readings)
    return (
        answer,
        device_planned(
            serial=current.device.serial,
            nameplate_serial=plate,
            rated_w=current.plate.rated_w,
            planned_w=job.source.rated_ac_w,
            phases=current.plate.phases,
            planned_phases=PHASES[job.source.service],
        ),
    )


def nameplate_serial(job: Job, readings: Readings) -> str:
    """The serial that was read off the inverter's nameplate; empty while it was not."""
    seen = readings.latest("nameplate_serial", INVERTER)
    return seen.text if seen else ""


def objection(job: Job, device: DeviceLabel, plate: DevicePlate) -> str:
    """Why a device that answers must not be given this job's settings; empty when it may be.

    A roof of microinverters is set through its gateway, which has no rating of its own.
    """
    if job.micro is not None:
        return ""
    return plate_differs(
        serial=device.serial,
        nameplate_serial=nameplate_serial(job, Readings(job.readings)),
        rated_w=plate.rated_w,
        planned_w=job.source.rated_ac_w,
        phases=plate.phases,
        planned_phases=PHASES[job.source.service],
    )


def _agreement(points: tuple[PointState, ...]) -> Judgement:
    # What is set by hand is asked for point by point; where all is, this sums it up.
    judged = [point for point in points if not point.by_hand] or list(points)
    wrong = [point for point in judged if point.judgement.verdict == "stop"]
    unread = [point for point in judged if point.judgement.verdict == "waiting"]
    first = f"{wrong[0].title}: {wrong[0].judgement.reason}".removesuffix(".") if wrong else ""
    if unread and not wrong:
        needs = say("needs", "settings", count=str(len(unread)), first=unread[0].title)
        return waiting("settings_agree", "", READBACK_SOURCE, (needs,))
    return holds(
        "settings_agree",
        not wrong,
        READBACK_SOURCE,
        count=str(len(judged)),
        wrong=str(len(wrong)),
        first=first,
    )


def _drift(job: Job, current: SettingsWritten | None) -> tuple[Judgement, ...]:
    """The latest look against what was read back after the last writing."""
    if current is None or not current.only_read:
        return ()
    written = [
        one
        for one in job.settings_written
        if one.profile == current.profile and not one.only_read and one.outcome in HEARD
    ]
    if not written:
        return ()
    before = {one.id: one.value for one in written[-1].readback}
    now = {one.id: one.value for one in current.readback}
    kinds = point_kinds()
    changed = tuple(
        f"{kinds[key].title} {_text(before.get(key), kinds[key])} → "
        f"{_text(now.get(key), kinds[key])}"
        for key in kinds
        if before.get(key) != now.get(key)
    )
    return (
        settings_unchanged(
            changed=changed,
            fingerprint=setting_fingerprint(now.items()),
            before=setting_fingerprint(before.items()),
        ),
    )


def outcome_text(written: SettingsWritten) -> str:
    """What happened on the line and what to do, in a sentence."""
    looked = written.only_read and written.outcome == READ_BACK
    return say(
        "outcomes",
        "read" if looked else written.outcome,
        host=written.host,
        port=str(written.port),
        unit=str(written.unit_id),
        detail=written.detail.removesuffix(".")
        + ("." if written.outcome == "other_device" else ""),
    )


def _attempt(written: SettingsWritten) -> Attempt:
    heard = written.outcome in HEARD
    points = [(setting.id, setting.value) for setting in written.readback]
    kinds = point_kinds()

    def titles(ids: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(kinds[one].title for one in ids)

    not_sent = () if written.only_read else _left(written.carried, written.sent)
    return Attempt(
        id=written.id,
        at=written.at,
        by=written.by,
        profile=written.profile,
        address=f"{written.host}:{written.port}, unit {written.unit_id}",
        outcome=written.outcome,
        said=outcome_text(written),
        only_read=written.only_read,
        device=written.device,
        plate=written.plate,
        fingerprint=setting_fingerprint(points) if heard and points else None,
        sent=titles(_left(written.sent, written.refused)),
        refused=titles(written.refused),
        not_sent=titles(not_sent),
        unread=titles(_left(written.carried, written.read)),
    )


def _left(every: tuple[str, ...], without: tuple[str, ...]) -> tuple[str, ...]:
    return tuple(one for one in every if one not in without)


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
        caution=say("setting_where", "where", where=point.where),
    )
