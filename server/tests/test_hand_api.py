"""A job taken along judges as the server does, and what was done there is done here once."""

from __future__ import annotations

import json
from datetime import UTC, datetime
from typing import Any
from uuid import UUID, uuid4

from django.contrib.auth.models import User

from core.files.job import read_job
from core.hand.answer import answer
from core.tests.told import after
from core.version import core_version
from server.demo.load import JOBS_DIR
from server.jobs.models import PressRow
from server.people.models import AuditLine, Member
from server.readings.models import ReadingRow
from server.tests.support import ApiCase

BRIEFLY = {"Prefer": "return=minimal"}


class InTheHand(ApiCase):
    """A device with the core, told through the one door that the browser has.

    shown: what its screen has, of all that it was told.
    """

    shown: Any = None

    def ask(self, do: str, **more: Any) -> Any:
        at = datetime.now(UTC).isoformat()
        asked = {"do": do, "job": str(self.job_id), "at": at} | more
        told = json.loads(answer(json.dumps(asked)))
        if "changes" in told:
            self.shown = after(self.shown, told["changes"])
        return told

    def given(self) -> Any:
        return self.client.get(f"/api/jobs/{self.job_id}/hand").json()

    def take_along(self, waiting: tuple[Any, ...] = ()) -> Any:
        self.shown = None
        return self.ask("open", given=self.given(), waiting=list(waiting))

    def press(self, **what: Any) -> dict[str, Any]:
        return {"id": str(uuid4()), "at": datetime.now(UTC).isoformat(), **what}

    def brief(self, path: str, **body: Any) -> Any:
        return self.client.post(
            f"/api/jobs/{self.job_id}/{path}",
            json.dumps(body),
            content_type="application/json",
            headers=BRIEFLY,
        )

    def change(self, press: dict[str, Any], revision: int) -> Any:
        return self.brief("changes", revision=revision, id=press["id"], changes=press["changes"])

    def agreed(self, press: dict[str, Any], told: Any) -> None:
        """The device and the server say the same of the job after a press, to the last digit."""
        self.assertEqual(told.status_code, 201, told.content[:300])
        there = told.json()
        here = self.ask(
            "confirm", id=press["id"], reading=there["reading"], at=there["at"], compare=True
        )
        self.assertEqual(here["digest"], there["digest"])
        self.assertEqual((here["count"], here["revision"]), (there["count"], there["revision"]))
        self.assertLess(len(told.content), 2_000)


