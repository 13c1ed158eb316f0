"""Where the installation's file lies, who holds it, and what another file of its kind holds."""

from __future__ import annotations

import fcntl
import os
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from dataclasses import dataclass
from pathlib import Path

from django.db import connections
from django.db.migrations.loader import MigrationLoader

OWNER_ONLY = 0o600
QUICK_BYTES = 64 * 1024 * 1024
# What is counted in a backup, and told of it.
COUNTED = {
    "jobs": "jobs_jobrow",
    "readings": "readings_readingrow",
    "pictures": "evidence_picturerow",
    "people": "people_member",
    "audit lines": "people_auditline",
}


class Unfit(Exception):
    """A file that cannot be served, backed up or restored. Its text says why, in a sentence."""


@dataclass(frozen=True, kw_only=True)
class Looked:
    """What a file holds. newer: migrations in it that this Long Noon does not know."""

    counts: dict[str, int]
    last_digest: str
    newer: tuple[str, ...]
    older: bool


def database_file() -> Path:
    """The installation's file."""
    return Path(str(connections["default"].settings_dict["NAME"]))


@contextmanager
def held(what: str) -> Iterator[None]:
    """Hold the installation's file for as long as it is served or replaced. Raises Unfit."""
    taken = hold(what)
    try:
        yield
    finally:
        os.close(taken)


def hold(what: str) -> int:
    """Take the installation's lock: its open file, which lets go when its process ends."""
    folder = database_file().parent
    folder.mkdir(parents=True, exist_ok=True)
    lock = os.open(folder / "serving.lock", os.O_CREAT | os.O_RDWR, OWNER_ONLY)
    try:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        os.close(lock)
        raise Unfit(
            f"Another Long Noon holds {folder}: it cannot be {what} twice at once. Stop that one."
        ) from None
    return lock


def looked_into(file: Path, *, at_leisure: bool = True) -> Looked:
    """Check a file of an installation and count what it holds. Raises Unfit.

    at_leisure: every page of it, however long that takes; else a small file quickly, and of a
    large one only that it opens.
    """
    if not file.exists():
        raise Unfit(f"There is no file {file}.")
    try:
        with closing(sqlite3.connect(f"file:{file}?mode=ro", uri=True)) as opened:
            if at_leisure or file.stat().st_size < QUICK_BYTES:
                _whole(opened, file.name, "integrity_check" if at_leisure else "quick_check")
            return _counted(opened)
    except sqlite3.Error as error:
        raise Unfit(f"{file.name} is no file of a Long Noon, or damaged: {error}.") from None


def _whole(opened: sqlite3.Connection, name: str, check: str) -> None:
    (said,) = opened.execute(f"PRAGMA {check}(5)").fetchone()
    if said != "ok":
        raise Unfit(f"{name} is damaged: {said}. Restore the last backup.")
    loose = opened.execute("PRAGMA foreign_key_check").fetchmany(3)
    if loose:
        raise Unfit(f"{name} has rows that point at nothing: {loose}.")


def _counted(opened: sqlite3.Connection) -> Looked:
    tables = {name for (name,) in opened.execute("SELECT name FROM sqlite_master")}
    if "django_migrations" not in tables:
        raise Unfit("This file is empty, or of another program.")
    applied = set(opened.execute("SELECT app, name FROM django_migrations"))
    known = set(MigrationLoader(None, ignore_no_migrations=True).disk_migrations)
    counts = {
        name: opened.execute(f"SELECT COUNT(*) FROM {table}").fetchone()[0]
        for name, table in COUNTED.items()
        if table in tables
    }
    return Looked(
        counts=counts,
        last_digest=_last_digest(opened) if "people_auditline" in tables else "",
        newer=tuple(sorted(f"{app} {name}" for app, name in applied - known)),
        older=bool(known - applied),
    )


def _last_digest(opened: sqlite3.Connection) -> str:
    columns = {row[1] for row in opened.execute("PRAGMA table_info(people_auditline)")}
    if "digest" not in columns:
        return ""
    found = opened.execute(
        "SELECT digest FROM people_auditline ORDER BY id DESC LIMIT 1"
    ).fetchone()
    return str(found[0]) if found else ""
