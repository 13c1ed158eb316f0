"""A job with its pictures in one ZIP: the job file, and each picture under its hash."""

from __future__ import annotations

import hashlib
import io
import zipfile
import zlib
from dataclasses import dataclass

from core.base.errors import Refused, problem
from core.base.limits import (
    MOST_BUNDLE_BYTES,
    MOST_BUNDLE_MEMBERS,
    MOST_JOB_BYTES,
    MOST_PICTURE_BYTES,
)
from core.files.job import write_job
from core.job.job import Job
from server.evidence.models import bytes_of
from server.evidence.pictures import SIGNATURES

JOB_NAME = "job.noon.json"
PICTURES = "pictures/"
# What a damaged or doctored archive raises on the way.
DAMAGED = (KeyError, ValueError, NotImplementedError, RuntimeError, EOFError, OSError)
ZIP_SIGNATURE = b"PK\x03\x04"
ALLOWED = f"a ZIP with {JOB_NAME} and pictures named by their SHA-256"


@dataclass(frozen=True, kw_only=True)
class Bundle:
    """A job file as it was sent, and the pictures that came with it, by their SHA-256."""

    job: bytes
    pictures: dict[str, bytes]


def bundle(job: Job) -> bytes:
    """A job and every picture of it that is on this machine."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(JOB_NAME, write_job(job))
        every = (*job.evidence, *(kept for one in job.stations for kept in one.evidence))
        for sha256 in dict.fromkeys(one.sha256 for one in every):
            data = bytes_of(sha256)
            if data is not None:
                archive.writestr(PICTURES + sha256, data, zipfile.ZIP_STORED)
    return out.getvalue()


def is_bundle(raw: bytes) -> bool:
    """Whether what was sent is a ZIP."""
    return raw.startswith(ZIP_SIGNATURE)


def unbundled(raw: bytes) -> Bundle:
    """What was sent: a job file alone, or a ZIP of one with its pictures. Raises Refused."""
    if not is_bundle(raw):
        return Bundle(job=raw, pictures={})
    try:
        with zipfile.ZipFile(io.BytesIO(raw)) as archive:
            _not_too_large(archive)
            job = _member(archive, JOB_NAME, MOST_JOB_BYTES)
            names = [one for one in archive.namelist() if one.startswith(PICTURES)]
            pictures = {n.removeprefix(PICTURES): _picture(archive, n) for n in names}
    except Refused:
        raise
    except (zipfile.BadZipFile, zlib.error, *DAMAGED):
        raise Refused([problem("$", "a damaged or foreign ZIP", ALLOWED)]) from None
    return Bundle(job=job, pictures=pictures)


def _not_too_large(archive: zipfile.ZipFile) -> None:
    """Refuse what would unpack to more than may be sent."""
    members = len(archive.infolist())
    if members > MOST_BUNDLE_MEMBERS:
        raise Refused([problem("$", f"{members} files in it", f"at most {MOST_BUNDLE_MEMBERS}")])
    unpacked = sum(member.file_size for member in archive.infolist())
    if unpacked > MOST_BUNDLE_BYTES:
        raise Refused(
            [problem("$", f"{unpacked} bytes unpacked", f"at most {MOST_BUNDLE_BYTES} bytes")]
        )


def _picture(archive: zipfile.ZipFile, name: str) -> bytes:
    data = _member(archive, name, MOST_PICTURE_BYTES)
    known = any(data.startswith(start) for start, _ in SIGNATURES)
    if not known or hashlib.sha256(data).hexdigest() != name.removeprefix(PICTURES):
        said = f"{name} is not the picture that its name says."
        raise Refused([problem(f"$.{name}", "other bytes", ALLOWED, said)])
    return data


def _member(archive: zipfile.ZipFile, name: str, most_bytes: int) -> bytes:
    """One file of the ZIP, never unpacked beyond what it may be."""
    with archive.open(name) as file:
        data = file.read(most_bytes + 1)
    if len(data) > most_bytes:
        raise Refused([problem(f"$.{name}", "too large", f"at most {most_bytes} bytes")])
    return data
