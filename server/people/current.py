"""Who asks."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from typing import Any

from django.contrib.auth.models import User
from django.http import HttpRequest, HttpResponse
from ninja.errors import AuthenticationError

from server.people.models import Member
from server.people.policy import member_of
from server.platform.problems import report


def person_of(request: HttpRequest) -> User:
    """The signed-in person of an authenticated operation."""
    return who_asks(request).person


def who_asks(request: HttpRequest) -> Member:
    """The member of a crew who asks. Raises AuthenticationError."""
    member = member_of(request.user)
    if member is None:
        raise AuthenticationError
    return member


def signed_in(view: Callable[..., HttpResponse]) -> Callable[..., HttpResponse]:
    """A page for those who are signed in; others are asked to sign in."""

    @wraps(view)
    def guarded(request: HttpRequest, *args: Any, **named: Any) -> HttpResponse:
        if member_of(request.user) is None:
            return report(401, "Sign in", "Sign in to go on.")
        return view(request, *args, **named)

    return guarded
