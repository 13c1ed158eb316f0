"""Who asks."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from typing import Any

from django.contrib.auth.models import User
from django.http import HttpRequest, HttpResponse
from ninja.errors import AuthenticationError

from server.people.policy import may_work
from server.platform.problems import report


def person_of(request: HttpRequest) -> User:
    """The signed-in person of an authenticated operation."""
    person = request.user
    if not isinstance(person, User) or not may_work(person):
        raise AuthenticationError
    return person


def signed_in(view: Callable[..., HttpResponse]) -> Callable[..., HttpResponse]:
    """A page for those who are signed in; others are asked to sign in."""

    @wraps(view)
    def guarded(request: HttpRequest, *args: Any, **named: Any) -> HttpResponse:
        if not may_work(request.user):
            return report(401, "Sign in", "Sign in to go on.")
        return view(request, *args, **named)

    return guarded
