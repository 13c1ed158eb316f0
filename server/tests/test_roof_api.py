"""A roof of microinverters through the API: drawn, branched, mapped, looked at, switched on."""

from __future__ import annotations

import json
from dataclasses import replace
from typing import Any

from django.http import HttpResponse

from core.tests.samples import micro_job, wired_roof
from core.tests.test_roof import serial_of
from devices.simulated.gateway import Listed, Roster, SimulatedGateway
from devices.simulated.inverter import answering
from server.jobs import actions
from server.jobs.stored import load
from server.tests.support import ApiCase

NEW = {
    "name": "New roof", "day": "2026-11-24", "place": "Nowhere", "latitude_deg": "54.2",
    "longitude_deg": "0.6", "altitude_m": "12 m", "timezone": "Europe/London",
    "t_air_min_c": "-9", "t_air_max_c": "31", "climate_source": "test",
    "rule_pack": "generic-iec", "module": "ostrel-405", "micro": "skerrow-tern-400",
    "trunk": "skerrow-trunk-130",
}  # fmt: skip
PLANE = {
    "do": "add_plane", "name": "Front", "tilt_deg": "35", "azimuth_deg": "180",
    "mounting": "close",
}  # fmt: skip


class RoofApi(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.job_id = self.store(replace(wired_roof(), id="0a000000-0000-4000-8000-0000000000aa"))

    def roof(self) -> dict[str, Any]:
        roof: dict[str, Any] = self.get()["assessment"]["roof"]
        return roof

    def said(self, response: HttpResponse) -> str:
        report = self.refused(response)
        return " ".join(one["message"] for one in report["problems"]).replace("\u00a0", " ")

    def send_map(self, text: str) -> HttpResponse:
        url = f"/api/jobs/{self.job_id}/serial-map/file"
        answer: HttpResponse = self.client.post(url, text, "application/octet-stream")
        return answer

    def test_a_roof_is_begun_drawn_and_split(self) -> None:
        answer = self.post("/api/jobs", NEW)
        self.assertEqual(answer.status_code, 201, answer.content[:300])
        self.job_id = json.loads(answer.content)["id"]
        self.assertEqual(self.get("/branches")["offers"], [])
        none = self.edit({"do": "shape_plane", "name": "Front", "rows": ["######"]})
        self.assertIn("no roof plane is entered yet", self.said(none))
        self.done(PLANE)
        self.done({"do": "shape_plane", "name": "Front", "rows": ["######", "####.#"]})
        self.done({"do": "set_gap", "plane": "Front", "row": 2, "column": 5, "width_mm": "1.6 m"})
        self.assertEqual(self.get("/branches")["offers"][0]["counts"], [11])
        view = self.done({"do": "take_branches", "number": 0})
        self.assertEqual(len(view["assessment"]["roof"]["units"]), 11)
        view = self.done({"do": "take_sheet", "kind": "micros", "id": "skerrow-tern-duo-800"})
        view = self.done({"do": "take_branches", "number": 0})
        self.assertEqual([len(b["units"]) for b in view["plan"]["micro"]["branches"]], [3, 3])
        wrong = self.edit({"do": "take_sheet", "kind": "trunks", "id": "skerrow-trunk-130-s"})
        self.assertIn("not made for each other", self.said(wrong))
        self.assertIn("0 to", self.said(self.edit({"do": "take_branches", "number": 9})))
        name = view["plan"]["micro"]["units"][0]["name"]
        unit = self.edit({"do": "unit_modules", "name": name, "modules": []})
        self.assertIn("no module", self.said(unit))
        both = self.post("/api/jobs", NEW | {"micro": "", "inverter": ""})
        self.assertIn("$.inverter", both.content.decode())

    def test_branches_are_fed_measured_and_moved_as_typed(self) -> None:
        feed = {"phase": "0", "feed": "centre", "joint": "Box B1", "lead_m": "0,8 m"}
        view = self.done({"do": "set_branch", "name": "B1", **feed, "breaker": "stobmoor-b20"})
        plan = view["plan"]["micro"]["branches"][0]
        self.assertEqual((plan["feed"], plan["lead_m"]), ("centre", 0.8))
        link = {"do": "set_link", "branch": "B1", "after": "U3", "how": None}
        self.done(link | {"length_m": "2.6 m"})
        trunk = self.roof()["branches"][0]["trunk"]["links"][2]
        self.assertEqual((trunk["distance_m"], trunk["segments"]), (2.6, 2))
        self.assertIn("0 to 100", self.said(self.edit(link | {"length_m": "-1"})))
        self.done({"do": "move_unit", "name": "U2", "shift_mm": "35 mm"})
        self.assertIn(
            "3000", self.said(self.edit({"do": "move_unit", "name": "U2", "shift_mm": "9 m"}))
        )
        self.assertIn(
            "L1", self.done(self.three_phase())["assessment"]["roof"]["branches"][0]["phase_name"]
        )
        renamed = self.get()["plan"]["feed"]["devices"][3]
        device = {key: renamed[key] for key in ("kind", "far_end", "surge", "outdoors", "entry")}
        box = {
            "do": "put_feed_device",
            "was": "Box B1",
            "name": "Attic box",
            "busbar_a": "",
            "supply_a": "",
        }
        view = self.done(box | device | {"breaker": None, "isolator": None})
        self.assertEqual(view["plan"]["micro"]["branches"][0]["joint"], "Attic box")
        gone = self.done({"do": "remove_feed_device", "name": "Attic box"})
        self.assertIsNone(gone["plan"]["micro"]["branches"][0]["joint"])
        self.assertIn(
            "stays", self.said(self.edit({"do": "remove_feed_device", "name": "Branch board"}))
        )

    def three_phase(self) -> dict[str, Any]:
        return {
            "do": "set_roof", "gaps": "skip", "earth": "core", "order": "trunk_first",
            "label": "map", "three_phase": True,
        }  # fmt: skip

    def test_serials_are_kept_once_on_one_roof_and_superseded_with_their_history(self) -> None:
        self.assertEqual(self.read("unit_serial", "U1", "tn10000001").status_code, 200)
        self.assertIn(
            "may read TN10000002", self.said(self.read("unit_serial", "U2", "TNI0000002"))
        )
        self.assertIn("is on U1 already", self.said(self.read("unit_serial", "U2", "TN10000001")))
        self.assertIn("no serial", self.said(self.read("unit_serial", "U2", "4006381333931x")))
        self.assertIn("goods number", self.said(self.read("unit_serial", "U2", "4006381333931")))
        self.assertIn("not on the map", self.said(self.read("unit_covered", "U2", "1")))
        self.assertEqual(self.read("unit_covered", "U1", "1").status_code, 200)
        other, here = (
            self.store(replace(micro_job(), id="0a000000-0000-4000-8000-0000000000bb")),
            self.job_id,
        )
        self.job_id = other
        said = self.said(self.read("unit_serial", "U1", "TN10000001"))
        self.assertIn("is on Sample already", said)
        self.job_id = here
        was = self.roof()["units"][0]["serials"][0]["id"]
        self.read("unit_serial", "U1", "TN10000009", supersedes=was)
        found = self.roof()["units"][0]
        self.assertEqual((found["serial"], len(found["serials"])), ("TN10000009", 2))
        # The first is free again for the other roof.
        self.job_id = other
        self.assertEqual(self.read("unit_serial", "U1", "TN10000001").status_code, 200)

    def test_the_map_goes_out_in_every_form_and_comes_back_whole_or_not_at_all(self) -> None:
        names = [one["name"] for one in self.roof()["units"]]
        rows = "\n".join(f"{name},{serial_of(n)}" for n, name in enumerate(names))
        broken = self.send_map(f"unit,serial\n{rows}\nU99,TN10000001")
        self.assertIn("U99", self.said(broken))
        self.assertEqual(self.roof()["map"]["taken"], 0)
        self.assertEqual(self.send_map(f"unit,serial\n{rows}").status_code, 200)
        self.assertEqual(self.roof()["map"]["verdict"], "clear")
        kept = len(self.get()["assessment"]["roof"]["units"][0]["serials"])
        self.assertEqual(self.send_map(f"unit,serial\n{rows}").status_code, 200)
        self.assertEqual(len(self.roof()["units"][0]["serials"]), kept)
        url = f"/api/jobs/{self.job_id}/serial-map?form="
        for form, starts in (("csv", "\ufeffunit,"), ("json", "{"), ("svg", "<?xml")):
            body = self.client.get(f"{url}{form}").content.decode()
            self.assertTrue(body.startswith(starts), form)
            self.assertIn(serial_of(3), body)
        self.assertEqual(
            self.send_map(self.client.get(f"{url}json").content.decode()).status_code, 200
        )
        self.assertTrue(self.client.get(f"{url}pdf").content.startswith(b"%PDF"))
        self.assertEqual(self.client.get(f"{url}svg&sheet=7").status_code, 404)
        record = self.client.get(f"/api/jobs/{self.job_id}/record")
        self.assertTrue(record.content.startswith(b"%PDF"))

    def test_a_wall_job_has_no_roof(self) -> None:
        self.job_id = actions.JobRow.objects.order_by("created_at")[0].id
        self.assertIsNone(self.roof())
        for answer in (
            self.client.get(f"/api/jobs/{self.job_id}/branches"),
            self.post("/gateway", {}),
            self.edit({"do": "add_branch"}),
            self.send_map("unit,serial\nU1,TN10000001"),
        ):
            self.assertIn("wall inverter", self.said(answer))
        self.assertEqual(
            self.client.get(f"/api/jobs/{self.job_id}/serial-map?form=csv").status_code, 422
        )

    def test_the_gateway_is_looked_at_and_each_look_is_kept(self) -> None:
        names = [one["name"] for one in self.roof()["units"]]
        rows = "\n".join(f"{name},{serial_of(n)}" for n, name in enumerate(names))
        self.send_map(f"unit,serial\n{rows}")
        units = [Listed(serial=serial_of(n)) for n in range(1, len(names))]
        strange = Listed(serial="TN99999999", reports_after_s=None)
        roster = Roster(name="GW", units=(*units, strange))
        with answering(SimulatedGateway(roster).devices()) as port:
            self.done({"do": "set_gateway", "host": "127.0.0.1", "port": str(port)})
            self.assertEqual(self.post("/gateway", {}).status_code, 200)
        gateway = self.roof()["gateway"]
        self.assertEqual((gateway["verdict"], gateway["looks"]), ("stop", 1))
        worst = {one["unit"] or one["serial"]: one["standing"] for one in gateway["lines"][:2]}
        self.assertEqual(worst, {names[0]: "missing", "TN99999999": "foreign"})
        self.assertIn("stays OFF", self.said(self.read("branch_on", "B1", "1")))
        self.assertEqual(self.read("branch_on", "B1", "-1").status_code, 200)
        # Nobody there any more: the look is kept as it went, the last list stays in force.
        self.assertEqual(self.post("/gateway", {}).status_code, 200)
        gateway = self.roof()["gateway"]
        self.assertEqual((gateway["outcome"], gateway["looks"]), ("unreachable", 2))
        self.assertEqual(len(gateway["lines"]), len(names) + 1)
        again = self.store(replace(self.stored(), id="0a000000-0000-4000-8000-0000000000cc"))
        self.job_id = again
        self.assertEqual(self.roof()["gateway"]["looks"], 2)

    def stored(self) -> Any:
        return load(self.job_id).job
