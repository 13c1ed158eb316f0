"""The installation's one file: backed up under load, restored, checked, looked at first."""

from __future__ import annotations

import os
import sqlite3
import tempfile
import threading
from collections.abc import Iterator
from contextlib import closing, contextmanager
from datetime import UTC, datetime, timedelta
from io import StringIO
from pathlib import Path
from unittest.mock import patch

from django.conf import settings
from django.core.management import CommandError, call_command
from django.db import connection, connections
from django.test import Client, TransactionTestCase, override_settings

from core.files.job import write_job
from core.tests.samples import sample_job
from server.evidence.models import PictureRow
from server.jobs import actions
from server.keeping import files
from server.keeping.backup import back_up, backups, nightly, restore
from server.keeping.checks import check_data
from server.keeping.files import Unfit, hold, looked_into
from server.keeping.start import looked_at_start, told_at_work
from server.people.erasing import erasing
from server.people.membership import add_person, found_crew
from server.platform.secret import FILE, make_secret, secret_of
from server.readings.models import ReadingRow

ROUNDS = 100 if os.environ.get("LONG_NOON_NIGHTLY") else 6


@contextmanager
def folder() -> Iterator[Path]:
    with tempfile.TemporaryDirectory() as made:
        yield Path(made)


@contextmanager
def installed(file: Path) -> Iterator[None]:
    """As if that were the installation's file."""
    with patch("server.keeping.files.connections") as told:
        told.__getitem__.return_value.settings_dict = {"NAME": str(file)}
        yield


class Kept(TransactionTestCase):
    def setUp(self) -> None:
        self.person = add_person(found_crew("Keepers"), "keeper", "owner", None)
        self.client.force_login(self.person)
        raw = write_job(sample_job()).encode()
        self.job_id = actions.take_in(self.person, raw, as_copy=False)

    def read(self, client: Client, volts: str) -> int:
        body = {"kind": "supply_voltage", "subject": "L-N", "entered": volts}
        url = f"/api/jobs/{self.job_id}/readings"
        return client.post(url, body, "application/json").status_code


