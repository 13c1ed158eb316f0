"""Several people at once on one job: no reading is lost, no change is overwritten."""

from __future__ import annotations

import json
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace

from django.contrib.auth.models import User
from django.db import connection
from django.test import Client, TransactionTestCase

from core.equipment import catalogue
from core.equipment.catalogue_csv import flat
from core.files.job import write_job
from core.tests.samples import sample_job
from server.catalogue.models import SheetRow
from server.jobs import actions
from server.jobs.models import JobRow
from server.people.membership import found_crew
from server.people.models import AuditLine, Member
from server.readings.models import ReadingRow

PEOPLE, READINGS_EACH = 6, 8


class ManyHands(TransactionTestCase):
    def setUp(self) -> None:
        people = [User.objects.create(username=f"hand{i}") for i in range(PEOPLE)]
        crew = found_crew("Hands")
        for person in people:
            Member.objects.create(person=person, crew=crew, role="owner")
        raw = write_job(sample_job()).encode()
        self.job_id = actions.take_in(people[0], raw, as_copy=False)
        self.clients = [Client() for _ in people]
        for client, person in zip(self.clients, people, strict=True):
            client.force_login(person)

    def post(self, client: Client, path: str, body: object) -> int:
        try:
            url = f"/api/jobs/{self.job_id}{path}"
            return client.post(url, json.dumps(body), "application/json").status_code
        finally:
            connection.close()

    def test_every_reading_is_kept(self) -> None:
        def read_some(number: int) -> list[int]:
            volts = [f"{230 + number}.{i}" for i in range(READINGS_EACH)]
            return [
                self.post(
                    self.clients[number],
                    "/readings",
                    {"kind": "supply_voltage", "subject": "L-N", "entered": v},
                )
                for v in volts
            ]

        with ThreadPoolExecutor(PEOPLE) as pool:
            answers = [status for some in pool.map(read_some, range(PEOPLE)) for status in some]
        self.assertEqual(answers, [200] * PEOPLE * READINGS_EACH)
        self.assertEqual(ReadingRow.objects.count(), PEOPLE * READINGS_EACH)
        kept = AuditLine.objects.filter(what="reading kept")
        self.assertEqual(kept.count(), PEOPLE * READINGS_EACH)

    def test_of_changes_to_one_revision_exactly_one_is_made(self) -> None:
        def change(number: int) -> int:
            changes = [{"path": "$.site.altitude_m", "entered": str(10 + number)}]
            return self.post(self.clients[number], "/changes", {"revision": 1, "changes": changes})

        with ThreadPoolExecutor(PEOPLE) as pool:
            answers = sorted(pool.map(change, range(PEOPLE)))
        self.assertEqual(answers, [200] + [409] * (PEOPLE - 1))
        self.assertEqual(JobRow.objects.get().revision, 2)

    def test_sheets_kept_at_once_are_all_kept(self) -> None:
        def keep(number: int) -> int:
            cells = flat(replace(catalogue.module("ostrel-430"), id=f"m{number}"))
            body = {"cells": [{"name": name, "text": text} for name, text in cells.items()]}
            try:
                answer = self.clients[number].post(
                    "/api/shelf/modules", json.dumps(body), "application/json"
                )
                return answer.status_code
            finally:
                connection.close()

        with ThreadPoolExecutor(PEOPLE) as pool:
            self.assertEqual(list(pool.map(keep, range(PEOPLE))), [200] * PEOPLE)
        self.assertEqual(SheetRow.objects.count(), PEOPLE)
