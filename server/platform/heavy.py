"""Work that takes much memory or a whole core: only so much of it at once on this machine.

The slots are locks on files, so that all workers of an installation share them, and a worker that
dies lets go of its own.
"""

from __future__ import annotations

import fcntl
import os
import re
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from django.conf import settings

# What a slot is called becomes a file's name.
UNSAFE = re.compile(r"[^A-Za-z0-9.-]")
SLOTS = 2
WAIT_S = 20.0
LOOK_EVERY_S = 0.05


class Busy(Exception):
    """All slots were taken for as long as one may wait."""


@contextmanager
def heavy(what: str, slots: int = SLOTS, wait_s: float = WAIT_S) -> Iterator[None]:
    """Take one of the slots for such work, waiting for it. Raises Busy."""
    folder = Path(settings.VAR) / "slots"
    folder.mkdir(parents=True, exist_ok=True)
    until = time.monotonic() + wait_s
    while True:
        for number in range(slots):
            slot = _taken(folder / f"{UNSAFE.sub('_', what)}-{number}")
            if slot is not None:
                try:
                    yield
                finally:
                    os.close(slot)
                return
        if time.monotonic() > until:
            raise Busy
        time.sleep(LOOK_EVERY_S)


def _taken(file: Path) -> int | None:
    """The open lock of a slot; None where somebody else has it."""
    opened = os.open(file, os.O_CREAT | os.O_RDWR, 0o600)
    try:
        fcntl.flock(opened, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        os.close(opened)
        return None
    return opened
