"""Signing in and out: a name and its password, then a code or a passkey where one is set up."""

from __future__ import annotations

import contextlib
from datetime import UTC, datetime, timedelta
from typing import Any

from axes.models import AccessAttempt
from django.conf import settings
from django.contrib.auth import authenticate, get_user_model, login, logout
from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.db import DatabaseError, transaction
from django.db.models import Sum
from django.http import HttpRequest

from core.base.errors import Refused, problem
from server.people.audit import audit, audit_stranger
from server.people.factors import code_fits, passkey_person, ways_of
from server.people.models import SeenSession
from server.people.policy import member_of
from server.platform.heavy import heavy
from server.platform.problems import TooMany

BACKEND = "django.contrib.auth.backends.ModelBackend"
HALF = "half_signed_in"
HALF_HOLDS = timedelta(minutes=5)
# Wrong tries from one address, whoever's name they use, before it waits too.
MOST_FROM_ADDRESS = 30
MOST_BROWSER_CHARS = 120
SEEN_EVERY = timedelta(minutes=5)


def sign_in(request: HttpRequest, username: str, password: str) -> User | None:
    """Sign in by name and password; None where a second factor is still asked for.

    Raises Refused without saying which was wrong; TooMany after wrong tries. A wrong password
    costs as much to check as a right one, so only one is checked at a time.
    """
    _refuse_many(request)
    with heavy("password", slots=1, wait_s=5.0):
        person = authenticate(request, username=username, password=password)
    if getattr(request, "axes_locked_out", False):
        raise TooMany
    if not isinstance(person, User) or member_of(person) is None:
        audit_stranger(username, None, "sign-in failed", _address(request))
        said = "This name and password do not go together."
        raise Refused([problem("$.username", username, "a known name and its password", said)])
    if ways_of(person):
        request.session[HALF] = [person.pk, datetime.now(UTC).timestamp()]
        return None
    entered(request, person, "by password")
    return person


def with_code(request: HttpRequest, code: str) -> User:
    """The second step: a code of the authenticator. Raises Refused."""
    person = half_signed_in(request)
    if not code_fits(person, code):
        audit(person, None, "sign-in failed", f"code; {_address(request)}")
        said = "This code does not fit. It changes every half minute; after wrong ones it waits."
        raise Refused([problem("$.code", "******", "six digits", said)])
    entered(request, person, "by password and code")
    return person


def half_signed_in(request: HttpRequest) -> User:
    """Who gave their password a moment ago. Raises Refused."""
    found = request.session.get(HALF)
    if found is not None:
        number, at = found
        person = get_user_model().objects.filter(pk=number).first()
        fresh = datetime.now(UTC) - datetime.fromtimestamp(at, UTC) < HALF_HOLDS
        if fresh and isinstance(person, User) and member_of(person) is not None:
            return person
    said = "Give name and password again: this took too long."
    raise Refused([problem("$", "no password given", "name and password first", said)])


def entered(request: HttpRequest, person: User, how: str) -> None:
    """Let a person in, and write down that and how they came."""
    request.session.pop(HALF, None)
    login(request, person, backend=BACKEND)
    if not request.session.session_key:
        request.session.save()
    with transaction.atomic():
        SeenSession.objects.update_or_create(
            session_key=request.session.session_key,
            defaults={
                "person": person,
                "browser": request.headers.get("User-Agent", "")[:MOST_BROWSER_CHARS],
            },
        )
        audit(person, None, "signed in", f"{how}; {_address(request)}")


def sign_in_demo(request: HttpRequest) -> User:
    """Sign in the demo's own person. Raises Refused outside demo mode."""
    person = get_user_model().objects.filter(username=settings.DEMO_USERNAME).first()
    if not settings.DEMO or not isinstance(person, User):
        said = "The demo's button works in the demo only."
        raise Refused([problem("$", "demo", "demo mode", said)])
    entered(request, person, "by the demo's button")
    return person


def sign_out(request: HttpRequest) -> None:
    """Sign out."""
    SeenSession.objects.filter(session_key=request.session.session_key).delete()
    logout(request)


def seen(request: HttpRequest) -> None:
    """Note that a sign-in is still in use, now and then."""
    now = datetime.now(UTC)
    rows = SeenSession.objects.filter(
        session_key=request.session.session_key, seen_at__lt=now - SEEN_EVERY
    )
    # Where nothing can be kept, what is there can still be read.
    with contextlib.suppress(DatabaseError):
        if rows.exists():
            rows.update(seen_at=now)


def sessions_of(person: User) -> list[SeenSession]:
    """A person's sign-ins that still hold, the latest first; those that ran out are forgotten."""
    rows = SeenSession.objects.filter(person=person)
    now = datetime.now(UTC)
    held = set(
        Session.objects.filter(
            session_key__in=rows.values("session_key"), expire_date__gt=now
        ).values_list("session_key", flat=True)
    )
    rows.exclude(session_key__in=held).delete()
    return list(rows.order_by("-seen_at"))


def end_sessions(person: User, keep: str | None = None, number: int | None = None) -> int:
    """End a person's sign-ins: all, all but one, or the one of that number."""
    rows = SeenSession.objects.filter(person=person).exclude(session_key=keep)
    if number is not None:
        rows = rows.filter(pk=number)
    keys = list(rows.values_list("session_key", flat=True))
    Session.objects.filter(session_key__in=keys).delete()
    rows.delete()
    return len(keys)


def _refuse_many(request: HttpRequest) -> None:
    since = datetime.now(UTC) - settings.AXES_COOLOFF_TIME
    tries = AccessAttempt.objects.filter(ip_address=_address(request), attempt_time__gt=since)
    if (tries.aggregate(all=Sum("failures_since_start"))["all"] or 0) >= MOST_FROM_ADDRESS:
        raise TooMany


def _address(request: HttpRequest) -> str:
    return str(request.META.get("REMOTE_ADDR", ""))


def with_passkey(request: HttpRequest, answer: dict[str, Any]) -> User:
    """Sign in with a passkey alone, or as the second step. Raises Refused."""
    half = half_signed_in(request) if HALF in request.session else None
    person = passkey_person(request, answer)
    if member_of(person) is None or (half is not None and half != person):
        said = "This passkey is somebody else's, or theirs who left."
        raise Refused([problem("$", "another person's", "one's own passkey", said)])
    entered(request, person, "by passkey" if half is None else "by password and passkey")
    return person


def renewed(request: HttpRequest, person: User) -> None:
    """After a new password: this browser stays signed in under its new session, no other does."""
    end_sessions(person, keep=None)
    SeenSession.objects.create(
        person=person,
        session_key=request.session.session_key or "",
        browser=request.headers.get("User-Agent", "")[:MOST_BROWSER_CHARS],
    )
