"""Keeping evidence: a picture or document beside the step that it shows."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from uuid import UUID, uuid4

from django.contrib.auth.models import User
from django.db import transaction
from django.http import Http404

from core.assess import assess
from core.base.errors import Refused, problem
from core.base.limits import BYTES_PER_MB, MOST_ATTACHED_BYTES
from core.job.job import Job
from core.job.readings import Evidence
from core.stages.arrive.stage import PERMIT_STEP
from core.stages.making import pieces_of
from server.evidence.models import EvidenceRow, bytes_of, digest, keep_bytes
from server.evidence.pictures import Picture, taken_in
from server.jobs.stored import Stored, load
from server.people.audit import audit, shown_name
from server.platform.problems import Conflict

MOST_NAME_CHARS = 60
# What belongs to no step but to the job: a manual, a drawing, another paper, named after what it
# is of.
ATTACHED = re.compile(r"^(manual|drawing|paper)/.{1,80}$")


@dataclass(frozen=True, kw_only=True)
class Offered:
    """A file as it is sent, and the step that it shows. id: made in the hand, by which it is kept
    once however often it is sent."""

    step: str
    name: str
    note: str
    keep_location: bool
    raw: bytes
    id: str | None = None


def keep(person: User, job_id: UUID, offered: Offered) -> Stored:
    """Keep a picture or document for good. Raises Refused; then nothing is kept."""
    picture = taken_in(offered.raw, keep_location=offered.keep_location)
    with transaction.atomic():
        if _is_kept(job_id, offered, picture):
            # Its answer was lost on the way, and it was sent again.
            return load(job_id)
        stored = load(job_id)
        _not_too_much(stored.job, len(picture.data))
        if offered.step not in steps_of(stored.job) and not ATTACHED.match(offered.step):
            said = "This job has no such step to show."
            raise Refused([problem("$.step", offered.step, "a step of this job", said)])
        evidence = _evidence(person, offered, picture)
        job = replace(stored.job, evidence=(*stored.job.evidence, evidence))
        keep_bytes(picture.data)
        EvidenceRow.keep(job_id, evidence)
        audit(person, job_id, "evidence kept", f"{evidence.step}: {evidence.name}")
    return Stored(job=job, revision=stored.revision)


def _is_kept(job_id: UUID, offered: Offered, picture: Picture) -> bool:
    """Whether this very picture is kept already. Raises Conflict: another has its identity."""
    row = EvidenceRow.of(job_id).filter(identity=offered.id).first() if offered.id else None
    if row is None:
        return False
    if (row.kept["step"], row.kept["sha256"]) != (offered.step, digest(picture.data)):
        said = "Another picture was kept under this identity. It stays; this one was not kept."
        raise Conflict(said)
    return True


def _not_too_much(job: Job, size_bytes: int) -> None:
    """Refuses what would make a job's attachments more than may be kept of it."""
    held = sum({one.sha256: one.size_bytes for one in job.evidence}.values())
    if held + size_bytes > MOST_ATTACHED_BYTES:
        allowed = f"{MOST_ATTACHED_BYTES // BYTES_PER_MB} MB in all"
        said = (
            f"This job holds {held / BYTES_PER_MB:.0f} MB of pictures and papers; with this one it "
            f"would be more than {allowed}. What is there stays; this one was not kept."
        )
        raise Refused([problem("$.file", f"{size_bytes} bytes", allowed, said)])


def steps_of(job: Job) -> frozenset[str]:
    """What a picture may show: all that is asked, counted, hung, bonded or made, and the permit."""
    said = assess(job)
    return frozenset(
        (
            PERMIT_STEP,
            *(one.key for one in said.asks),
            *(line.id for line in said.arrive.lines),
            *(device.name for device in said.hang.devices),
            *(node.name for node in said.earth.nodes),
            *(f"made/{piece.subject}" for piece in pieces_of(said)),
        )
    )


def _evidence(person: User, offered: Offered, picture: Picture) -> Evidence:
    return Evidence(
        id=offered.id or str(uuid4()),
        step=offered.step,
        name=(offered.name.strip() or "picture")[-MOST_NAME_CHARS:],
        form=picture.form,
        size_bytes=len(picture.data),
        sha256=digest(picture.data),
        kept_at=datetime.now(UTC),
        by=shown_name(person)[:MOST_NAME_CHARS],
        note=offered.note,
        located=picture.located,
    )


def found(job_id: UUID, evidence_id: UUID) -> tuple[Evidence, bytes]:
    """A job's picture and its bytes. Raises Http404."""
    for evidence in load(job_id).job.evidence:
        data = bytes_of(evidence.sha256) if evidence.id == str(evidence_id) else None
        if data is not None:
            return evidence, data
    raise Http404
