"""The audit: one line for every change, sign-in and download, each sealing the one before it."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC
from uuid import UUID

from django.contrib.auth.models import User
from django.db import connection, transaction
from django.db.models import QuerySet

from core.base.csv_text import csv_text
from server.people.models import AuditLine, Crew, Member

FIRST = "0" * 64
MOST_NAME_CHARS, MOST_DETAIL_CHARS = 120, 2000
COLUMNS = ("at", "by", "what", "detail", "job", "digest")


def shown_name(person: User) -> str:
    """The name that stands beside a reading."""
    return person.get_full_name() or person.get_username()


def audit(person: User, job_id: UUID | None, what: str, detail: str = "") -> None:
    """Write down what a person did; call it inside the transaction of the change."""
    member = Member.objects.filter(person=person).select_related("crew").first()
    _write(person, shown_name(person), member.crew if member else None, job_id, what, detail)


def audit_stranger(name: str, crew: Crew | None, what: str, detail: str = "") -> None:
    """Write down what somebody did who is not signed in."""
    _write(None, name, crew, None, what, detail)


def _write(
    by: User | None, name: str, crew: Crew | None, job_id: UUID | None, what: str, detail: str
) -> None:
    # One writer at a time: the line before this one stays the last until this one is kept.
    with transaction.atomic():
        last = AuditLine.objects.order_by("-id").values_list("digest", flat=True).first()
        line = AuditLine(
            by=by,
            by_name=name[:MOST_NAME_CHARS],
            crew=crew,
            job_id=job_id,
            what=what,
            detail=detail[:MOST_DETAIL_CHARS],
            previous=last or FIRST,
        )
        line.detail_digest = _sha256(line.detail)
        line.digest = seal(line)
        line.save()


def seal(line: AuditLine) -> str:
    """The digest of a line over everything that it says and the digest before it."""
    said = [
        line.previous,
        line.at.astimezone(UTC).isoformat(),
        line.by_name,
        line.crew_id,
        str(line.job_id or ""),
        line.what,
        line.detail_digest,
    ]
    return _sha256(json.dumps(said, ensure_ascii=False))


def blanked(job_ids: list[UUID]) -> None:
    """Take what was said of some jobs out of the audit; that something was done stays."""
    lines = AuditLine.objects.filter(job_id__in=job_ids, erased=False)
    lines.update(detail="", erased=True)


def _sha256(text: str) -> str:
    return hashlib.sha256(text.encode()).hexdigest()


@dataclass(frozen=True, kw_only=True)
class ChainCheck:
    """Whether the audit is as it was written. broken: numbers of lines that do not fit; cut_off:
    how many were written after the last that is there."""

    lines: int
    broken: tuple[int, ...]
    cut_off: int
    last: str


def checked_chain() -> ChainCheck:
    """Go through the whole audit."""
    before, broken, count, number = FIRST, [], 0, 0
    for line in AuditLine.objects.order_by("id").iterator(chunk_size=2000):
        count += 1
        detail_fits = line.erased or line.detail_digest == _sha256(line.detail)
        if line.previous != before or line.digest != seal(line) or not detail_fits:
            broken.append(line.id)
        before, number = line.digest, line.pk
    return ChainCheck(lines=count, broken=tuple(broken), cut_off=_written() - number, last=before)


def _written() -> int:
    """How many lines were ever written, by the database's own count."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT seq FROM sqlite_sequence WHERE name = %s", [AuditLine._meta.db_table]
        )
        found = cursor.fetchone()
    return int(found[0]) if found else 0


def lines_of(crew: Crew, job_ids: list[UUID] | None, person_id: int | None) -> QuerySet[AuditLine]:
    """A crew's audit, the latest first; of some jobs, of one person."""
    lines = AuditLine.objects.filter(crew=crew).order_by("-id")
    if job_ids is not None:
        lines = lines.filter(job_id__in=job_ids)
    return lines if person_id is None else lines.filter(by_id=person_id)


def audit_csv(lines: QuerySet[AuditLine]) -> str:
    """Lines of the audit as a table."""

    def rows() -> Iterator[tuple[object, ...]]:
        yield COLUMNS
        for one in lines.iterator(chunk_size=2000):
            job = str(one.job_id or "")
            yield one.at.isoformat(), one.by_name, one.what, one.detail, job, one.digest

    return csv_text(rows())
