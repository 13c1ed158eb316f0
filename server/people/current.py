"""Who asks."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.http import HttpRequest
from ninja.errors import AuthenticationError

from server.people.policy import may_work


def person_of(request: HttpRequest) -> User:
    """The signed-in person of an authenticated operation."""
    person = request.user
    if not isinstance(person, User) or not may_work(person):
        raise AuthenticationError
    return person
