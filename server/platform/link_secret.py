"""The secret in a link that is handed to somebody: told once, kept only as its digest."""

from __future__ import annotations

import hashlib
import secrets

SECRET_BYTES = 32


def new_secret() -> str:
    """A secret that nobody guesses, as it stands in a link."""
    return secrets.token_urlsafe(SECRET_BYTES)


def digest_of(secret: str) -> str:
    """What is kept of a secret, in hexadecimal; of whatever signs somebody sends as one."""
    return hashlib.sha256(secret.encode("utf-8", "replace")).hexdigest()
