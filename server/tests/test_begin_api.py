"""Beginning a job over the API: answers are kept, are the crew's own, and become a job once."""

from __future__ import annotations

import json
from typing import Any
from uuid import uuid4

from django.contrib.auth.models import User

from core.tests.test_begin import WALL
from core.tests.test_climate import HEADER, epw
from server.begin.models import BegunRow
from server.people.membership import found_crew
from server.people.models import Member
from server.tests.support import ApiCase

AIRS = [-10 + 40 * n / 8759 for n in range(8760)]


class BeginApi(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.url = f"/api/begin/{uuid4()}"

    def answer(self, way: str = "wall", **typed: str) -> Any:
        body = {"typed": WALL | typed, "way": way, "country": "GB"}
        return self.client.put(self.url, json.dumps(body), "application/json")

    def test_what_was_answered_is_kept_and_becomes_a_job_once(self) -> None:
        new = self.client.get(self.url).json()
        self.assertEqual((new["asked"]["now"], BegunRow.objects.count()), ("name", 0))
        half = self.answer(t_air_min_c="").json()
        self.assertEqual(half["asked"]["missing"], ["the coldest and the hottest air"])
        (line,) = self.client.get("/api/begin").json()
        self.assertEqual((line["name"], line["open"]), ("Net Loft", half["asked"]["missing"]))
        report = self.refused(self.post(f"{self.url}/job", {}))
        self.assertIn("the coldest and the hottest air", report["problems"][0]["message"])
        whole = self.answer(strung="1").json()
        self.assertEqual(whole["answers"], self.client.get(self.url).json()["answers"])
        made = self.post(f"{self.url}/job", {})
        self.assertEqual(made.status_code, 201)
        view = self.client.get(f"/api/jobs/{made.json()['id']}").json()
        self.assertEqual([one["modules_in_series"] for one in view["plan"]["strings"]], [8, 7])
        # What nobody said, as the altitude, is no fault in the record.
        record = self.client.get(f"/api/jobs/{made.json()['id']}/record")
        self.assertEqual((record.status_code, record.content[:5]), (200, b"%PDF-"))
        self.assertEqual((BegunRow.objects.count(), self.client.get("/api/begin").json()), (0, []))
        self.assertEqual(self.post(f"{self.url}/job", {}).status_code, 404)

    def test_it_is_planned_as_an_earlier_job_of_the_crew(self) -> None:
        body = {
            "typed": WALL | {"module": "", "inverter": "", "roof": ""},
            "like": str(self.job_id),
        }
        asked = self.client.put(self.url, json.dumps(body), "application/json").json()["asked"]
        self.assertEqual((asked["missing"], len(asked["questions"])), ([], 3))
        made = self.post(f"{self.url}/job", {}).json()["id"]
        old, new = (self.client.get(f"/api/jobs/{one}").json() for one in (self.job_id, made))
        self.assertEqual(new["plan"]["strings"], old["plan"]["strings"])
        self.assertEqual(new["assessment"]["name"], "Net Loft")
        # One that was erased since holds nothing up: what was answered besides goes on from there.
        body["like"] = str(uuid4())
        BegunRow.objects.create(answers=body, crew=self.crew, by=self.person)
        (line,) = self.client.get("/api/begin").json()
        self.assertIn("the module", line["open"])
        told = self.client.get(f"/api/begin/{line['id']}").json()
        self.assertEqual((told["asked"]["now"], told["answers"]["like"]), ("rules", ""))
        again = json.dumps(told["answers"])
        goes_on = self.client.put(f"/api/begin/{line['id']}", again, "application/json")
        self.assertEqual(goes_on.status_code, 200)
        for like in (str(uuid4()), "moon"):
            body["like"] = like
            self.refused(self.client.put(self.url, json.dumps(body), "application/json"))

    def test_anothers_is_not_there_and_put_away_is_gone(self) -> None:
        self.answer()
        other = User.objects.create_user("other", password="long enough to do")
        Member.objects.create(person=other, crew=found_crew("Others"), role="owner")
        self.client.force_login(other)
        for ask in (self.client.get, self.client.delete):
            self.assertEqual(ask(self.url).status_code, 404)
        self.assertEqual(self.answer(name="Mine").status_code, 404)
        self.assertEqual(self.client.get("/api/begin").json(), [])
        self.client.force_login(self.person)
        self.assertEqual(self.client.get(self.url).json()["answers"]["typed"]["name"], "Net Loft")
        self.assertEqual(self.client.delete(self.url).json(), [])
        self.assertEqual(self.client.get("/api/begin").json(), [])

    def test_weather_that_was_read_in_once_is_offered_near_there(self) -> None:
        self.assertEqual(self.near(), [])
        near = epw(*AIRS)
        far = HEADER.replace("54.2,0.6", "-33.9,151.2").encode() + near[len(HEADER) :]
        for raw in (near, near, far):
            url = "/api/shelf/climate?file_name=made.epw"
            self.client.post(url, raw, "application/octet-stream")
        found = self.near()
        self.assertEqual([one["distance_km"] < 100 for one in found], [True, False])
        self.assertEqual(found[0]["climate"]["cold"][0]["t_air_c"], -10.0)

    def near(self) -> Any:
        return self.client.get("/api/shelf/climates?latitude_deg=54.5&longitude_deg=0.6").json()

    def test_places_by_town_by_coordinates_and_on_the_map(self) -> None:
        def places(typed: str) -> Any:
            return self.client.get("/api/begin/places", {"typed": typed})

        town = places("lowesto").json()[0]
        self.assertEqual((town["place"], town["country"], town["timezone"]),
                         ("Lowestoft", "GB", "Europe/London"))  # fmt: skip
        (point,) = places("52°28'N 1°45'E").json()
        self.assertEqual((point["place"], point["near"]), ("Lowestoft", "United Kingdom"))
        (sea,) = places("0, -30").json()
        self.assertEqual((sea["place"], sea["country"], sea["timezone"]), ("", "", "Etc/GMT+2"))
        self.refused(places("95, 10"))
        self.assertEqual(places("zzzz").json(), [])
        box = {"south": 52, "west": 1, "north": 53, "east": 2}
        names = {one["name"] for one in self.client.get("/api/begin/places/map", box).json()}
        self.assertIn("Lowestoft", names)
        self.refused(self.client.get("/api/begin/places/map", box | {"south": 200}))
