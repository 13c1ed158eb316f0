"""A sealed record: a ZIP of files, a digest over all of them, a signature over the digest.

Anybody can verify one: the digests say whether a byte was changed, the signature whether the
digests are those that were made when it was signed. Knows no Django.
"""

from __future__ import annotations

import hashlib
import io
import json
import zipfile
import zlib
from dataclasses import dataclass
from typing import Any

from cryptography.exceptions import InvalidSignature
from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey, Ed25519PublicKey

from core.base.errors import Refused
from core.base.limits import MOST_BUNDLE_BYTES, MOST_BUNDLE_MEMBERS
from core.files.job import read_job
from core.job.house import views
from core.job.state import state_digest

FORMAT = "long-noon-signed-record"
MANIFEST, JOB, RECORD = "manifest.json", "job.noon.json", "record.pdf"
FINGER_CHARS = 16
# Zip keeps no moment of its own: the same files give the same bytes.
NO_MOMENT = (1980, 1, 1, 0, 0, 0)
DAMAGED = (
    zipfile.BadZipFile, zlib.error, KeyError, ValueError, NotImplementedError, RuntimeError,
    EOFError, OSError,
)  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Sealed:
    """A record sealed. members: SHA-256 of each file by its name; digest: over all of them."""

    data: bytes
    members: dict[str, str]
    digest: str


@dataclass(frozen=True, kw_only=True)
class Verified:
    """Whether a record is as it was signed, and a line for each thing that was looked at."""

    holds: bool
    lines: tuple[str, ...]


def seal(files: dict[str, bytes], about: dict[str, Any], secret: str) -> Sealed:
    """The files in one ZIP with what was signed about them. secret: the key, in hexadecimal."""
    key = Ed25519PrivateKey.from_private_bytes(bytes.fromhex(secret))
    members = {name: hashlib.sha256(data).hexdigest() for name, data in sorted(files.items())}
    digest = digest_of(members, about)
    manifest = {
        "format": FORMAT,
        "version": 1,
        "about": about,
        "files": members,
        "digest": digest,
        "key": key.public_key().public_bytes_raw().hex(),
        "signature": key.sign(bytes.fromhex(digest)).hex(),
    }
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        text = json.dumps(manifest, indent=1, ensure_ascii=False, sort_keys=True)
        archive.writestr(_entry(MANIFEST), text)
        for name in members:
            archive.writestr(_entry(name), files[name])
    return Sealed(data=out.getvalue(), members=members, digest=digest)


def _entry(name: str) -> zipfile.ZipInfo:
    entry = zipfile.ZipInfo(name, NO_MOMENT)
    entry.compress_type = zipfile.ZIP_DEFLATED
    return entry


def digest_of(members: dict[str, str], about: dict[str, Any]) -> str:
    """One digest over every file's and over what was signed about them."""
    said = json.dumps([sorted(members.items()), about], sort_keys=True, ensure_ascii=False)
    return hashlib.sha256(said.encode()).hexdigest()


def key_finger(key: str) -> str:
    """By what a sealing key is known again on paper."""
    return hashlib.sha256(bytes.fromhex(key)).hexdigest()[:FINGER_CHARS]


def verify(data: bytes) -> Verified:
    """Whether a sealed record is as it was signed. Never raises for what the file is."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            infos = archive.infolist()
            unpacked = sum(one.file_size for one in infos)
            if len(infos) > MOST_BUNDLE_MEMBERS or unpacked > MOST_BUNDLE_BYTES:
                return Verified(holds=False, lines=("It unpacks to more than a record has.",))
            names = archive.namelist()
            manifest = json.loads(archive.read(MANIFEST))
            files = {name: archive.read(name) for name in names if name != MANIFEST}
    except DAMAGED:
        said = "It is damaged, or no signed record: it cannot be read whole."
        return Verified(holds=False, lines=(said,))
    if len(set(names)) < len(names):
        return Verified(holds=False, lines=("A file stands in it twice.",))
    try:
        return _verified(manifest, files)
    except (KeyError, TypeError, ValueError, AttributeError):
        return Verified(holds=False, lines=("Its list of files is not as it was made.",))


def _verified(manifest: dict[str, Any], files: dict[str, bytes]) -> Verified:
    about, members = manifest["about"], manifest["files"]
    lines, wrong = [], []
    if manifest["format"] != FORMAT:
        wrong.append("It is no signed record.")
    for name in sorted({*members, *files}):
        if name not in files:
            wrong.append(f"{name} is missing.")
        elif name not in members:
            wrong.append(f"{name} was not there when it was signed.")
        elif hashlib.sha256(files[name]).hexdigest() != members[name]:
            wrong.append(f"{name} was changed after it was signed.")
        else:
            lines.append(f"{name}: as signed.")
    if digest_of(members, about) != manifest["digest"]:
        wrong.append("The digest is not over these files.")
    try:
        key = Ed25519PublicKey.from_public_bytes(bytes.fromhex(manifest["key"]))
        key.verify(bytes.fromhex(manifest["signature"]), bytes.fromhex(manifest["digest"]))
        lines.append(f"Sealed by key {key_finger(manifest['key'])}.")
    except InvalidSignature:
        wrong.append("The seal is not that of the key that it names.")
    if not wrong:
        wrong += _state(files[JOB], about)
    who = "; ".join(f"{one['name']}, {one['role']}, {one['at']}" for one in about["signed"])
    lines.insert(0, f"{about['name']}, version {about['number']}: {who}.")
    return Verified(holds=not wrong, lines=(*wrong, *lines))


def _state(job: bytes, about: dict[str, Any]) -> list[str]:
    """Whether the job in it is in the state that its signatures are of."""
    try:
        house = read_job(job)
    except Refused:
        return ["The job file in it cannot be read."]
    if state_digest(views(house)[0]) != about["state"]:
        return ["The job in it is not in the state that was signed."]
    return []
