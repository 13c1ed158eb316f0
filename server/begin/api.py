"""Begin endpoints: places, questions one at a time, and the job that the answers make."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from django.http import HttpRequest
from ninja import Body, Query, Router

from core.edits.roof_text import roof_of_table
from places import towns
from server.begin import actions
from server.begin.schemas import (
    AnswersIn,
    BegunLine,
    BegunView,
    Dot,
    RoofLine,
    RoofTableIn,
    Spot,
)
from server.begin.spots import at_point, spots
from server.jobs.schemas import JobId
from server.people.current import person_of

router = Router(tags=["begin"])
Typed = Annotated[str, Query(max_length=400)]
Latitude = Annotated[float, Query(ge=-90, le=90)]
Longitude = Annotated[float, Query(ge=-180, le=180)]
MOST_DOTS = 120


@router.get("/places", response=list[Spot], operation_id="find_places_named")
def find_places_named(request: HttpRequest, typed: Typed) -> list[Spot]:
    return spots(typed)


@router.get("/places/at", response=Spot, operation_id="place_at")
def place_at(request: HttpRequest, latitude_deg: Latitude, longitude_deg: Longitude) -> Spot:
    return at_point(latitude_deg, longitude_deg)


@router.get("/places/map", response=list[Dot], operation_id="towns_on_map")
def towns_on_map(
    request: HttpRequest, south: Latitude, west: Longitude, north: Latitude, east: Longitude
) -> list[Dot]:
    found = towns.within(south, west, north, east, MOST_DOTS)
    return [
        Dot(
            name=one.name,
            latitude_deg=one.latitude_deg,
            longitude_deg=one.longitude_deg,
            people=one.people,
        )
        for one in found
    ]


@router.post("/roof-table", response=RoofLine, operation_id="read_roof_table")
def read_roof_table(request: HttpRequest, body: RoofTableIn) -> RoofLine:
    return RoofLine(roof=roof_of_table(body.text))


@router.get("", response=list[BegunLine], operation_id="list_begun")
def list_begun(request: HttpRequest) -> list[BegunLine]:
    return actions.begun_lines(person_of(request))


@router.get("/{uuid:begun_id}", response=BegunView, operation_id="get_begun")
def get_begun(request: HttpRequest, begun_id: UUID) -> BegunView:
    return actions.view(person_of(request), begun_id)


@router.put("/{uuid:begun_id}", response=BegunView, operation_id="answer_begun")
def answer_begun(request: HttpRequest, begun_id: UUID, body: Body[AnswersIn]) -> BegunView:
    return actions.answer(person_of(request), begun_id, body)


@router.delete("/{uuid:begun_id}", response=list[BegunLine], operation_id="put_away_begun")
def put_away_begun(request: HttpRequest, begun_id: UUID) -> list[BegunLine]:
    person = person_of(request)
    actions.put_away(person, begun_id)
    return actions.begun_lines(person)


@router.post("/{uuid:begun_id}/job", response={201: JobId}, operation_id="job_from_begun")
def job_from_begun(request: HttpRequest, begun_id: UUID) -> tuple[int, JobId]:
    return 201, JobId(id=actions.make(person_of(request), begun_id))
