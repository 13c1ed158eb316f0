"""Endpoints of signatures and of the versions of a record."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Annotated
from uuid import UUID

from django.http import Http404, HttpRequest, HttpResponse
from ninja import Field, Router, Schema

from core.base.messages import say
from core.files.differences import Difference
from core.job.house import views
from core.job.leave import SignForm, SignRole
from core.job.state import state_digest
from core.stages.leave.signing import signable, watch_key
from server.jobs.schemas import JobView
from server.jobs.stored import load_house
from server.jobs.views import job_answer
from server.people.current import person_of
from server.platform.http import download
from server.signing import actions
from server.signing.models import SealedRow
from server.signing.versions import Version, public_finger, since_signed, versions

router = Router(tags=["signing"])


class SignatureIn(Schema):
    """A signature. drawn: lines as ``M10 20 L30 40`` in a field of 1000 by 400."""

    role: SignRole
    name: Annotated[str, Field(max_length=120)] = ""
    form: SignForm = "typed"
    drawn: Annotated[str, Field(max_length=20_000)] = ""
    took_on: Annotated[list[Annotated[str, Field(max_length=300)]], Field(max_length=500)] = []
    note: Annotated[str, Field(max_length=500)] = ""
    state: Annotated[str, Field(max_length=64)]


class WatchView(Schema):
    """A watch that whoever answers takes on."""

    key: str
    where: str
    reason: str


class SigningView(Schema):
    """What there is to sign. state: give it back with the signature. since: what differs from the
    last version."""

    state: str
    may_be_signed: bool
    line: str
    watches: list[WatchView]
    crew: list[str]
    customer: str
    key: str
    versions: list[Version]
    since: list[Difference]


@router.get("/{uuid:job_id}/signing", response=SigningView, operation_id="get_signing")
def get_signing(request: HttpRequest, job_id: UUID) -> SigningView:
    house = load_house(job_id)
    points = actions.open_of(house, datetime.now(UTC))
    judged = signable(points)
    watches = {watch_key(o): o for o in points if o.judgement.verdict == "watch"}
    return SigningView(
        state=state_digest(views(house)[0]),
        may_be_signed=judged.verdict == "clear",
        line=judged.reason,
        watches=[
            WatchView(
                key=key,
                where=one.where or say("stages", str(one.stage)),
                reason=one.judgement.reason,
            )
            for key, one in watches.items()
        ],
        crew=[one.name for one in house.arrival.crew if one.present],
        customer=house.leave.customer,
        key=public_finger(),
        versions=versions(house),
        since=list(since_signed(house)),
    )


@router.post("/{uuid:job_id}/signing", response=JobView, operation_id="sign_record")
def sign_record(request: HttpRequest, job_id: UUID, body: SignatureIn) -> JobView:
    given = actions.Given(
        role=body.role, name=body.name, form=body.form, drawn=body.drawn,
        took_on=tuple(body.took_on), note=body.note, state=body.state,
    )  # fmt: skip
    actions.sign(person_of(request), job_id, given)
    return job_answer(job_id)


@router.get("/{uuid:job_id}/signing/{int:number}", operation_id="get_signed_record")
def get_signed_record(request: HttpRequest, job_id: UUID, number: int) -> HttpResponse:
    house = load_house(job_id)
    row = SealedRow.objects.filter(job_id=UUID(house.id), number=number).first()
    if row is None:
        raise Http404
    name = f"{house.name} signed {number}.zip"
    return download(bytes(row.data), "application/zip", name)
