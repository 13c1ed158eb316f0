"""The frozen versions of a record: made once all have signed, kept for good."""

from __future__ import annotations

import io
import json
import secrets
import zipfile
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey
from django.db.models import Max

from core.assess import assess
from core.base.form import write
from core.files.differences import Difference, differences
from core.files.job import read_job, write_job
from core.job.house import views
from core.job.job import Job
from core.job.leave import SIGN_ROLES
from core.job.state import state_digest
from server.documents.record import record_pdf
from server.signing.models import RecordKey, SealedRow
from server.signing.seal import JOB, RECORD, key_finger, seal

KEY_BYTES = 32


@dataclass(frozen=True, kw_only=True)
class Version:
    """One version as it is listed. differs: from the one before it."""

    number: int
    at: datetime
    by: str
    state: str
    digest: str
    key: str
    size_bytes: int
    differs: tuple[Difference, ...]


def sealing_key() -> str:
    """This installation's own key, made when it is first needed."""
    kept = RecordKey.objects.order_by("id").first()
    if kept is None:
        kept = RecordKey.objects.create(secret=secrets.token_hex(KEY_BYTES))
    return kept.secret


def public_finger() -> str:
    """By what this installation's seals are known again."""
    key = Ed25519PrivateKey.from_private_bytes(bytes.fromhex(sealing_key()))
    return key_finger(key.public_key().public_bytes_raw().hex())


def freeze(house: Job, by: str, at: datetime) -> SealedRow:
    """Keep the record of a house as it was signed: its job file, assessments and papers."""
    every = views(house)
    files = {JOB: write_job(house).encode()}
    for number, one in enumerate(every, start=1):
        tail = "" if number == 1 else f"-{number}"
        said = json.dumps(write(assess(one, at=at)), indent=1, ensure_ascii=False)
        files[f"assessment{tail}.json"] = said.encode()
        files[RECORD.replace(".pdf", f"{tail}.pdf")] = record_pdf(one)
    state = state_digest(every[0])
    last = {one.role: one for one in house.signatures if not one.from_file and one.of == state}
    number = (
        SealedRow.objects.filter(job_id=UUID(house.id)).aggregate(n=Max("number"))["n"] or 0
    ) + 1
    about = {
        "job": house.id,
        "name": house.name,
        "number": number,
        "at": at.isoformat(),
        "state": state,
        "signed": [
            {"role": role, "name": last[role].name, "at": last[role].at.isoformat()}
            for role in SIGN_ROLES
        ],
    }
    made = seal(files, about, sealing_key())
    return SealedRow.objects.create(
        job_id=UUID(house.id), number=number, at=at, by=by, state=state, digest=made.digest,
        members=made.members, data=made.data,
    )  # fmt: skip


def versions(house: Job) -> list[Version]:
    """Every version of a house's record, the first first, each with what differs."""
    found, before = [], None
    key = public_finger()
    for row in SealedRow.objects.filter(job_id=UUID(house.id)).order_by("number"):
        job = job_of(row)
        found.append(
            Version(
                number=row.number,
                at=row.at,
                by=row.by,
                state=row.state,
                digest=row.digest,
                key=key,
                size_bytes=len(row.data),
                differs=differences(before, job) if before is not None else (),
            )
        )
        before = job
    return found


def since_signed(house: Job) -> tuple[Difference, ...]:
    """What differs now from the last version; nothing where there is none."""
    row = SealedRow.objects.filter(job_id=UUID(house.id)).order_by("-number").first()
    return differences(job_of(row), house) if row is not None else ()


def job_of(row: SealedRow) -> Job:
    """The job as a version froze it."""
    with zipfile.ZipFile(io.BytesIO(bytes(row.data))) as archive:
        return read_job(archive.read(JOB))
