"""Killed at any moment: what was acknowledged is there, and nothing is half there.

A child process works and says what it was told; it is killed after a random time, again and again.
Six times at every run; thousands under ``./noon test --nightly``.
"""

from __future__ import annotations

import json
import os
import random
import signal
import time
from collections.abc import Callable, Iterator
from unittest import skipIf
from unittest.mock import patch
from uuid import uuid4

from django.contrib.auth.models import User
from django.db import connection, connections
from django.test import Client, TransactionTestCase

from core.files.job import read_job, write_job
from core.tests.samples import measured_job, sample_job
from devices.client import SetResult
from server.evidence.models import EvidenceRow, bytes_of
from server.grid_settings.models import SettingsRow
from server.jobs import actions
from server.jobs.models import JobRow
from server.people.audit import checked_chain
from server.people.membership import add_person, found_crew
from server.readings.models import ReadingRow
from server.tests.test_site_api import jpeg

KILLS = int(
    os.environ.get("LONG_NOON_KILLS", "10000" if os.environ.get("LONG_NOON_NIGHTLY") else "6")
)
LONGEST_S = 0.5
CHECK_EVERY = 200
MORE = 20


class Kills(TransactionTestCase):
    def setUp(self) -> None:
        self.person = add_person(found_crew("Killed"), "worker", "owner", None)
        self.job_id = actions.take_in(self.person, write_job(sample_job()).encode(), as_copy=False)
        self.picture = jpeg()
        self.dice = random.Random(1)
        self.device: list[str] = []

    @skipIf(not hasattr(os, "fork"), "needs processes")
    def test_what_was_acknowledged_is_there_and_nothing_is_half_there(self) -> None:
        client, acknowledged = Client(), 0
        client.force_login(self.person)
        # Once here first: what is loaded and kept ready then, each child has from its parent.
        for what, does in self.works(client):
            for said in does():
                self.check([what, said])
        number = 0
        # A starved machine may let no child of a few get as far as an answer: then some more.
        while number < KILLS or (not acknowledged and number < MORE * KILLS):
            number += 1
            for said in self.killed():
                self.check(said)
                acknowledged += 1
            if number % CHECK_EVERY == 0:
                self.whole()
        self.whole()
        self.assertGreater(acknowledged, 0)

    def killed(self) -> list[list[str]]:
        """What a child was told before it was killed."""
        connections.close_all()
        out, to = os.pipe()
        self.dice.random()
        child = os.fork()
        if child == 0:
            os.close(out)
            try:
                self.work(to)
            finally:
                os._exit(1)
        os.close(to)
        time.sleep(self.dice.uniform(0.0, LONGEST_S))
        os.kill(child, signal.SIGKILL)
        os.waitpid(child, 0)
        with os.fdopen(out, "rb") as told:
            lines = told.read().split(b"\n")[:-1]
        return [json.loads(line) for line in lines]

    def work(self, to: int) -> None:
        client = Client()
        client.force_login(User.objects.get(pk=self.person.pk))
        while True:
            for what, does in self.dice.sample(self.works(client), 4):
                for said in does():
                    os.write(to, json.dumps([what, said]).encode() + b"\n")

    def works(self, client: Client) -> list[tuple[str, Callable[[], Iterator[str]]]]:
        url = f"/api/jobs/{self.job_id}"

        def reading() -> Iterator[str]:
            volts = f"{random.uniform(220, 250):.1f}"
            body = {"kind": "supply_voltage", "subject": "L-N", "entered": volts}
            answer = client.post(f"{url}/readings", body, "application/json").json()
            asks = answer["assessment"]["asks"]
            yield next(a for a in asks if a["key"] == "supply_voltage/L-N")["reading"]["id"]

        def picture() -> Iterator[str]:
            answer = client.post(
                f"{url}/evidence?step=permit", self.picture, "application/octet-stream"
            ).json()
            yield answer["assessment"]["evidence"][-1]["id"]

        def imported() -> Iterator[str]:
            raw = write_job(measured_job()).replace(measured_job().id, str(uuid4())).encode()
            yield client.post("/api/jobs/file", raw, "application/json").json()["id"]

        def written() -> Iterator[str]:
            with patch("server.grid_settings.actions.set_profile", wrote):
                client.post(f"{url}/settings", {}, "application/json")
            yield "settings"

        def wrote(*_: object) -> SetResult:
            os.write(self.to_device, b"1")
            return SetResult(
                outcome="silent", detail="", device=None, plate=None, carried=(), sent=(),
                refused=(), read=(), readback=(),
            )  # fmt: skip

        self.to_device = os.open(self.device_file, os.O_CREAT | os.O_APPEND | os.O_WRONLY)
        return [("reading", reading), ("picture", picture), ("job", imported), ("set", written)]

    @property
    def device_file(self) -> str:
        """What reached the device: a sign for each writing."""
        return f"{connection.settings_dict['NAME']}.device"

    def check(self, said: list[str]) -> None:
        what, identity = said
        if what == "reading":
            self.assertTrue(ReadingRow.objects.filter(identity=identity).exists(), said)
        if what == "picture":
            self.assertTrue(EvidenceRow.objects.filter(identity=identity).exists(), said)
        if what == "job":
            self.assertTrue(JobRow.objects.filter(id=identity).exists(), said)

    def whole(self) -> None:
        with connection.cursor() as cursor:
            cursor.execute("PRAGMA integrity_check")
            self.assertEqual(cursor.fetchall(), [("ok",)])
            cursor.execute("PRAGMA foreign_key_check")
            self.assertEqual(cursor.fetchall(), [])
        chain = checked_chain()
        self.assertEqual((chain.broken, chain.cut_off), ((), 0))
        for row in EvidenceRow.objects.all():
            self.assertIsNotNone(bytes_of(row.kept["sha256"]))
        brought = len(measured_job().readings)
        for row in JobRow.objects.exclude(id=self.job_id):
            self.assertEqual(ReadingRow.of(row.id).count(), brought)
        # Whatever reached the device, its trace was there before.
        reached = os.path.getsize(self.device_file) if os.path.exists(self.device_file) else 0
        begun = sum(row.written["outcome"] == "begun" for row in SettingsRow.objects.all())
        self.assertGreaterEqual(begun, reached)
        self.assertTrue(read_job(write_job(sample_job()).encode()))

    def tearDown(self) -> None:
        if os.path.exists(self.device_file):
            os.remove(self.device_file)
