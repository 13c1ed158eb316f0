"""Taking out everything that is held of a customer, and erasing it."""

from __future__ import annotations

import io
import zipfile
from uuid import UUID

from django.apps import apps
from django.contrib.auth.models import User
from django.db.models import Model, QuerySet

from core.base.errors import Refused, problem
from server.documents.pages import forget_pages
from server.documents.record import record_pdf
from server.evidence.models import EvidenceRow, PictureRow
from server.jobs.bundle import bundle
from server.jobs.models import JobRow, SourceFile
from server.jobs.stored import load, load_house, row_of
from server.people.audit import audit, audit_csv, blanked, lines_of
from server.people.erasing import erasing
from server.people.policy import crew_of
from server.readings.models import ReadingRow

LEAST_WHY_CHARS, MOST_WHY_CHARS = 5, 200


def personal_data(person: User, job_id: UUID) -> bytes:
    """Everything that is held of a customer's job, as a ZIP of files that open anywhere."""
    house, out = load_house(job_id), io.BytesIO()
    ids = _rows(job_id).values_list("id", flat=True)
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("job.noon.zip", bundle(house))
        archive.writestr("record.pdf", record_pdf(load(job_id).job))
        archive.writestr("audit.csv", audit_csv(lines_of(crew_of(person), list(ids), None)))
    return out.getvalue()


def erase(person: User, job_id: UUID, name: str, why: str) -> None:
    """Erase a job with all that was kept of it; in the audit stays that, by whom and why.

    Raises Refused unless the job's own name was typed and a reason given.
    """
    job = load_house(job_id)
    if name.strip() != job.name:
        said = "Type the job's name as it stands: what is erased cannot be brought back."
        raise Refused([problem("$.name", name, "the job's name", said)])
    if not LEAST_WHY_CHARS <= len(why.strip()) <= MOST_WHY_CHARS:
        allowed = f"{LEAST_WHY_CHARS} to {MOST_WHY_CHARS} characters"
        raise Refused([problem("$.why", why, allowed)])
    with erasing(why):
        rows = list(_rows(job_id))
        ids = [row.id for row in rows]
        files = {row.origin_id for row in rows} | set(
            ReadingRow.objects.filter(job_id__in=ids).values_list("source_id", flat=True)
        )
        for model in _kept_of_jobs():
            found = model._default_manager.filter(job_id__in=ids)
            found._raw_delete(found.db)
        blanked(ids)
        # The house last: its further inverters point at it.
        for row in sorted(rows, key=lambda one: one.house_id is None):
            JobRow.objects.filter(id=row.id)._raw_delete(JobRow.objects.db)
        _raw(SourceFile.objects.filter(id__in=[one for one in files if one]))
        _raw(unseen_pictures())
        for job_id_gone in ids:
            forget_pages(job_id_gone)
        audit(person, None, "customer erased", f"{len(ids)} job rows; {why.strip()}")


def unseen_pictures() -> QuerySet[PictureRow]:
    """Pictures that no evidence refers to."""
    seen = EvidenceRow.objects.values_list("kept__sha256", flat=True)
    return PictureRow.objects.exclude(sha256__in=list(seen))


def _rows(job_id: UUID) -> QuerySet[JobRow]:
    """The rows of a house: itself, and each further inverter."""
    own = row_of(job_id)
    house = own.house or own
    return JobRow.objects.filter(id=house.id) | JobRow.objects.filter(house=house)


def _kept_of_jobs() -> list[type[Model]]:
    """Every table that keeps something of a job."""
    return [
        model
        for model in apps.get_models()
        if any(
            field.name == "job" and field.related_model is JobRow for field in model._meta.fields
        )
    ]


def _raw(rows: QuerySet[SourceFile] | QuerySet[PictureRow]) -> None:
    rows._raw_delete(rows.db)
