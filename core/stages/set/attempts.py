"""How writings of a profile and looks at the inverter went, as they are told."""

from __future__ import annotations

from core.assessment.grid import Attempt
from core.base.messages import say
from core.figures.grid_profiles import point_kinds
from core.job.readings import SettingsWritten
from core.rules.grid.grid_settings import setting_fingerprint
from core.stages.set.points import HEARD, READ_BACK


def ended(written: tuple[SettingsWritten, ...]) -> tuple[SettingsWritten, ...]:
    """Every attempt once: one that began and then ended is told by its end alone."""
    finished = {one.begun for one in written if one.begun is not None}
    return tuple(one for one in written if one.id not in finished)


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


def attempt(written: SettingsWritten) -> Attempt:
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
