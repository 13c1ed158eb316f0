"""Before anything else of a request: how large it says it is, and which kind of body it brings."""

from __future__ import annotations

from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse

from core.base.limits import BYTES_PER_MB, MOST_BUNDLE_BYTES
from server.platform.problems import report

Answer = Callable[[HttpRequest], HttpResponse]
FORMS = ("multipart/", "application/x-www-form-urlencoded")


class Guard:
    """Middleware that refuses what no operation takes, without reading it."""

    def __init__(self, answer: Answer) -> None:
        self.answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if settings.BEHIND_PROXY:
            # The proxy's own line is the last: what stands before it anybody may have written.
            told = request.META.get("HTTP_X_FORWARDED_FOR", "").rpartition(",")[2].strip()
            request.META["REMOTE_ADDR"] = told or request.META["REMOTE_ADDR"]
        if not request.path.startswith("/api/"):
            return self.answer(request)
        try:
            size = int(request.META.get("CONTENT_LENGTH") or 0)
        except ValueError:
            return report(400, "Not understood", "The length of this request is no number.")
        if size > MOST_BUNDLE_BYTES:
            most = MOST_BUNDLE_BYTES // BYTES_PER_MB
            said = f"This has {size // BYTES_PER_MB} MB; nothing here takes more than {most} MB."
            refused = report(413, "Too large", said)
            # What was not read must not be taken for the next request.
            refused["Connection"] = "close"
            return refused
        if size and (request.content_type or "").startswith(FORMS):
            said = "Send JSON, or a file as it is; forms are not taken."
            return report(415, "Not this kind", said)
        return self.answer(request)
