"""A house with several inverters through the API: each has its own page under one plan."""

from __future__ import annotations

import json
from dataclasses import replace
from typing import Any

from core.tests.samples import settled, whole_job, with_feed
from server.jobs.models import JobRow
from server.readings.models import ReadingRow
from server.tests.support import ApiCase

SECOND = {"do": "add_inverter", "name": "Barn", "inverter": "hathmoor-3", "board": "Board"}


class House(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        built = with_feed(settled(whole_job()))
        self.job_id = self.store(replace(built, id="7e1f0000-7a10-4d00-8a00-0000000000c1"))
        self.first = self.job_id
        made = self.done(SECOND)
        self.second = next(one["id"] for one in made["inverters"] if not one["first"])
        self.job_id = self.second
        plane = self.get()["plan"]["planes"][0]["name"]
        self.done({"do": "add_string", "plane": plane, "modules_in_series": "8", "tracker": ""})
        self.job_id = self.first

    def test_each_has_its_own_page_and_all_share_one_plan(self) -> None:
        self.job_id = self.second
        own = self.get()
        self.assertEqual([one["name"] for one in own["inverters"]], ["Inverter", "Barn"])
        self.assertEqual([one["name"] for one in own["plan"]["strings"]], ["C"])
        self.assertIn("A", [one["name"] for one in own["plan"]["elsewhere"]])
        self.assertEqual(own["assessment"]["name"].partition(" · ")[2], "Barn")
        self.done({"do": "set_supply", "service": "three", "earth_system": "TT", "phase": "2"})
        self.job_id = self.first
        feed = self.get()["plan"]["feed"]
        self.assertEqual((feed["supply_service"], feed["phase"]), ("three", 0))
        lines = self.client.get("/api/jobs").json()
        self.assertIn("and 1 more", next(o for o in lines if o["inverters"])["equipment"])
        # One plan, one revision: an edit against what was shown before is told.
        self.job_id = self.second
        old = {"revision": own["revision"], "edit": {"do": "add_string"}}
        self.refused(self.post("/edits", old), 409)

    def test_readings_are_kept_under_what_they_were_read_of(self) -> None:
        self.job_id = self.second
        self.assertEqual(self.read("nameplate_power", "inverter", "3 kW").status_code, 200)
        self.assertEqual(self.read("conductor_voltage", "N-PE", "1 V").status_code, 200)
        rows = {
            str(row.job_id): row.kind
            for row in ReadingRow.objects.filter(kind__in=("nameplate_power", "conductor_voltage"))
        }
        self.assertEqual(rows[self.second], "nameplate_power")
        self.assertEqual(rows[str(self.first)], "conductor_voltage")
        self.job_id = self.first
        keys = {ask["key"]: ask for ask in self.get()["assessment"]["asks"]}
        self.assertIsNotNone(keys["conductor_voltage/N-PE"]["reading"])
        self.assertEqual(keys["nameplate_power/inverter"]["reading"]["value"], 5000)

    def test_the_house_goes_out_and_comes_in_whole(self) -> None:
        self.job_id = self.second
        self.read("nameplate_power", "inverter", "3 kW")
        raw = self.client.get(f"/api/jobs/{self.second}/file").content
        data = json.loads(raw)
        self.assertEqual(len(data["stations"][0]["readings"]), 1)
        self.refused(self.upload(raw), 409)
        copy = self.upload(raw, "?as_copy=true")
        self.assertEqual(copy.status_code, 201)
        made = self.client.get(f"/api/jobs/{copy.json()['id']}").json()
        self.assertEqual(len(made["inverters"]), 2)
        self.assertEqual(JobRow.objects.filter(house=copy.json()["id"]).count(), 1)
        record = self.client.get(f"/api/jobs/{self.second}/record")
        self.assertEqual(record.status_code, 200)

    def test_what_goes_wrong_is_said_and_nothing_is_lost(self) -> None:
        for wrong, said in (
            ({**SECOND, "name": "Barn"}, "no other device"),
            ({**SECOND, "name": "Shed", "board": "Attic"}, "Board"),
            ({**SECOND, "name": "Shed", "inverter": "moon"}, "inverter"),
            ({"do": "remove_inverter", "name": "Inverter"}, "Barn"),
        ):
            report = self.refused(self.edit(wrong))
            self.assertIn(said, json.dumps(report), wrong)
        self.job_id = self.second
        self.assertIn("another one's page", str(self.refused(self.edit(self.gone()))))
        self.assertEqual(len(self.get()["inverters"]), 2)
        self.job_id = self.first
        self.assertEqual(self.done(self.gone())["inverters"], [])
        self.assertEqual(self.client.get(f"/api/jobs/{self.second}").status_code, 404)

    def test_one_serial_stands_on_one_inverter(self) -> None:
        keys = {ask["key"]: ask for ask in self.get()["assessment"]["asks"]}
        serial = keys["nameplate_serial/inverter"]["reading"]["text"]
        twin = {**SECOND, "name": "Twin", "inverter": self.get()["plan"]["inverter"]["id"]}
        made = self.done(twin)
        self.job_id = next(one["id"] for one in made["inverters"] if one["name"] == "Twin")
        report = self.refused(self.read("nameplate_serial", "inverter", serial))
        self.assertIn("already", report["detail"])

    def gone(self) -> dict[str, Any]:
        return {"do": "remove_inverter", "name": "Barn"}

    def upload(self, raw: bytes, options: str = "") -> Any:
        return self.client.post(f"/api/jobs/file{options}", raw, "application/json")
