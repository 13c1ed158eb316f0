"""Job endpoints."""

from __future__ import annotations

import json
from typing import Annotated
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Body, Query, Router

from core.assess import assess
from core.base.form import write
from core.base.limits import BYTES_PER_MB, MOST_BUNDLE_BYTES, MOST_JOB_BYTES
from core.edits.fields import Change
from core.explain.shape import Sum
from core.files.job import write_job
from core.planning.dc.arrangements import Arrangements, arrange
from core.planning.microinverter.branches import BranchOffers, branch_offers
from core.planning.wall.places import WallPlaces, find_places
from core.sheet_offers import SheetOffer
from core.sky import SunView
from core.stages.arrive.stage import load_in_csv
from server.catalogue.schemas import PackView
from server.catalogue.views import pack_view
from server.hand.views import answered
from server.jobs import actions
from server.jobs.bundle import bundle, is_bundle
from server.jobs.example import example
from server.jobs.history import history
from server.jobs.models import JobRow
from server.jobs.schemas import (
    Brief,
    ChangeLine,
    ChangesIn,
    DeviceIn,
    EditIn,
    JobId,
    JobLine,
    JobView,
    ModulesIn,
    NewJobIn,
    UndoIn,
    WallSunView,
    modules_typed,
)
from server.jobs.stored import load, load_house
from server.jobs.views import job_answer, job_lines, sum_view
from server.people.current import person_of
from server.people.policy import of_crew
from server.platform.http import body_up_to, download
from server.platform.problems import TooLarge
from server.sun.views import sun_view, wall_sun

router = Router(tags=["jobs"])
FileName = Annotated[str, Query(max_length=200)]
RuleName = Annotated[str, Query(max_length=80)]
Said = Annotated[str, Query(max_length=2000)]


@router.get("", response=list[JobLine], operation_id="list_jobs")
def list_jobs(request: HttpRequest) -> HttpResponse:
    rows = of_crew(person_of(request), JobRow.objects.filter(house=None)).order_by("created_at")
    lines = sorted(job_lines(rows), key=lambda line: line.day)
    # Hundreds of them, each written once: put together as they are.
    text = b"[" + b",".join(line.text for line in lines) + b"]"
    return HttpResponse(text, content_type="application/json")


@router.post("", response={201: JobId}, operation_id="create_job")
def create_job(request: HttpRequest, body: Body[NewJobIn]) -> tuple[int, JobId]:
    return 201, JobId(id=actions.create(person_of(request), body))


@router.post("/file", response={201: JobId}, operation_id="take_in_job")
def take_in_job(
    request: HttpRequest, as_copy: bool = False, file_name: FileName = ""
) -> tuple[int, JobId]:
    raw = body_up_to(request, MOST_BUNDLE_BYTES, "a job with its pictures")
    if len(raw) > MOST_JOB_BYTES and not is_bundle(raw):
        size, allowed = len(raw) // BYTES_PER_MB, MOST_JOB_BYTES // BYTES_PER_MB
        raise TooLarge(f"This file has {size} MB; a job file has at most {allowed} MB.")
    return 201, JobId(id=actions.take_in(person_of(request), raw, as_copy, file_name))


@router.get("/example", response=JobView, operation_id="get_example")
def get_example(request: HttpRequest) -> JobView:
    return example()


@router.get("/{uuid:job_id}", response=JobView, operation_id="get_job")
def get_job(request: HttpRequest, job_id: UUID) -> JobView:
    return job_answer(job_id)


@router.post(
    "/{uuid:job_id}/changes",
    response={200: JobView, 201: Brief},
    operation_id="change_job",
)
def change_job(request: HttpRequest, job_id: UUID, body: ChangesIn) -> tuple[int, JobView | Brief]:
    changes = tuple(Change(path=one.path, entered=one.entered) for one in body.changes)
    person = person_of(request)
    return answered(request, actions.change(person, job_id, body.revision, changes, body.id))


