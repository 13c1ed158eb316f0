"""Bodies and files over HTTP."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse

from core.base.limits import BYTES_PER_MB
from server.platform.problems import TooLarge

DRAIN_BYTES = 1024 * 1024
MOST_DRAINED = 64 * BYTES_PER_MB


def body_up_to(request: HttpRequest, most_bytes: int, what: str) -> bytes:
    """The body up to the limit; a larger one is read to its end so that the answer arrives.

    Raises TooLarge.
    """
    raw: bytes = request.read(most_bytes + 1)
    drained = len(raw)
    while len(raw) > most_bytes and drained < MOST_DRAINED:
        part = request.read(DRAIN_BYTES)
        if not part:
            break
        drained += len(part)
    if len(raw) > most_bytes:
        size, allowed = drained / BYTES_PER_MB, most_bytes // BYTES_PER_MB
        raise TooLarge(f"This file has {size:.0f} MB; {what} has at most {allowed} MB.")
    return raw


def download(data: bytes, kind: str, name: str) -> HttpResponse:
    """A file to keep, under a name that every system takes."""
    response = HttpResponse(data, content_type=kind)
    safe = "".join(c if c.isascii() and (c.isalnum() or c in ".-") else "-" for c in name)
    response["Content-Disposition"] = f'attachment; filename="{safe}"'
    return response
