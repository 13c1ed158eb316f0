"""Backups: consistent while people work, checked, counted, encrypted if wanted, kept by count."""

from __future__ import annotations

import os
import shutil
import sqlite3
from contextlib import closing
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pyrage

from server.keeping.files import OWNER_ONLY, Looked, Unfit, database_file, held, looked_into

PAGES_A_STEP = 2000
NAME = "long-noon-{at:%Y-%m-%d-%H%M%S}.backup"
PATTERN = "long-noon-*.backup"
# What an encrypted file begins with (age, v1).
ENCRYPTED = b"age-encryption.org/v1"


@dataclass(frozen=True, kw_only=True)
class Backup:
    """A backup that was made: where, how large, what it holds."""

    file: Path
    size_bytes: int
    encrypted: bool
    looked: Looked


def back_up(target: Path, passphrase: str = "") -> Backup:
    """Copy the installation to a file as it stands at one moment. Raises Unfit.

    People go on working meanwhile. The copy is checked before it takes its name; whatever stood
    under that name stays until then.
    """
    source = database_file()
    if not source.exists():
        raise Unfit(f"There is no file {source} yet: nothing to back up.")
    target.parent.mkdir(parents=True, exist_ok=True)
    part = target.with_name(f"{target.name}.part")
    try:
        _copy(source, part)
        looked = looked_into(part)
        if passphrase:
            _encrypt(part, passphrase)
        _settled(part)
        part.replace(target)
    except OSError as error:
        raise Unfit(f"{target} cannot be written: {error.strerror}.") from None
    finally:
        part.unlink(missing_ok=True)
    return Backup(
        file=target,
        size_bytes=target.stat().st_size,
        encrypted=bool(passphrase),
        looked=looked,
    )


def restore(file: Path, passphrase: str = "", *, over_data: bool = False) -> Looked:
    """Put a backup in the installation's place. Raises Unfit; then nothing was changed.

    What stood there before is kept beside it. over_data: although it holds jobs.
    """
    source = database_file()
    with held("restored"):
        part = source.with_name(f"{source.name}.restoring")
        source.parent.mkdir(parents=True, exist_ok=True)
        try:
            _decrypted(file, part, passphrase)
            looked = looked_into(part)
            if looked.newer:
                raise Unfit(f"This backup is of a newer Long Noon: {looked.newer[0]}.")
            if source.exists() and not over_data:
                there = looked_into(source).counts.get("jobs", 0)
                if there:
                    said = (
                        f"{there} jobs are here. Say --over-data to put the backup in their place"
                    )
                    raise Unfit(f"{said}; they are kept beside it.")
            _settled(part)
            _put_aside(source)
            part.replace(source)
        finally:
            part.unlink(missing_ok=True)
    return looked


def backups(folder: Path) -> list[Path]:
    """The backups of a folder, the latest last."""
    return sorted(folder.glob(PATTERN)) if folder.is_dir() else []


def age_of_last(folder: Path) -> timedelta | None:
    """How old the last backup of a folder is; None where there is none."""
    found = backups(folder)
    if not found:
        return None
    return datetime.now(UTC) - datetime.fromtimestamp(found[-1].stat().st_mtime, UTC)


def nightly(folder: Path, count: int, passphrase: str = "") -> Backup:
    """One more backup in a folder; of all there, the last `count` are kept."""
    made = back_up(folder / NAME.format(at=datetime.now(UTC)), passphrase)
    for old in backups(folder)[:-count]:
        old.unlink()
    return made


def _copy(source: Path, target: Path) -> None:
    target.unlink(missing_ok=True)
    os.close(os.open(target, os.O_CREAT | os.O_WRONLY, OWNER_ONLY))
    try:
        with (
            closing(sqlite3.connect(f"file:{source}?mode=ro", uri=True)) as of,
            closing(sqlite3.connect(target)) as to,
        ):
            # In one transaction: what is written meanwhile begins no copy anew.
            of.execute("BEGIN")
            of.execute("SELECT COUNT(*) FROM sqlite_master").fetchone()
            of.backup(to, pages=PAGES_A_STEP)
            to.execute("PRAGMA journal_mode=DELETE")
    except sqlite3.Error as error:
        raise Unfit(f"The backup stopped: {error}.") from None


def _encrypt(file: Path, passphrase: str) -> None:
    sealed = pyrage.passphrase.encrypt(file.read_bytes(), passphrase)
    file.write_bytes(sealed)


def _decrypted(file: Path, target: Path, passphrase: str) -> None:
    try:
        with file.open("rb") as opened:
            is_sealed = opened.read(len(ENCRYPTED)) == ENCRYPTED
    except OSError as error:
        raise Unfit(f"{file} cannot be read: {error.strerror}.") from None
    target.unlink(missing_ok=True)
    if not is_sealed:
        shutil.copyfile(file, target)
    elif not passphrase:
        raise Unfit(f"{file.name} is encrypted: give its passphrase in LONG_NOON_PASSPHRASE.")
    else:
        try:
            target.write_bytes(pyrage.passphrase.decrypt(file.read_bytes(), passphrase))
        except pyrage.DecryptError:
            raise Unfit(f"The passphrase does not open {file.name}, or it is damaged.") from None
    target.chmod(OWNER_ONLY)


def _settled(file: Path) -> None:
    """The bytes are on the disk before the name is."""
    with file.open("rb") as opened:
        os.fsync(opened.fileno())


def _put_aside(source: Path) -> None:
    """The file that stood there, and what of it stands in its log, under another name."""
    if not source.exists():
        return
    with closing(sqlite3.connect(source)) as opened:
        opened.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    stamp = f"{datetime.now(UTC):%Y-%m-%d-%H%M%S}"
    source.rename(source.with_name(f"{source.stem}-before-{stamp}{source.suffix}"))
    for more in ("-wal", "-shm"):
        source.with_name(source.name + more).unlink(missing_ok=True)
