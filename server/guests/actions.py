"""Giving a guest a link to a record, ending it, and looking through it."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction
from django.http import Http404

from core.base.errors import Refused, problem
from core.base.signs import unwritten
from server.guests.models import GuestLink
from server.people.audit import audit, audit_stranger
from server.platform.link_secret import digest_of, new_secret

MOST_DAYS, MOST_NAME_CHARS = 366, 60


def invite(person: User, job_id: UUID, name: str, ends_on: date) -> str:
    """A link to the record of a job: its secret. Raises Refused."""
    today = datetime.now(UTC).date()
    if not today <= ends_on <= today + timedelta(days=MOST_DAYS):
        allowed = f"{today} to {today + timedelta(days=MOST_DAYS)}"
        raise Refused([problem("$.ends_on", str(ends_on), allowed)])
    wrong = unwritten(name)
    if wrong is not None or not 1 <= len(name.strip()) <= MOST_NAME_CHARS:
        said = wrong or ""
        raise Refused([problem("$.name", ascii(name)[:60], f"1 to {MOST_NAME_CHARS} signs", said)])
    secret = new_secret()
    with transaction.atomic():
        GuestLink.objects.create(
            job_id=job_id,
            digest=digest_of(secret),
            name=name.strip(),
            made_by=person,
            ends_on=ends_on,
        )
        audit(person, job_id, "guest invited", f"{name.strip()} until {ends_on}")
    return secret


def links_of(job_id: UUID) -> list[GuestLink]:
    """Every link of a job, ended ones too."""
    return list(GuestLink.objects.filter(job_id=job_id).select_related("made_by").order_by("id"))


def end(person: User, job_id: UUID, number: int) -> None:
    """A link shows nothing more. Raises Refused."""
    with transaction.atomic():
        found = GuestLink.objects.filter(job_id=job_id, pk=number, ended_at=None).first()
        if found is None:
            raise Refused([problem("$.number", number, "a link that still holds")])
        found.ended_at = datetime.now(UTC)
        found.save()
        audit(person, job_id, "guest's link ended", found.name)


def link_of(secret: str) -> GuestLink:
    """The link of a secret while it holds. Raises Http404."""
    found = GuestLink.objects.filter(digest=digest_of(secret)).select_related("job__crew").first()
    today = datetime.now(UTC).date()
    if found is None or found.ended_at is not None or found.ends_on < today:
        raise Http404
    return found


def looked(link: GuestLink, what: str) -> None:
    """Write down that a guest looked, and at what."""
    said = f"{what} of job {link.job_id}"
    audit_stranger(f"guest {link.name}", link.job.crew, "guest looked", said)
