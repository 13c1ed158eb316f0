"""Every error as application/problem+json: what was wrong, where, what is allowed."""

from __future__ import annotations

import logging
from dataclasses import asdict, dataclass

from django.core.exceptions import RequestDataTooBig
from django.db import DatabaseError
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError

from core.base.errors import Problem, Refused, problem
from server.platform.heavy import Busy

KEPT = "Nothing was changed; what stood before is kept."


@dataclass(frozen=True, kw_only=True)
class ProblemReport:
    """The body of every error."""

    title: str
    status: int
    detail: str
    kept: str
    problems: tuple[Problem, ...]


# With which every operation may answer with a report instead of what was asked.
ERROR_STATUSES = (400, 401, 403, 404, 409, 413, 415, 422, 429, 500, 503)


# What SQLite says when it cannot write, and what that means to who stands before the screen.
STORAGE = (
    (
        "disk is full",
        "The server's disk is full: nothing more can be kept until room is made.",
    ),
    ("readonly database", "The server's file cannot be written: what is there can still be read."),
    ("disk I/O error", "The server's disk failed while reading or writing. Nothing was changed."),
    ("database is locked", "The server's file is held by another program. Try again in a moment."),
    ("malformed", "The server's file is damaged: restore the last backup before going on."),
)
# What the reader of bodies calls a field that is missing, and one that is not known.
NOT_GIVEN = {"missing": "this field is missing", "extra_forbidden": "this field is not known"}
log = logging.getLogger("django.request")


class Conflict(Exception):
    """Somebody else changed the job in between, or it is here already."""


class TooMany(Exception):
    """Too many wrong tries: who tries waits."""


class Forbidden(Exception):
    """This person may not do this. Its text: who may."""


class TooLarge(Exception):
    """The body is larger than any job."""


class Unread(Exception):
    """What the core did not understand of a body; carries what it says of each field."""

    def __init__(self, problems: tuple[Problem, ...]) -> None:
        self.problems = problems
        super().__init__()


def report(
    status: int, title: str, detail: str, problems: tuple[Problem, ...] = ()
) -> HttpResponse:
    """A problem response."""
    body = ProblemReport(title=title, status=status, detail=detail, kept=KEPT, problems=problems)
    return JsonResponse(asdict(body), status=status, content_type="application/problem+json")


def install(api: NinjaAPI) -> None:
    """Turn every exception that a request can cause into a problem response."""

    @api.exception_handler(Refused)
    @api.exception_handler(Unread)
    def refused(request: HttpRequest, error: Refused | Unread) -> HttpResponse:
        detail = " ".join(found.message for found in error.problems[:3])
        return report(422, "Not accepted", detail, error.problems)

    @api.exception_handler(ValidationError)
    def invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        found = tuple(_from_validation(item) for item in error.errors)
        return report(422, "Not accepted", " ".join(p.message for p in found[:3]), found)

    @api.exception_handler(Conflict)
    def conflict(request: HttpRequest, error: Conflict) -> HttpResponse:
        return report(409, "Changed elsewhere", str(error))

    @api.exception_handler(Http404)
    def missing(request: HttpRequest, error: Http404) -> HttpResponse:
        return report(404, "Not here", "There is no such job here, or it is not yours to see.")

    @api.exception_handler(AuthenticationError)
    def unknown(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return report(401, "Sign in", "Sign in to go on.")

    @api.exception_handler(TooMany)
    def too_many(request: HttpRequest, error: TooMany) -> HttpResponse:
        said = "Too many wrong tries. Wait ten minutes, or have the crew's owner send a new link."
        return report(429, "Wait", said)

    @api.exception_handler(Forbidden)
    def forbidden(request: HttpRequest, error: Forbidden) -> HttpResponse:
        who = f" Ask {error}." if str(error) else ""
        return report(403, "Not yours to do", f"Your role does not do this here.{who}")

    @api.exception_handler(TooLarge)
    @api.exception_handler(RequestDataTooBig)
    def too_large(request: HttpRequest, error: Exception) -> HttpResponse:
        return report(413, "Too large", str(error) or "This is larger than anything asked for.")

    @api.exception_handler(Busy)
    def busy(request: HttpRequest, error: Busy) -> HttpResponse:
        said = "Much is being worked on here just now. Try again in a moment."
        return report(503, "Busy", said)

    @api.exception_handler(DatabaseError)
    def stored(request: HttpRequest, error: DatabaseError) -> HttpResponse:
        log.exception("%s %s", request.method, request.path)
        said = next((said for signs, said in STORAGE if signs in str(error)), "")
        if said:
            return report(503, "Not stored", said)
        return failed(request, error)

    @api.exception_handler(Exception)
    def failed(request: HttpRequest, error: Exception) -> HttpResponse:
        log.exception("%s %s", request.method, request.path)
        said = "Long Noon itself failed at this; it is written down for whoever runs it."
        return report(500, "A fault here", said)

    @api.exception_handler(HttpError)
    def other(request: HttpRequest, error: HttpError) -> HttpResponse:
        return report(error.status_code, "Not possible", str(error))


def _from_validation(item: dict[str, object]) -> Problem:
    where = item.get("loc")
    path = "$." + ".".join(str(part) for part in where[2:]) if isinstance(where, tuple) else "$"
    if said := NOT_GIVEN.get(str(item.get("type"))):
        return problem(path, "", str(item.get("msg", "")), f"{path}: {said}.")
    return problem(path, item.get("input", ""), str(item.get("msg", "")))
