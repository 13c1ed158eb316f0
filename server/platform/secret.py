"""This installation's own key. Whoever serves makes it; to read the settings writes nothing."""

from __future__ import annotations

import os
import secrets
from pathlib import Path

FILE = "secret"
BYTES = 50
OTHERS_NOTHING = 0o077


def make_secret(folder: Path) -> None:
    """Make the key once; it and whatever this process writes is readable by its owner only.

    A file that was cut off empty is made anew.
    """
    os.umask(OTHERS_NOTHING)
    file = folder / FILE
    if not file.exists() or not file.read_text(encoding="utf-8").strip():
        folder.mkdir(parents=True, exist_ok=True)
        file.touch(mode=0o600)
        file.write_text(secrets.token_urlsafe(BYTES), encoding="utf-8")
    file.chmod(0o600)


def secret_of(folder: Path) -> str:
    """The key that was made; one for this process alone where none was."""
    file = folder / FILE
    kept = file.read_text(encoding="utf-8").strip() if file.exists() else ""
    return kept or secrets.token_urlsafe(BYTES)
