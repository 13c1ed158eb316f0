"""What is looked at before the installation is served: each fault a plain sentence."""

from __future__ import annotations

import contextlib
import os
import shutil
import sqlite3
from contextlib import closing
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path

from django.conf import settings

from server.keeping.backup import age_of_last
from server.keeping.files import OWNER_ONLY, Unfit, database_file, looked_into

LEAST_FREE_BYTES = 200 * 1024 * 1024
CLOCK_DOUBT = timedelta(minutes=10)
OLD_BACKUP = timedelta(days=2)
# The audit is only ever added to: its last line is the latest.
LAST_KEPT = "SELECT at FROM people_auditline ORDER BY id DESC LIMIT 1"


@dataclass(frozen=True, kw_only=True)
class Start:
    """How the installation stands. notes: to be read and gone past; read_only: nothing is kept."""

    notes: tuple[str, ...]
    read_only: bool
    older: bool


def looked_at_start() -> Start:
    """Look at the file, its folder, the disk, the clock and the last backup.

    Raises Unfit where serving would do harm.
    """
    file = database_file()
    folder = file.parent
    folder.mkdir(parents=True, exist_ok=True)
    _owners_only(file)
    notes: list[str] = []
    read_only = _is_read_only(file)
    if read_only:
        notes.append(f"{file} cannot be written: what is there can be read, nothing can be kept.")
    if _is_nearly_full(folder):
        notes.append(f"The disk under {folder} is nearly full: make room before it is full.")
    older = True
    if file.exists() and file.stat().st_size:
        looked = looked_into(file, at_leisure=False)
        if looked.newer:
            raise Unfit(
                f"{file} was kept by a newer Long Noon ({looked.newer[0]}). Serve it with that "
                "one, or restore a backup from before."
            )
        older = looked.older
        notes += _clock(file)
        notes.append(_backup())
    return Start(notes=tuple(notes), read_only=read_only, older=older)


def told_at_work() -> tuple[str, ...]:
    """What those at work should know of the machine that keeps their jobs; its folders stay out."""
    file = database_file()
    notes: list[str] = []
    if _is_read_only(file):
        notes.append("What is kept can be read, nothing new can be kept: the file is read-only.")
    if _is_nearly_full(file.parent):
        notes.append("The disk that keeps these jobs is nearly full: soon nothing can be kept.")
    notes += _clock(file)
    age = age_of_last(settings.BACKUPS)
    if age is not None and age >= OLD_BACKUP:
        notes.append(f"The last backup is {age.days} days old: every night there should be one.")
    return tuple(notes)


def _is_read_only(file: Path) -> bool:
    return not os.access(file.parent, os.W_OK) or (file.exists() and not os.access(file, os.W_OK))


def _is_nearly_full(folder: Path) -> bool:
    return shutil.disk_usage(folder).free < LEAST_FREE_BYTES


def _owners_only(file: Path) -> None:
    """Nobody else of this machine reads what is kept."""
    for one in (file, file.with_name(f"{file.name}-wal"), file.with_name(f"{file.name}-shm")):
        with contextlib.suppress(OSError):
            one.chmod(OWNER_ONLY)


def _clock(file: Path) -> list[str]:
    """A clock that stands before the last thing that was kept is wrong, or was."""
    try:
        with closing(sqlite3.connect(f"file:{file}?mode=ro", uri=True)) as opened:
            found = opened.execute(LAST_KEPT).fetchone()
    except sqlite3.Error:
        return []
    if not found or not found[0]:
        return []
    last = datetime.fromisoformat(found[0]).replace(tzinfo=UTC)
    now = datetime.now(UTC)
    if now + CLOCK_DOUBT >= last:
        return []
    said = f"This machine's clock says {now:%Y-%m-%d %H:%M}, but something was kept at"
    return [f"{said} {last:%Y-%m-%d %H:%M} UTC: set the clock before anybody reads anything."]


def _backup() -> str:
    age = age_of_last(settings.BACKUPS)
    if age is None:
        return f"There is no backup yet in {settings.BACKUPS}: ./noon backup FILE makes one."
    hours = int(age.total_seconds() // 3600)
    told = f"{hours} hours" if age < OLD_BACKUP else f"{age.days} days"
    return f"The last backup is {told} old, in {settings.BACKUPS}."
