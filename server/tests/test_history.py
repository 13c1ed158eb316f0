"""Undoing one's own changes of a plan, and the history of it."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User

from server.people.models import Member
from server.tests.support import ApiCase

ALTITUDE = "$.site.altitude_m"


class History(ApiCase):
    def undo(self, of: int | None = None) -> Any:
        return self.post("/undo", {"revision": self.get()["revision"], "of": of})

    def altitude_m(self) -> float:
        return float(self.get()["plan"]["site"]["altitude_m"])

    def other(self) -> None:
        person = User.objects.create_user("Bo")
        Member.objects.create(person=person, crew=self.crew, role="installer")
        self.client.force_login(person)

    def test_ones_own_last_changes_go_back_one_by_one_and_come_again(self) -> None:
        first = self.altitude_m()
        for entered in ("61 m", "62 m"):
            self.change(ALTITUDE, entered)
        self.assertEqual(self.undo().status_code, 200)
        self.assertEqual(self.altitude_m(), 61)
        self.undo()
        self.assertEqual(self.altitude_m(), first)
        self.refused(self.undo())
        newest, *_, oldest = self.client.get(f"/api/jobs/{self.job_id}/history").json()
        self.assertEqual((newest["undoes"], oldest["undone"]), (oldest["revision"], True))
        self.assertEqual(oldest["told"][0]["what"], "altitude")
        self.assertEqual(oldest["told"][0]["made"], "61\u00a0m")
        # What was undone is made again by undoing that.
        self.assertEqual(self.undo(of=newest["revision"]).status_code, 200)
        self.assertEqual(self.altitude_m(), 61)

    def test_what_another_did_since_stays_and_is_not_undone(self) -> None:
        self.change(ALTITUDE, "61 m")
        self.change("$.name", "Mill")
        self.other()
        self.refused(self.undo())
        self.change(ALTITUDE, "75 m")
        self.client.force_login(self.person)
        self.undo()
        said = self.refused(self.undo())
        self.assertIn("altitude was changed again", said["detail"])
        self.assertEqual(self.altitude_m(), 75)
        self.refused(self.post("/undo", {"revision": 1}), 409)
