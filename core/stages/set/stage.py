"""Stage 9, Set: the grid profile, what was written, and what the inverter holds."""

from __future__ import annotations

from core.assessment.grid import GridStage, PointState
from core.assessment.whole import Prompt
from core.base.judgement import Judgement, holds, waiting
from core.base.messages import say
from core.base.stage_numbers import SET as STAGE
from core.figures.grid_profiles import Profile, point_kinds
from core.job.grid import LETTER
from core.job.job import Job
from core.job.readings import INVERTER, SITE, DeviceLabel, DevicePlate, SettingsWritten
from core.job.subjects import supply_pairs
from core.rules.grid.grid_settings import (
    READBACK_SOURCE,
    device_planned,
    letter_permitted,
    plate_differs,
    profile_fits_hertz,
    profile_fits_supply,
    profile_here,
    profile_permitted,
    setting_fingerprint,
    settings_profile,
    settings_unchanged,
)
from core.stages.reading_index import Readings, kept_of, prompt
from core.stages.set.attempts import attempt, ended, outcome_text
from core.stages.set.behaviour import check_prompts, loss_judgements, loss_moments
from core.stages.set.points import (
    HEARD,
    READ_BACK,
    fingerprint,
    point_text,
    points,
    responses,
    standing,
    trips,
)

PHASES = {"single": 1, "split": 2, "three": 3}


def grid_stage(job: Job, readings: Readings) -> tuple[GridStage, tuple[Prompt, ...]]:
    """The profile against the supply and against the inverter, point by point."""
    chosen = job.grid_profile
    current = standing(job)
    held = points(job, chosen, current, readings) if chosen else ()
    stage = GridStage(
        profile=chosen.id if chosen else None,
        profile_name=chosen.name if chosen else "",
        profile_edition=chosen.edition if chosen else "",
        profile_note=chosen.note if chosen else "",
        nominal_v=chosen.nominal_v if chosen else None,
        nominal_hz=chosen.nominal_hz if chosen else None,
        by_hand=job.grid.by_hand,
        points=held,
        trips=trips({point.id: point for point in held}),
        responses=responses(chosen, held) if chosen else (),
        attempts=tuple(attempt(one) for one in reversed(ended(job.settings_written))),
        loss=loss_moments(chosen, readings) if chosen else (),
        fingerprint=fingerprint(held),
        judgements=_judgements(job, readings, chosen, current, held),
    )
    hand = tuple(_hand_prompt(readings, point) for point in held if point.by_hand)
    return stage, (*hand, *(check_prompts(job, chosen, readings) if chosen else ()))


def _judgements(
    job: Job,
    readings: Readings,
    chosen: Profile | None,
    current: SettingsWritten | None,
    held: tuple[PointState, ...],
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
        *_here(job, chosen),
        *_permitted(job, chosen),
        *_written_profile(chosen, current),
        *_supply_judgements(job, readings, chosen),
        *(_device_judgements(job, readings, current) if not job.grid.by_hand else ()),
        _agreement(held),
        *_drift(job, current),
        *loss_judgements(chosen, readings),
    )


def _pack_of(job: Job) -> str:
    """The shipped pack by which the job is judged; a pack of one's own stands on one."""
    return job.own_pack.based_on if job.own_pack else job.rule_pack


def _here(job: Job, chosen: Profile) -> tuple[Judgement, ...]:
    """The profile beside the place; the operator's letter is of the house itself."""
    if chosen.id == LETTER:
        return ()
    return (profile_here(profile=chosen.id, zone=job.site.timezone, rule_pack=_pack_of(job)),)


def _permitted(job: Job, chosen: Profile) -> tuple[Judgement, ...]:
    """The profile beside the permit; without a permit Arrive says what is missing."""
    permit, letter = job.arrival.permit, job.grid.letter
    if permit is None:
        return ()
    if chosen.id == LETTER and letter is not None:
        return (
            letter_permitted(
                operator=letter.operator,
                reference=letter.reference,
                permit_operator=permit.operator,
                permit_reference=permit.reference,
            ),
        )
    return (profile_permitted(profile=chosen.id, wanted=permit.profile, operator=permit.operator),)


def _written_profile(chosen: Profile, current: SettingsWritten | None) -> tuple[Judgement, ...]:
    """The last writing's profile; a later look is held against the plan's point by point."""
    if current is None or current.only_read:
        return ()
    return (settings_profile(written=current.profile, planned=chosen.id),)


def _supply_judgements(job: Job, readings: Readings, chosen: Profile) -> tuple[Judgement, ...]:
    measured = [
        reading.number
        for pair in supply_pairs(job.feed, job.source.service)
        if (reading := readings.latest("supply_voltage", pair)) is not None
    ]
    hertz = readings.latest("supply_frequency", SITE)
    return (
        profile_fits_supply(nominal_v=chosen.nominal_v, supply_v=max(measured))
        if measured
        else waiting("profile_fits_supply", "V", chosen.edition, (say("needs", "supply"),)),
        profile_fits_hertz(nominal_hz=chosen.nominal_hz, supply_hz=hertz.number)
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

    A roof of microinverters is set through its gateway, which has no rating of its own: it is at
    least of the units' maker.
    """
    if job.micro is not None:
        makers = [one.maker for one in job.micro.unit_types]
        differs = device.maker.casefold() not in [one.casefold() for one in makers]
        maker = " · ".join(dict.fromkeys(makers))
        return say("device_planned", "maker", got=device.maker, planned=maker) if differs else ""
    return plate_differs(
        serial=device.serial,
        nameplate_serial=nameplate_serial(job, Readings(kept_of(job))),
        rated_w=plate.rated_w,
        planned_w=job.source.rated_ac_w,
        phases=plate.phases,
        planned_phases=PHASES[job.source.service],
    )


def _agreement(held: tuple[PointState, ...]) -> Judgement:
    # What is set by hand is asked for point by point; where all is, this sums it up.
    judged = [point for point in held if not point.by_hand] or list(held)
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
    written = [one for one in job.settings_written if not one.only_read and one.outcome in HEARD]
    if not written:
        return ()
    before = {one.id: one.value for one in written[-1].readback}
    now = {one.id: one.value for one in current.readback}
    kinds = point_kinds()
    changed = tuple(
        f"{kinds[key].title} {point_text(before.get(key), kinds[key])} → "
        f"{point_text(now.get(key), kinds[key])}"
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


def _hand_prompt(readings: Readings, point: PointState) -> Prompt:
    return prompt(
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
