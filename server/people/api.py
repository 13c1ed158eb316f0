"""Session endpoints."""

from __future__ import annotations

from typing import Annotated

from django.conf import settings
from django.contrib.auth.models import User
from django.http import HttpRequest
from django.views.decorators.csrf import csrf_protect
from ninja import Field, Router, Schema
from ninja.decorators import decorate_view

from server.people import actions
from server.people.policy import licence_of, may_work
from server.platform.problems import ProblemReport

router = Router(tags=["people"])
ERRORS = {422: ProblemReport}


class SignIn(Schema):
    """A name and its password."""

    username: Annotated[str, Field(max_length=150)]
    password: Annotated[str, Field(max_length=500)]


class Session(Schema):
    """Who is signed in, with which licence, and whether this is the demo."""

    name: str | None
    licence: str
    demo: bool


def _session(request: HttpRequest) -> Session:
    person = request.user
    if not isinstance(person, User) or not may_work(person):
        return Session(name=None, licence="", demo=settings.DEMO)
    name, licence = actions.shown_name(person), licence_of(person)
    return Session(name=name, licence=licence, demo=settings.DEMO)


@router.get("", auth=None, response=Session, operation_id="get_session")
def get_session(request: HttpRequest) -> Session:
    return _session(request)


@router.post("", auth=None, response={200: Session, **ERRORS}, operation_id="sign_in")
@decorate_view(csrf_protect)
def sign_in(request: HttpRequest, body: SignIn) -> Session:
    actions.sign_in(request, body.username, body.password)
    return _session(request)


@router.post("/demo", auth=None, response={200: Session, **ERRORS}, operation_id="sign_in_demo")
@decorate_view(csrf_protect)
def sign_in_demo(request: HttpRequest) -> Session:
    actions.sign_in_demo(request)
    return _session(request)


@router.delete("", response=Session, operation_id="sign_out")
def sign_out(request: HttpRequest) -> Session:
    actions.sign_out(request)
    return _session(request)
