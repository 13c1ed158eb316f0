"""Endpoints of switching on: lifting a lock, rehearsing."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Schema
from pydantic import ConfigDict

from core.job.sequences import Phase, Position, SwitchId
from core.rehearsal.plant import Sun, Supply
from core.rehearsal.play import LONGEST_S, Act
from core.rehearsal.rehearse import Rehearsal, rehearse
from server.jobs.schemas import Entered, JobView
from server.jobs.stored import load
from server.jobs.views import job_answer
from server.people.current import person_of
from server.switching import actions

router = Router(tags=["waking"])
Seconds = Annotated[float, Field(ge=0, le=LONGEST_S, allow_inf_nan=False)]


class LiftIn(Schema):
    """A step whose lock is lifted, and why."""

    model_config = ConfigDict(extra="forbid")
    key: Entered
    reason: Annotated[str, Field(max_length=300)]
    lock: Annotated[str, Field(max_length=300)] = ""


class ActIn(Schema):
    """One thing done in a rehearsal."""

    model_config = ConfigDict(extra="forbid")
    at_s: Seconds
    switch: SwitchId | None = None
    to: Position = "ON"
    seen: Annotated[str, Field(max_length=60)] | None = None


class RehearseIn(Schema):
    """A rehearsal as far as it was played."""

    model_config = ConfigDict(extra="forbid")
    phase: Phase
    emergency: bool = False
    seed: Annotated[int, Field(ge=0, le=1_000_000)] = 1
    sun: Sun = "bright"
    supply: Supply = "usual"
    until_s: Seconds
    acts: Annotated[list[ActIn], Field(max_length=200)]


@router.post("/{uuid:job_id}/overrides", response=JobView, operation_id="lift_lock")
def lift_lock(request: HttpRequest, job_id: UUID, body: LiftIn) -> JobView:
    actions.lift(person_of(request), job_id, body.key, body.reason, body.lock)
    return job_answer(job_id)


@router.post("/{uuid:job_id}/rehearsal", response=Rehearsal, operation_id="rehearse")
def rehearse_job(request: HttpRequest, job_id: UUID, body: RehearseIn) -> Rehearsal:
    person_of(request)
    return rehearse(
        load(job_id).job,
        phase=body.phase,
        acts=tuple(Act(**one.dict()) for one in body.acts),
        until_s=body.until_s,
        seed=body.seed,
        sun=body.sun,
        supply=body.supply,
        emergency=body.emergency,
    )
