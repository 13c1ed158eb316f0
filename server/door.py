"""The one door of the API: who is signed in, may do this, and whose job it is."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import cached_property
from typing import Any
from uuid import UUID

from django.http import Http404, HttpRequest
from ninja.security import SessionAuth

from server.jobs.models import JobRow
from server.people.audit import audit, shown_name
from server.people.models import Member
from server.people.policy import OPERATIONS, Doing, member_may, member_of, of_crew, who_may
from server.platform.description import DescribedApi
from server.platform.problems import Forbidden

# What Django calls <uuid:job_id> the description calls {job_id}.
CONVERTER = re.compile(r"<(?:\w+:)?(\w+)>")
# What leaves this machine, or looks into its audit, is written down.
WRITTEN_DOWN: frozenset[Doing] = frozenset(("export", "audit"))


class Door(SessionAuth):
    """Lets a member of a crew through to what their role may, and to their own crew's jobs."""

    def __init__(self, api: Callable[[], DescribedApi]) -> None:
        super().__init__()
        self.operations = Operations(api)

    def authenticate(self, request: HttpRequest, key: str | None) -> Any:
        member = member_of(request.user)
        if member is None:
            return None
        operation = self.operations.of(request)
        doing = OPERATIONS.get(operation)
        if doing is None or not member_may(member, doing):
            others = () if doing is None else who_may(member.crew, doing)
            raise Forbidden(", ".join(shown_name(one.person) for one in others[:3]))
        job_id = request.resolver_match.kwargs.get("job_id") if request.resolver_match else None
        if job_id is not None and not self._is_theirs(member, job_id):
            raise Http404
        if doing in WRITTEN_DOWN:
            audit(member.person, job_id, "looked into" if doing == "audit" else "taken out",
                  operation.removeprefix("get_"))  # fmt: skip
        return member.person

    @staticmethod
    def _is_theirs(member: Member, job_id: UUID) -> bool:
        return of_crew(member.person, JobRow.objects.filter(id=job_id)).exists()


class Operations:
    """Every operation of an API by its path and method, as its description has them."""

    def __init__(self, api: Callable[[], DescribedApi]) -> None:
        self.api = api

    @cached_property
    def by_path(self) -> dict[tuple[str, str], str]:
        """The names of all operations."""
        return self.api().operation_names()

    def of(self, request: HttpRequest) -> str:
        """The name of the operation that a request asks for; empty where there is none."""
        route = request.resolver_match.route if request.resolver_match else ""
        path = CONVERTER.sub(r"{\1}", route).strip("/")
        return self.by_path.get((path, request.method or ""), "")
