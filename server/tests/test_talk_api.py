"""Talk through the API: a plan begun and changed, the meter, the portal and a typed list."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from django.http import HttpResponse
from django.test import override_settings

from core.tests.commissioned import proved, ready_job, settings_made, talking
from core.tests.golden import DEMO
from devices.reach import networks
from devices.simulated.inverter import answering
from devices.simulated.meter import MeterOrder, SimulatedMeter
from devices.simulated.portal import Portal
from devices.tests.test_meter_and_portal import listening
from server.documents.record import record_data
from server.jobs import actions
from server.jobs.stored import load
from server.tests.support import ApiCase

LOOPBACK = networks(["127.0.0.0/8@1-65535"])
ID = "0a000000-0000-4000-8000-0000000000bb"


@override_settings(DEVICE_NETWORKS=LOOPBACK)
class TalkApi(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        job = talking(settings_made(proved(ready_job())))
        self.job_id = self.store(replace(job, id=ID, name="Linked"))

    def said(self, response: HttpResponse) -> str:
        report = self.refused(response)
        return " ".join(one["message"] for one in report["problems"])

    def asked(self, key: str) -> dict[str, Any]:
        found = [one for one in self.get()["assessment"]["asks"] if one["key"] == key]
        ask: dict[str, Any] = found[0]
        return ask

    def test_a_plan_is_begun_on_a_job_without_one(self) -> None:
        self.job_id = actions.take_in(
            self.person, (DEMO / "gull-terrace-2.json").read_bytes(), as_copy=True
        )
        self.assertIsNone(self.get()["plan"]["talk"])
        view = self.done({"do": "begin_talk"})
        self.assertEqual([one["name"] for one in view["plan"]["talk"]["devices"]], ["Inverter"])
        again = self.said(self.edit({"do": "begin_talk"}))
        self.assertIn("There is a plan already", again)

    def test_the_meter_is_read_for_the_step_that_is_on(self) -> None:
        none = self.said(self.post("/meter", {"step": "nothing on"}))
        self.assertIn("network address", none)
        meter = SimulatedMeter(MeterOrder(format="long-noon-meter", serial="M", base_w=(415.0,)))
        with answering([meter.device()]) as port:
            self.done({
                "do": "set_talk_meter", "sheet": None, "host": "127.0.0.1", "port": str(port),
                "consumption_wanted": True,
            })  # fmt: skip
            wrong = self.said(self.post("/meter", {"step": "load on L7"}))
            self.assertIn("load on L1", wrong)
            self.assertEqual(self.post("/meter", {"step": "nothing on"}).status_code, 200)
        ask = self.asked("meter_reads/nothing on · L1")
        self.assertEqual(ask["reading"]["value"], 415.0)
        self.assertEqual(ask["reading"]["note"], "read from the meter")
        kept = len(ask["history"])
        self.assertIn("Nothing was kept", self.said(self.post("/meter", {"step": "feeding"})))
        self.assertEqual(len(self.asked("meter_reads/nothing on · L1")["history"]), kept)

    def test_a_plant_is_entered_once_the_house_is_on_the_network_and_its_codes_are_right(
        self,
    ) -> None:
        account = self.get()["plan"]["talk"]["account"]
        portal = Portal(codes={"VF00000001": "7K2M"}, every_s=0.0)
        with listening(portal) as port:
            typed = {name: str(value) for name, value in account.items()}
            self.done({"do": "set_account", **typed, "host": "127.0.0.1", "port": str(port)})
            self.read("nameplate_serial", "inverter", "VF00000001")
            self.assertIn("check code", self.said(self.post("/portal/plant", {})))
            self.assertEqual(portal.plants, {})
            self.assertEqual(self.read("check_code", "Inverter", "7K2M").status_code, 200)
            self.assertEqual(self.post("/portal/plant", {}).status_code, 200)
            self.assertIn(ID, portal.plants)
            self.assertEqual(self.post("/portal", {}).status_code, 200)
            self.assertEqual(self.asked("account_step/first_value")["reading"]["note"], "Shoreline")
            portal.away = True
            self.assertIn("away", self.said(self.post("/portal", {})))
            self.read("network_answers", "Inverter", "-1")
            self.assertIn("network", self.said(self.post("/portal/plant", {})))
        self.assertIn("Nothing answers", self.said(self.post("/portal", {})))

    def test_a_check_code_is_for_the_crew_only(self) -> None:
        self.read("check_code", "Inverter", "SECRET-7K2M")
        self.assertIn("SECRET-7K2M", str(self.get()["assessment"]["asks"]))
        told = str(record_data(load(self.job_id).job))
        self.assertNotIn("SECRET-7K2M", told)
        self.assertIn("Shoreline", told)

    def test_a_typed_list_is_held_against_the_map_and_a_bad_one_is_not_kept(self) -> None:
        self.assertIn("wall inverter", self.said(self.post("/gateway/list", {"text": "A"})))
        self.job_id = actions.take_in(
            self.person, (DEMO / "slipway-cottage.json").read_bytes(), as_copy=False
        )
        self.assertIn("twice", self.said(self.post("/gateway/list", {"text": "A B A B"})))
        answer = self.post("/gateway/list", {"text": "TN1\nTN2", "source": "picture"})
        self.assertEqual(answer.status_code, 200)
        gateway = self.get()["assessment"]["roof"]["gateway"]
        self.assertEqual((gateway["looks"], gateway["verdict"]), (1, "stop"))
