"""Stage 10, Leave: signed, labelled, handed over, and looked at again."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime

from core.assessment.leave import LeaveStage
from core.assessment.permissions import Lock, PermissionState
from core.assessment.wake import WakeStage
from core.assessment.whole import OpenPoint, Prompt
from core.base.judgement import Judgement
from core.base.stage_numbers import LEAVE
from core.job.job import Job
from core.job.leave import PLANT
from core.planning.leave.plant import peaks_w
from core.stages.leave import follow_up
from core.stages.leave.labels import known_of, labels_of
from core.stages.leave.points import grouped
from core.stages.leave.signing import sign_state
from core.stages.permissions.points import StagesBefore, asked, points
from core.stages.reading_index import Readings


def leave_stage(
    job: Job,
    readings: Readings,
    before: StagesBefore,
    woken: WakeStage,
    open_points: tuple[OpenPoint, ...],
    at: datetime | None,
) -> tuple[LeaveStage, tuple[Prompt, ...]]:
    """What ends the job and what comes after it, with what it asks for.

    open_points: of the stages before it. Nothing here locks a switch: what must be on before
    anybody leaves it running is asked where it is proved.
    """
    labels = labels_of(job, known_of(before.string, woken), readings)
    drifted = follow_up.drift(before.grid)
    dues = follow_up.looks_due(job, woken, at)
    looked = follow_up.yields(job, before.feed, drifted)
    judged: tuple[Judgement, ...] = (
        *labels.judgements,
        *(one for state in labels.states for one in state.judgements if not _asked(one)),
        *follow_up.overdue(dues),
        *(one for state in looked[:1] for one in state.judgements),
        *((drifted,) if drifted is not None and drifted.verdict == "stop" else ()),
    )
    own = (*points(LEAVE, "", judged), *asked(labels.asks))
    signing = sign_state(job, (*open_points, *own))
    stage = LeaveStage(
        line=signing.line,
        judgements=judged,
        labels=labels.states,
        sizes=labels.sizes,
        sheets=labels.sheets,
        open=(),
        signing=signing,
        looks_due=dues,
        yields=looked,
        parts=(PLANT, *peaks_w(job)),
        drift=drifted,
    )
    return stage, labels.asks


def _asked(one: Judgement) -> bool:
    """Whether a judgement is a prompt's own, told with it."""
    return one.rule_id == "step_label_stuck"


def open_of(stage: LeaveStage, asks: tuple[Prompt, ...]) -> tuple[OpenPoint, ...]:
    """What is open of Leave itself. Signing is told last: it is what all the rest leads to."""
    signed = tuple(one for one in stage.signing.judgements if one.rule_id == "record_signed")
    return (*points(LEAVE, "", stage.judgements), *asked(asks), *points(LEAVE, "", signed))


def with_groups(
    stage: LeaveStage,
    every: tuple[OpenPoint, ...],
    states: tuple[PermissionState, ...],
    locks: tuple[Lock, ...],
) -> LeaveStage:
    """The stage with every open point of the job under who must act."""
    return replace(stage, open=grouped(every, states, locks))
