"""The one page: the built front end, with the cookie that its writes need."""

from __future__ import annotations

import json
import re
from functools import lru_cache
from pathlib import Path
from typing import Any

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
OF_A_JOB = re.compile(r"^/jobs/(?P<job>[0-9a-f-]{36})/(?P<stage>[a-z]+)$")
WORDS = "src/words/en.json"
HEAD_ENDS = "</head>"


@never_cache
def service_worker(request: HttpRequest) -> HttpResponse:
    """What lays the app down on a device; it stands at the root, for all pages are its own."""
    text = (settings.WEB_DIST / "sw.js").read_text(encoding="utf-8")
    return HttpResponse(text, content_type="text/javascript")


@never_cache
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The front end's index page, told what else it will ask for: on a thin line each question
    that waits for the answer before it costs half a second."""
    text = (settings.WEB_DIST / "index.html").read_text(encoding="utf-8")
    ahead = "".join(_ahead(request))
    told = text.replace(HEAD_ENDS, f"{ahead}{HEAD_ENDS}", 1)
    return HttpResponse(told, headers={"Content-Security-Policy": CONTENT_POLICY})


def _ahead(request: HttpRequest) -> list[str]:
    """The links of what the page at this address asks for first."""
    asked = ["/api/session", *_words_of(settings.WEB_DIST)]
    files: tuple[str, ...] = ()
    if (found := OF_A_JOB.match(request.path)) is not None:
        files = _files_of(settings.WEB_DIST, found["stage"])
        if request.user.is_authenticated:
            asked.append(f"/api/jobs/{found['job']}")
    fetched = '<link rel="preload" as="fetch" crossorigin="anonymous" href="{}">'
    script = '<link rel="modulepreload" crossorigin href="/static/{}">'
    return [*map(fetched.format, asked), *map(script.format, files)]


@lru_cache(maxsize=1)
def _listed(built: Path) -> dict[str, Any]:
    """The files of the build, as it lists them."""
    listed: dict[str, Any] = json.loads((built / "files.json").read_text(encoding="utf-8"))
    return listed


def _words_of(built: Path) -> list[str]:
    """The file of words that every screen waits for."""
    words = _listed(built).get(WORDS)
    return [] if words is None else [f"/static/{words['file']}"]


@lru_cache(maxsize=16)
def _files_of(built: Path, stage: str) -> tuple[str, ...]:
    """The scripts that a stage's screen comes with, as the build lists them."""
    every = _listed(built)
    screen = f"src/stages/{stage}/{stage.title()}Stage.tsx"
    found: dict[str, None] = {}

    def take(name: str) -> None:
        one = every.get(name)
        if one is None or one.get("isEntry") or one["file"] in found:
            return
        found[one["file"]] = None
        for other in one.get("imports", ()):
            take(other)

    take(screen)
    return tuple(found)
