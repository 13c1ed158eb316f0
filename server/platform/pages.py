"""The one page: the built front end, with the cookie that its writes need."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie

# The reader of labels is a WebAssembly module that ships with the app.
CONTENT_POLICY = (
    "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self' 'unsafe-inline'; "
    "img-src 'self' data:; "
    "frame-ancestors 'none'; base-uri 'self'; form-action 'self'"
)


@never_cache
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The front end's index page."""
    text = (settings.WEB_DIST / "index.html").read_text(encoding="utf-8")
    return HttpResponse(text, headers={"Content-Security-Policy": CONTENT_POLICY})