class Backups(Kept):
    def test_each_is_whole_while_people_work_and_holds_all_that_was_acknowledged(self) -> None:
        acknowledged, done = [0], threading.Event()

        def work() -> None:
            client = Client()
            client.force_login(self.person)
            try:
                while not done.is_set():
                    if self.read(client, "231") == 200:
                        acknowledged[0] += 1
            finally:
                connections.close_all()

        worker = threading.Thread(target=work)
        worker.start()
        try:
            with folder() as to:
                for number in range(ROUNDS):
                    before = acknowledged[0]
                    made = back_up(to / f"{number}.backup")
                    after = acknowledged[0] + 1
                    self.assertTrue(before <= made.looked.counts["readings"] <= after)
                    self.assertEqual(made.file.stat().st_mode & 0o777, 0o600)
                    with closing(sqlite3.connect(made.file)) as opened:
                        rows = opened.execute(
                            "SELECT previous, digest FROM people_auditline ORDER BY id"
                        ).fetchall()
                    digests = [digest for _, digest in rows]
                    self.assertEqual([previous for previous, _ in rows[1:]], digests[:-1])
                    with installed(to / "restored.sqlite3"):
                        counts = restore(made.file, over_data=True).counts
                    self.assertEqual(counts, made.looked.counts)
        finally:
            done.set()
            worker.join()

    def test_an_encrypted_one_opens_with_its_passphrase_alone(self) -> None:
        with folder() as to, installed_copy(to):
            made = back_up(to / "a.backup", "salt and shingle")
            self.assertNotIn(b"SQLite", made.file.read_bytes()[:200])
            for wrong in ("", "another"):
                with self.assertRaises(Unfit):
                    restore(made.file, wrong, over_data=True)
            self.assertEqual(
                restore(made.file, "salt and shingle", over_data=True).counts["jobs"], 1
            )

    def test_it_refuses_over_jobs_over_damage_over_another_program_and_while_served(self) -> None:
        with folder() as to, installed_copy(to) as here:
            made = back_up(to / "a.backup")
            with self.assertRaisesRegex(Unfit, "over-data"):
                restore(made.file)
            torn, other = to / "torn.backup", to / "other.backup"
            torn.write_bytes(made.file.read_bytes()[: made.size_bytes // 2])
            with closing(sqlite3.connect(other)) as opened:
                opened.execute("CREATE TABLE a (b)")
            (to / "text.backup").write_text("no database")
            before = here.read_bytes()
            for file in (torn, other, to / "text.backup", to / "none.backup"):
                with self.assertRaises(Unfit):
                    restore(file, over_data=True)
            lock = hold("served")
            with self.assertRaisesRegex(Unfit, "Another Long Noon"):
                restore(made.file, over_data=True)
            os.close(lock)
            self.assertEqual(here.read_bytes(), before)
            restore(made.file, over_data=True)
            self.assertEqual(len(list(to.glob("here-before-*"))), 1)

    def test_nightly_ones_are_kept_by_count(self) -> None:
        with folder() as to:
            for number in range(4):
                moment = datetime(2026, 11, 1 + number, 2, tzinfo=UTC)
                with patch("server.keeping.backup.datetime") as clock:
                    clock.now.return_value = moment
                    nightly(to, 2)
            self.assertEqual([one.name[10:20] for one in backups(to)], ["2026-11-03", "2026-11-04"])


@contextmanager
def installed_copy(to: Path) -> Iterator[Path]:
    """A copy of the test's file as the installation's, alone in its folder."""
    here = to / "here.sqlite3"
    back_up(here)
    with installed(here):
        yield here


class Checked(Kept):
    def wrong(self) -> list[str]:
        return [f"{one.what}: {one.wrong}" for one in check_data() if one.wrong]

    def test_what_is_not_as_it_was_is_found(self) -> None:
        self.read(self.client, "230")
        self.assertEqual(self.wrong(), [])
        PictureRow.objects.create(sha256="0" * 64, data=b"other bytes")
        said = " ".join(self.wrong())
        self.assertIn("not as they were", said)
        self.assertIn("kept for nothing", said)
        with erasing("test"):
            PictureRow.objects.all()._raw_delete(PictureRow.objects.db)
        with connection.cursor() as cursor:
            cursor.execute("UPDATE jobs_jobrow SET plan = '{\"format\": 1}'")
        self.assertIn("cannot be read", " ".join(self.wrong()))
        with self.assertRaises(CommandError):
            call_command("check_data", stdout=StringIO())

    def test_the_audit_is_verified_by_a_command(self) -> None:
        out = StringIO()
        call_command("verify", stdout=out)
        self.assertIn("as they were written", out.getvalue())


class Starts(Kept):
    def test_a_file_of_a_newer_one_a_damaged_and_a_foreign_one_are_not_served(self) -> None:
        with folder() as to, installed_copy(to) as here:
            self.assertFalse(looked_at_start().older)
            with closing(sqlite3.connect(here)) as opened:
                opened.execute(
                    "INSERT INTO django_migrations (app, name, applied) "
                    "VALUES ('jobs', '9999_later', '2030-01-01')"
                )
                opened.commit()
            with self.assertRaisesRegex(Unfit, "newer Long Noon"):
                looked_at_start()
            here.write_bytes(b"SQLite format 3\x00" + b"\x00" * 4000)
            with self.assertRaises(Unfit):
                looked_at_start()
            with self.assertRaises(CommandError):
                call_command("look_at_start", stderr=StringIO())

    def test_an_older_one_is_told_so_and_a_wrong_clock_and_a_full_disk_are_said(self) -> None:
        with folder() as to, installed_copy(to) as here, override_settings(BACKUPS=to / "b"):
            with closing(sqlite3.connect(here)) as opened:
                opened.execute("DELETE FROM django_migrations WHERE app = 'guests'")
                opened.commit()
            past = datetime.now(UTC) - timedelta(days=400)
            with (
                patch("server.keeping.start.datetime", wraps=datetime) as clock,
                patch("server.keeping.start.shutil.disk_usage") as disk,
            ):
                clock.now.return_value = past
                disk.return_value.free = 1000
                start = looked_at_start()
                at_work = " ".join(told_at_work())
            said = " ".join(start.notes)
            self.assertTrue(start.older)
            for part in ("set the clock", "nearly full"):
                self.assertIn(part, at_work)
            self.assertNotIn(str(to), at_work)
            for part in ("set the clock", "nearly full", "no backup yet"):
                self.assertIn(part, said)
            back_up(to / "b" / "long-noon-2026.backup")
            self.assertIn("0 hours old", " ".join(looked_at_start().notes))

    def test_what_cannot_be_written_can_still_be_read(self) -> None:
        with folder() as to, installed_copy(to), patch("os.access", lambda *_: False):
            start = looked_at_start()
            (told,) = self.client.get("/api/standing").json()
        self.assertIn("read-only", told)
        self.assertTrue(start.read_only)
        self.assertIn("nothing can be kept", start.notes[0])
        with connection.cursor() as cursor:
            cursor.execute("PRAGMA query_only = ON")
            try:
                self.assertEqual(self.client.get(f"/api/jobs/{self.job_id}").status_code, 200)
                self.assertEqual(self.client.get("/api/session").status_code, 200)
                with self.assertLogs("django.request", "ERROR"):
                    self.assertEqual(self.read(self.client, "230"), 503)
            finally:
                cursor.execute("PRAGMA query_only = OFF")
        self.assertEqual(ReadingRow.objects.count(), 0)

    def test_an_empty_key_mends_itself_and_is_its_owners_alone(self) -> None:
        with folder() as to:
            (to / FILE).touch()
            self.assertTrue(secret_of(to))
            make_secret(to)
            kept = secret_of(to)
            make_secret(to)
            self.assertEqual((secret_of(to), (to / FILE).stat().st_mode & 0o777), (kept, 0o600))

    def test_two_never_serve_one_file(self) -> None:
        with folder() as to, installed_copy(to):
            lock = hold("served")
            with self.assertRaises(Unfit):
                hold("served")
            os.close(lock)
            os.close(hold("served"))


class Files(Kept):
    def test_the_tests_own_file_is_the_one_that_is_looked_at(self) -> None:
        self.assertEqual(str(files.database_file()), str(connection.settings_dict["NAME"]))
        self.assertEqual(looked_into(files.database_file()).counts["jobs"], 1)
        self.assertTrue(str(settings.BACKUPS))
