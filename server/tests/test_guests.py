"""A guest sees one record until a day; a customer's data go out whole, and go for good."""

from __future__ import annotations

import io
import json
import zipfile
from datetime import UTC, datetime, timedelta

from django.apps import apps
from django.test import Client
from pypdf import PdfReader

from server.evidence.models import PictureRow
from server.guests.models import GuestLink
from server.jobs.models import JobRow
from server.people.audit import checked_chain
from server.people.models import AuditLine
from server.tests.support import ApiCase
from server.tests.test_site_api import jpeg

TODAY = datetime.now(UTC).date()


class Guests(ApiCase):
    def invite(self, ends_on: object = TODAY, name: str = "R. Inspector") -> object:
        return self.post("/guests", {"name": name, "ends_on": str(ends_on)})

    def test_a_guest_sees_one_record_and_nothing_else_until_the_link_ends(self) -> None:
        made = self.invite().json()
        ticket = made["path"].rpartition("/")[2]
        guest = Client()
        seen = guest.get(f"/api/guest?ticket={ticket}").json()
        self.assertEqual(seen["crew"], "Testers")
        page = guest.get(f"/api/guest/pages/1?ticket={ticket}")
        self.assertTrue(page.content.startswith(b"<svg"))
        pdf = guest.get(f"/api/guest/file?ticket={ticket}")
        self.assertGreater(len(PdfReader(io.BytesIO(pdf.content)).pages), 1)
        for path in ("/api/jobs", f"/api/jobs/{self.job_id}", f"/api/jobs/{self.job_id}/record"):
            self.assertEqual(guest.get(path).status_code, 401)
        looked = AuditLine.objects.filter(what="guest looked")
        self.assertEqual({one.by_name for one in looked}, {"guest R. Inspector"})
        number = made["guests"][0]["number"]
        self.client.delete(f"/api/jobs/{self.job_id}/guests/{number}")
        self.refused(guest.get(f"/api/guest?ticket={ticket}"), 404)
        self.refused(self.client.delete(f"/api/jobs/{self.job_id}/guests/{number}"))

    def test_a_link_ends_by_itself_and_a_wrong_one_says_nothing(self) -> None:
        ticket = self.invite().json()["path"].rpartition("/")[2]
        GuestLink.objects.update(ends_on=TODAY - timedelta(days=1))
        for one in (ticket, "", "x" * 90, "\udcff"):
            self.refused(
                Client().get("/api/guest", {"ticket": one.encode("utf-8", "replace")}), 404
            )

    def test_bad_guests_are_refused(self) -> None:
        for ends_on, name in (
            (TODAY - timedelta(days=1), "R"),
            (TODAY + timedelta(days=400), "R"),
            (TODAY, ""),
            (TODAY, "R\u202eevil"),
            ("soon", "R"),
        ):
            self.refused(self.invite(ends_on, name))


class Erasure(ApiCase):
    def full(self) -> None:
        self.read("supply_voltage", "L-N", "231")
        url = f"/api/jobs/{self.job_id}/evidence?step=permit&name=a.jpg"
        self.client.post(url, jpeg(), "application/octet-stream")
        self.post("/guests", {"name": "R", "ends_on": str(TODAY)})

    def test_everything_goes_out_in_files_that_open_anywhere(self) -> None:
        self.full()
        data = self.client.get(f"/api/jobs/{self.job_id}/personal-data").content
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            self.assertEqual(set(archive.namelist()), {"job.noon.zip", "record.pdf", "audit.csv"})
            self.assertIn(b"reading kept", archive.read("audit.csv"))
            inner = zipfile.ZipFile(io.BytesIO(archive.read("job.noon.zip")))
            self.assertEqual(len(json.loads(inner.read("job.noon.json"))["readings"]), 1)

    def test_erased_it_is_gone_everywhere_and_the_audit_still_holds(self) -> None:
        self.full()
        name = self.client.get("/api/jobs").json()[0]["name"]
        for wrong in ({"name": "other", "why": "asked by letter"}, {"name": name, "why": ""}):
            self.refused(self.post("/erase", wrong))
        self.assertEqual(JobRow.objects.count(), 1)
        self.assertEqual(
            self.post("/erase", {"name": name, "why": "asked by letter"}).status_code, 204
        )
        self.refused(self.client.get(f"/api/jobs/{self.job_id}"), 404)
        left = {
            model.__name__: model._default_manager.count()
            for model in apps.get_models()
            if any(field.name == "job" for field in model._meta.fields)
        }
        self.assertEqual(set(left.values()), {0}, left)
        self.assertEqual((JobRow.objects.count(), PictureRow.objects.count()), (0, 0))
        self.assertEqual(checked_chain().broken, ())
        said = " ".join(AuditLine.objects.values_list("detail", flat=True))
        self.assertNotIn(name, said)
        self.assertIn("asked by letter", said)
