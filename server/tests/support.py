"""A signed-in person, a stored job and short calls of the API."""

from __future__ import annotations

import json
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.http import HttpResponse
from django.test import TestCase

from core.files.job import write_job
from core.job.job import Job
from core.tests.samples import sample_job
from server.jobs import actions
from server.people.membership import found_crew
from server.people.models import Member


class ApiCase(TestCase):
    """A test with one person signed in and one job of the sample kind."""

    person: User
    job_id: UUID

    def setUp(self) -> None:
        self.person = User.objects.create_user("tester", password="long enough to do")
        self.crew = found_crew("Testers")
        Member.objects.create(person=self.person, crew=self.crew, role="owner")
        self.client.force_login(self.person)
        self.job_id = self.store(sample_job())

    def store(self, job: Job) -> UUID:
        return actions.take_in(self.person, write_job(job).encode(), as_copy=False)

    def get(self, path: str = "") -> Any:
        """An answer; the moment that a job was asked about is no part of what it is."""
        answer = self.client.get(f"/api/jobs/{self.job_id}{path}").json()
        if isinstance(answer, dict) and "assessment" in answer:
            del answer["assessment"]["at"]
        return answer

    def post(self, path: str, body: object) -> HttpResponse:
        url = path if path.startswith("/api") else f"/api/jobs/{self.job_id}{path}"
        response: HttpResponse = self.client.post(url, json.dumps(body), "application/json")
        return response

    def change(self, path: str, entered: str) -> HttpResponse:
        body = {"revision": self.get()["revision"], "changes": [{"path": path, "entered": entered}]}
        return self.post("/changes", body)

    def read(self, kind: str, subject: str, entered: str, **more: object) -> HttpResponse:
        return self.post("/readings", {"kind": kind, "subject": subject, "entered": entered} | more)

    def refused(self, response: HttpResponse, status: int = 422) -> dict[str, Any]:
        self.assertEqual(response.status_code, status, response.content[:300])
        self.assertEqual(response["Content-Type"], "application/problem+json")
        report: dict[str, Any] = json.loads(response.content)
        self.assertTrue(report["detail"])
        return report

    def edit(self, edit: dict[str, Any]) -> HttpResponse:
        return self.post("/edits", {"revision": self.get()["revision"], "edit": edit})

    def done(self, edit: dict[str, Any]) -> dict[str, Any]:
        answer = self.edit(edit)
        self.assertEqual(answer.status_code, 200, answer.content[:400])
        view: dict[str, Any] = json.loads(answer.content)
        return view
