"""This installation's own key. Whoever serves makes it; to read the settings writes nothing."""

from __future__ import annotations

import secrets
from pathlib import Path

FILE = "secret"
BYTES = 50


def make_secret(folder: Path) -> None:
    """Make the key once, readable by its owner only."""
    file = folder / FILE
    if not file.exists():
        folder.mkdir(parents=True, exist_ok=True)
        file.touch(mode=0o600)
        file.write_text(secrets.token_urlsafe(BYTES), encoding="utf-8")


def secret_of(folder: Path) -> str:
    """The key that was made; one for this process alone where none was."""
    file = folder / FILE
    return file.read_text(encoding="utf-8") if file.exists() else secrets.token_urlsafe(BYTES)
