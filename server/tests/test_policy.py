"""Who may do what, as a matrix: each operation against each kind of person."""

from __future__ import annotations

import re

from django.conf import settings
from django.contrib.auth.models import AnonymousUser, User
from django.test import Client

from server.api import api
from server.people.actions import enter_licence
from server.people.policy import may_override, may_work
from server.tests.support import ApiCase

OPEN = {"get_session", "sign_in", "sign_in_demo"}


class Policy(ApiCase):
    def test_who_may_work(self) -> None:
        gone = User(username="gone", is_active=False)
        for person, may in ((self.person, True), (gone, False), (AnonymousUser(), False)):
            self.assertEqual(may_work(person), may)

    def test_who_may_lift_a_lock(self) -> None:
        enter_licence("tester", "L 1")
        licensed = User.objects.get(username="tester")
        left = User.objects.get(username="tester")
        left.is_active = False
        plain = User.objects.create_user("plain", password="long enough to do")
        people = ((licensed, True), (left, False), (plain, False), (AnonymousUser(), False))
        for person, may in people:
            self.assertEqual(may_override(person), may)

    def test_every_operation_but_the_door_is_closed_to_strangers(self) -> None:
        stranger, seen = Client(), set()
        for path, methods in api.get_openapi_schema()["paths"].items():
            url = path.replace("{job_id}", str(self.job_id)).replace("{number}", "1")
            url = url.replace("{evidence_id}", str(self.job_id))
            for method, operation in methods.items():
                name = operation["operationId"]
                seen.add(name)
                if name in OPEN:
                    continue
                call = getattr(stranger, method)
                answer = call(url) if method == "get" else call(url, "{}", "application/json")
                self.assertEqual(answer.status_code, 401, name)
        self.assertGreater(len(seen - OPEN), 10)
        self.assertLessEqual(OPEN, seen)


class Description(ApiCase):
    def test_it_can_be_browsed_from_files_that_ship_by_those_who_are_signed_in(self) -> None:
        page = self.client.get("/api/docs")
        self.assertEqual(page.status_code, 200)
        addresses = re.findall(r'(?:src|href)="([^"]+)"', page.content.decode())
        self.assertTrue(addresses)
        for address in addresses:
            self.assertTrue(address.startswith("/static/"), address)
            self.assertTrue((settings.STATIC_ROOT / address.removeprefix("/static/")).exists())
        described = self.client.get("/api/openapi.json").json()
        self.assertIn("PutRun", described["components"]["schemas"])
        self.client.logout()
        for path in ("/api/docs", "/api/openapi.json"):
            self.refused(self.client.get(path), 401)