@router.post(
    "/{uuid:job_id}/edits",
    response={200: JobView, 201: Brief},
    operation_id="edit_job",
)
def edit_job(request: HttpRequest, job_id: UUID, body: EditIn) -> tuple[int, JobView | Brief]:
    person = person_of(request)
    return answered(request, actions.edit(person, job_id, body.revision, body.edit, body.id))


@router.post("/{uuid:job_id}/undo", response=JobView, operation_id="undo_change")
def undo_change(request: HttpRequest, job_id: UUID, body: UndoIn) -> JobView:
    actions.undo(person_of(request), job_id, body.revision, body.of)
    return job_answer(job_id)


@router.get(
    "/{uuid:job_id}/history",
    response=list[ChangeLine],
    operation_id="get_plan_history",
)
def get_plan_history(request: HttpRequest, job_id: UUID) -> list[ChangeLine]:
    return history(person_of(request), job_id)


@router.post(
    "/{uuid:job_id}/arrangements",
    response=Arrangements,
    operation_id="find_arrangements",
)
def find_arrangements(request: HttpRequest, job_id: UUID, body: ModulesIn) -> Arrangements:
    job = load(job_id).job
    return arrange(job, modules_typed(job, body))


@router.get("/{uuid:job_id}/offers", response=list[SheetOffer], operation_id="get_offers")
def get_offers(request: HttpRequest, job_id: UUID) -> list[SheetOffer]:
    return actions.offers(person_of(request), load(job_id).job)


@router.get("/{uuid:job_id}/figures", response=PackView, operation_id="get_figures")
def get_figures(request: HttpRequest, job_id: UUID) -> PackView:
    return pack_view(load(job_id).job.rules)


@router.get("/{uuid:job_id}/sum", response=Sum, operation_id="get_sum")
def get_sum(request: HttpRequest, job_id: UUID, rule: RuleName, reason: Said) -> Sum:
    return sum_view(load(job_id).job, rule, reason)


@router.get("/{uuid:job_id}/sun", response=SunView, operation_id="get_sun")
def get_sun(request: HttpRequest, job_id: UUID) -> SunView:
    return sun_view(load(job_id).job)


@router.post("/{uuid:job_id}/places", response=WallPlaces, operation_id="find_places")
def places(request: HttpRequest, job_id: UUID, body: DeviceIn) -> WallPlaces:
    return find_places(load(job_id).job, body.name)


@router.get(
    "/{uuid:job_id}/branches",
    response=BranchOffers,
    operation_id="offer_branches",
)
def get_branches(request: HttpRequest, job_id: UUID) -> BranchOffers:
    return branch_offers(load(job_id).job)


@router.get("/{uuid:job_id}/wall-sun", response=WallSunView, operation_id="get_wall_sun")
def get_wall_sun(request: HttpRequest, job_id: UUID) -> WallSunView:
    return wall_sun(load(job_id).job)


@router.get("/{uuid:job_id}/file", operation_id="get_job_file")
def get_job_file(request: HttpRequest, job_id: UUID) -> HttpResponse:
    job = load_house(job_id)
    return download(write_job(job).encode(), "application/json", f"{job.name}.noon.json")


@router.get("/{uuid:job_id}/load-in", operation_id="get_load_in")
def get_load_in(request: HttpRequest, job_id: UUID) -> HttpResponse:
    job = load(job_id).job
    text = load_in_csv(assess(job).arrive.lines)
    return download(text.encode("utf-8-sig"), "text/csv", f"{job.name} load-in.csv")


@router.get("/{uuid:job_id}/bundle", operation_id="get_job_bundle")
def get_job_bundle(request: HttpRequest, job_id: UUID) -> HttpResponse:
    job = load_house(job_id)
    return download(bundle(job), "application/zip", f"{job.name}.noon.zip")


@router.get("/{uuid:job_id}/assessment", operation_id="get_assessment_file")
def get_assessment_file(request: HttpRequest, job_id: UUID) -> HttpResponse:
    text = json.dumps(write(assess(load(job_id).job)), indent=2, ensure_ascii=False)
    return download(text.encode(), "application/json", "assessment.json")