class Hand(InTheHand):
    def test_every_demo_job_is_judged_the_same_after_readings_and_changes(self) -> None:
        for file in sorted(JOBS_DIR.glob("*.json")):
            house = read_job(file.read_bytes())
            self.store(house)
            for job_id in (house.id, *(one.id for one in house.stations)):
                self.job_id = UUID(job_id)
                with self.subTest(job=house.name, of=job_id):
                    self.take_along()
                    asks = [a for a in self.shown["assessment"]["asks"] if not a["is_text"]][::9]
                    for ask in asks:
                        self._read(ask)
                    self._change("$.site.altitude_m", "61 m")

    def _read(self, ask: Any) -> None:
        entered = "1" if ask["answers"] else "1.5"
        reading = {"kind": ask["kind"], "subject": ask["subject"], "entered": entered}
        press = self.press(reading=reading)
        if "refused" in self.ask("press", press=press):
            return
        now = datetime.now(UTC).isoformat()
        told = self.brief("readings", id=press["id"], noted_at=press["at"], sent_at=now, **reading)
        self.agreed(press, told)

    def _change(self, path: str, entered: str) -> None:
        press = self.press(changes=[{"path": path, "entered": entered}])
        revision = self.ask("press", press=press)["revision"]
        self.agreed(press, self.change(press, revision))

    def test_what_waits_is_there_again_after_the_page_was_closed(self) -> None:
        self.take_along()
        press = self.press(changes=[{"path": "$.site.altitude_m", "entered": "61 m"}])
        self.ask("press", press=press)
        self.take_along(waiting=(press,))
        self.assertEqual(self.shown["plan"]["site"]["altitude_m"], 61)

    def test_a_change_sent_again_is_made_once_and_another_under_its_identity_is_refused(
        self,
    ) -> None:
        press = self.press(changes=[{"path": "$.site.altitude_m", "entered": "61 m"}])
        for _ in range(3):
            self.assertEqual(self.change(press, 1).json()["revision"], 2)
        other = press | {"changes": [{"path": "$.site.altitude_m", "entered": "62 m"}]}
        self.refused(self.change(other, 2), 409)
        self.assertEqual(PressRow.objects.count(), 1)

    def test_what_was_changed_meanwhile_is_met_and_the_rest_goes_on(self) -> None:
        self.take_along()
        apart = self.press(changes=[{"path": "$.name", "entered": "Mine"}])
        met = self.press(changes=[{"path": "$.site.altitude_m", "entered": "61 m"}])
        for press in (apart, met):
            self.ask("press", press=press)
        theirs = self.press(changes=[{"path": "$.site.altitude_m", "entered": "75 m"}])
        self.change(theirs, 1)
        moved = self.ask("rebase", given=self.given(), waiting=[apart["id"], met["id"]])
        (contest,) = moved["contests"]
        self.assertEqual(contest["id"], met["id"])
        self.assertEqual(
            contest["met"],
            [
                {
                    "path": "$.site.altitude_m",
                    "what": "altitude",
                    "mine": "61\u00a0m",
                    "theirs": "75\u00a0m",
                }
            ],
        )
        self.assertTrue(contest["mine"] and contest["theirs"])
        self.assertEqual(self.shown["plan"]["site"]["altitude_m"], 75)
        self.agreed(apart, self.change(apart, moved["revision"]))

    def test_what_arrived_though_its_answer_was_lost_is_nobody_elses_change(self) -> None:
        self.take_along()
        presses = [
            self.press(changes=[{"path": "$.site.altitude_m", "entered": entered}])
            for entered in ("61 m", "62 m")
        ]
        for press in presses:
            self.ask("press", press=press)
        self.change(presses[0], 1)
        moved = self.ask("rebase", given=self.given(), waiting=[one["id"] for one in presses])
        self.assertEqual(moved["contests"], [])
        self.assertEqual(self.shown["plan"]["site"]["altitude_m"], 62)
        self.agreed(presses[1], self.change(presses[1], moved["revision"]))

    def test_switching_and_the_operators_letter_wait_for_the_server(self) -> None:
        self.take_along()
        switch = {"kind": "branch_on", "subject": "B1", "entered": "1"}
        for what in ({"reading": switch}, {"edit": {"do": "put_letter", "values": []}}):
            self.assertIn("refused", self.ask("press", press=self.press(**what)))
        self.assertEqual(ReadingRow.of(self.job_id).count(), 0)

    def test_of_two_peoples_corrections_neither_counts_until_one_is_chosen(self) -> None:
        first = self.irradiance("700")
        self.brief("readings", id=first["id"], **first["reading"])
        self.take_along()
        mine = self.irradiance("710", supersedes=first["id"])
        self.ask("press", press=mine)
        self.assertEqual(self.ask_of("irradiance/East")["reading"]["value"], 710)
        Member.objects.create(
            person=(other := User.objects.create_user("Bo")), crew=self.crew, role="installer"
        )
        self.client.force_login(other)
        theirs = self.irradiance("650", supersedes=first["id"])
        self.brief("readings", id=theirs["id"], **theirs["reading"])
        self.client.force_login(self.person)
        for _ in range(2):
            told = self.brief("readings", id=mine["id"], **mine["reading"])
            self.assertEqual(told.status_code, 201, told.content)
        kept = told.json()["reading"]
        self.assertEqual((kept["supersedes"], kept["unseen"]), (theirs["id"], True))
        self.ask("rebase", given=self.given(), waiting=[])
        met = self.ask_of("irradiance/East")
        self.assertEqual((met["verdict"], met["reading"]), ("waiting", None))
        self.assertIn("650", json.dumps(met["judgements"]))
        (other_one, own), chosen = met["choices"], self.irradiance("")
        chosen["reading"] |= {one: other_one[one] for one in ("entered", "supersedes")}
        self.assertEqual(own["reading"]["value"], 710)
        self.ask("press", press=chosen)
        self.agreed(chosen, self.brief("readings", id=chosen["id"], **chosen["reading"]))
        met = self.ask_of("irradiance/East")
        self.assertEqual((met["choices"], met["reading"]["value"]), ([], 650))
        self.assertEqual(len(met["history"]), 4)

    def irradiance(self, entered: str, **more: Any) -> dict[str, Any]:
        what = {"kind": "irradiance", "subject": "East", "entered": entered}
        return self.press(reading=what | more)

    def ask_of(self, key: str) -> Any:
        asks = self.shown["assessment"]["asks"]
        return next(one for one in asks if one["key"] == key)

    def test_the_clear_sky_figure_is_there_without_signal_and_agreed_on(self) -> None:
        self.take_along()
        noon = f"{self.shown['assessment']['day']}T12:07:00+00:00"
        press = self.press(clear_sky={"plane": "East", "at": noon})
        self.ask("press", press=press)
        here = self.ask_of("irradiance/East")["reading"]["value"]
        for _ in range(2):
            told = self.brief("readings/clear-sky", id=press["id"], **press["clear_sky"])
        self.agreed(press, told)
        self.assertAlmostEqual(told.json()["reading"]["value"], here, delta=1)
        self.assertEqual(ReadingRow.of(self.job_id).count(), 1)
        other = press["clear_sky"] | {"plane": "West"}
        self.refused(self.brief("readings/clear-sky", id=press["id"], **other), 409)
        far = self.press(clear_sky={"plane": "East", "at": "2031-06-21T12:00:00+00:00"})
        self.assertIn("refused", self.ask("press", press=far))
        self.assertIsNotNone(self.ask("sun")["sun"])

    def test_judged_apart_is_written_down(self) -> None:
        body = {"core": core_version(), "here": "0" * 64, "there": "1" * 64}
        with self.assertLogs("long_noon.hand", "ERROR"):
            self.assertEqual(self.brief("apart", **body).status_code, 204)
        self.assertTrue(AuditLine.objects.filter(what="judged apart on a device").exists())

    def test_the_crews_own_sheets_are_taken_along(self) -> None:
        self.assertEqual(self.given()["sheets"], {})
        self.assertEqual(self.given()["core"], core_version())
