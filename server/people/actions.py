"""Signing in and out, and writing the audit."""

from __future__ import annotations

from uuid import UUID

from django.conf import settings
from django.contrib.auth import authenticate, get_user_model, login, logout
from django.contrib.auth.models import User
from django.http import HttpRequest

from core.base.errors import Refused, problem
from server.people.models import AuditLine, Licence

MOST_LICENCE_CHARS = 60


def shown_name(person: User) -> str:
    """The name that stands beside a reading."""
    return person.get_full_name() or person.get_username()


def audit(person: User, job_id: UUID | None, what: str, detail: str = "") -> None:
    """Write one audit line; call it inside the transaction of the change."""
    AuditLine.objects.create(by=person, job_id=job_id, what=what, detail=detail)


def enter_licence(name: str, number: str) -> None:
    """Enter or renew a person's licence. Raises Refused for an unknown name or no number."""
    person = get_user_model().objects.filter(username=name).first()
    if person is None:
        raise Refused([problem("$.name", name, "a person who may sign in")])
    if not 1 <= len(number.strip()) <= MOST_LICENCE_CHARS:
        raise Refused([problem("$.number", number, f"1 to {MOST_LICENCE_CHARS} characters")])
    Licence.objects.update_or_create(person=person, defaults={"number": number.strip()})


def sign_in(request: HttpRequest, username: str, password: str) -> User:
    """Sign in by name and password. Raises Refused without saying which was wrong."""
    person = authenticate(request, username=username, password=password)
    if not isinstance(person, User):
        said = "This name and password do not go together."
        raise Refused([problem("$.username", username, "a known name and its password", said)])
    login(request, person)
    return person


def sign_in_demo(request: HttpRequest) -> User:
    """Sign in the demo's own person. Raises Refused outside demo mode."""
    if not settings.DEMO:
        said = "The demo's button works in the demo only."
        raise Refused([problem("$", "demo", "demo mode", said)])
    person: User = get_user_model().objects.get(username=settings.DEMO_USERNAME)
    login(request, person)
    return person


def sign_out(request: HttpRequest) -> None:
    """Sign out."""
    logout(request)
