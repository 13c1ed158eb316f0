"""The shelf over the API: sheets and packs of the crew's own, by hand and by file."""

from __future__ import annotations

import json
from dataclasses import replace
from typing import Any
from uuid import uuid4

from django.db import DatabaseError, connection, transaction

from core.equipment import catalogue
from core.equipment.catalogue_csv import as_csv, columns, flat
from core.equipment.catalogue_json import as_json
from server.catalogue.models import PackRow, SheetRow
from server.tests.support import ApiCase

NAMES = [column.name for column in columns("modules")]
# A whole library in the open CSV: names, units, the model's own names, then rows.
LIBRARY_HEAD = (
    "Name,Technology,Bifacial,STC,PTC,A_c,Length,Width,N_s,I_sc_ref,V_oc_ref,I_mp_ref,V_mp_ref,"
    "alpha_sc,beta_oc,T_NOCT,gamma_r,Version\nUnits,,,,,m2,m,m,,A,V,A,V,A/K,V/K,C,%/K,\n"
    "[0],,,,,,,,,,,,,,,,,\n"
)
LIBRARY_ROW = (
    "{name},Mono,0,430,400,1.9,1.7,1.1,54,13.9,39.1,13.1,32.8,0.0056,-0.0978,44,-0.34,v1\n"
)
NEWER = replace(catalogue.module("ostrel-430"), sheet_revision="2027-01", voc_v=39.4, pmax_w=432.0)


class Shelf(ApiCase):
    def shelf(self, path: str) -> Any:
        return self.client.get(f"/api/shelf{path}").json()

    def typed(self, cells: dict[str, str], kind: str = "modules", **more: object) -> Any:
        body = {"cells": [{"name": n, "text": t} for n, t in cells.items()]}
        return self.post(f"/api/shelf/{kind}", body | more)

    def file(self, raw: bytes, kind: str = "modules", query: str = "") -> list[dict[str, Any]]:
        answer = self.client.post(f"/api/shelf/{kind}/file{query}", raw, "application/octet-stream")
        self.assertEqual(answer.status_code, 200)
        text = b"".join(answer.streaming_content).decode()
        return [json.loads(line) for line in text.splitlines()]

    def test_a_typed_sheet_stands_with_who_checked_it_and_is_found(self) -> None:
        cells = flat(NEWER) | {"id": "strandly-432", "model": "S 432", "voc_v": "39,4 V"}
        del cells["checked_by"]
        made = self.typed(cells).json()
        self.assertEqual((made["id"], made["checked_by"]), ("strandly-432", "tester"))
        found = self.shelf("/modules?find=s 432")
        self.assertEqual([one["id"] for one in found["sheets"]], ["strandly-432"])
        self.assertEqual(self.shelf("/modules?find=no such thing")["total"], 0)
        counts = {one["kind"]: one["count"] for one in self.shelf("")["kinds"]}
        self.assertEqual(counts["modules"], len(catalogue.sheets("modules")) + 1)

    def test_a_changed_sheet_needs_a_revision_and_keeps_the_earlier_ones(self) -> None:
        same = flat(replace(NEWER, sheet_revision=catalogue.module("ostrel-430").sheet_revision))
        report = self.refused(self.typed(same))
        self.assertEqual(report["problems"][0]["path"], "$.sheet_revision")
        self.assertEqual(self.typed(flat(NEWER)).status_code, 200)
        view = self.shelf("/modules/sheets/ostrel-430")
        self.assertEqual([r["sheet_revision"] for r in view["revisions"]], ["2026-02", "2027-01"])
        self.assertEqual(view["revisions"][1]["by"], "tester")
        # The same sheet once more adds nothing.
        self.typed(flat(NEWER))
        self.assertEqual(SheetRow.objects.count(), 1)

    def test_a_job_keeps_its_sheet_and_is_offered_the_newer_one(self) -> None:
        self.assertEqual(self.get("/offers"), [])
        self.typed(flat(NEWER))
        self.assertEqual(self.get()["plan"]["module"]["voc_v"], 39.1)
        (offer,) = self.get("/offers")
        self.assertEqual((offer["was_revision"], offer["now_revision"]), ("2026-02", "2027-01"))
        self.assertIn("voc_v", {one["name"] for one in offer["figures"]})
        edit = {"do": "take_sheet", "kind": "modules", "id": "ostrel-430"}
        taken = self.post("/edits", {"revision": 1, "edit": edit}).json()
        self.assertEqual(taken["plan"]["module"]["voc_v"], 39.4)
        self.assertEqual(self.get("/offers"), [])

    def test_a_sheet_taken_off_is_gone_from_the_shelf_and_not_from_the_job(self) -> None:
        self.post("/api/shelf/modules/withdraw", {"id": "ostrel-430"})
        self.assertNotIn("ostrel-430", {one["id"] for one in self.shelf("/modules")["sheets"]})
        self.assertEqual(self.get()["plan"]["module"]["id"], "ostrel-430")
        self.refused(self.post("/api/shelf/modules/withdraw", {"id": "ostrel-430"}))
        self.refused(self.client.get("/api/shelf/modules/sheets/ostrel-430"))
        edit = {"do": "take_sheet", "kind": "modules", "id": "ostrel-430"}
        self.refused(self.post("/edits", {"revision": 1, "edit": edit}))

    def test_a_slip_is_asked_about_and_taken_only_when_meant(self) -> None:
        slip = flat(NEWER) | {"beta_voc_pct_per_k": "-0.0985"}
        problem = self.refused(self.typed(slip))["problems"][0]
        self.assertEqual(problem["suggestion"], "-0.25")
        odd = flat(NEWER) | {"beta_voc_pct_per_k": "-0.1"}
        self.refused(self.typed(odd))
        self.assertEqual(self.typed(odd, as_given=True).status_code, 200)
        self.refused(self.typed({"id": "x"}))
        self.refused(self.typed(flat(NEWER), kind="wheels"))

    def test_a_file_tells_its_progress_and_comes_in_whole_or_not_at_all(self) -> None:
        sheets = [replace(NEWER, id=f"m{n}") for n in range(600)]
        raw = as_csv(NAMES, sheets).encode()
        broken = raw.replace(b"m599,", b",")
        told = self.file(broken)
        self.assertEqual(told[-1]["problems"][0]["path"], "row 601, id")
        self.assertIn("kept", told[-1]["said"])
        self.assertEqual(SheetRow.objects.count(), 0)
        told = self.file(raw)
        self.assertEqual([step["checked"] for step in told[:-1]], [0, 250, 500, 600])
        self.assertEqual(told[-1]["kept"], 600)
        self.assertEqual(self.shelf("/modules?find=m59")["total"], 11)

    def test_json_comes_in_and_everything_goes_out(self) -> None:
        told = self.file(as_json("modules", [NEWER]).encode())
        self.assertEqual(told[-1], {"kept": 1, "doubled_rows": []})
        for form, start in (("json", b'{\n "format"'), ("csv", b"id,maker")):
            answer = self.client.get(f"/api/shelf/modules/file?form={form}")
            self.assertTrue(answer.content.startswith(start))
            self.assertIn(b"2027-01", answer.content)
        self.assertIn(b"dc.max_dc_v", self.client.get("/api/shelf/inverters/template").content)
        self.assertIn("problems", self.file(b'{"format": "other"}')[-1])

    def test_a_pack_of_ones_own(self) -> None:
        figure = {"path": "cold.flat_factor", "entered": "1,2", "reason": "salt and wind"}
        body = {
            "id": "our-island",
            "name": "Our island",
            "edition": "note 4",
            "based_on": "uk-small",
            "figures": [figure],
        }
        made = self.post("/api/shelf/packs", body).json()
        got = {one["path"]: one["value"] for one in made["figures"]}
        self.assertEqual(got["cold.flat_factor"], 1.2)
        edit = {"do": "take_pack", "id": "our-island"}
        taken = self.post("/edits", {"revision": 1, "edit": edit}).json()
        label = taken["assessment"]["rule_pack"]
        self.assertEqual(
            (label["name"], label["replaced"][0]["reason"]), ("Our island", "salt and wind")
        )
        for wrong, path in (
            (body | {"id": "uk-small"}, "$.id"),
            (body | {"based_on": "moon"}, "$.rule_pack"),
            (body | {"figures": [figure | {"entered": "9"}]}, "$.figures[0].entered"),
            (body | {"figures": [figure | {"reason": ""}]}, "$.figures[0].reason"),
            (body | {"figures": []}, "$.figures"),
        ):
            with self.subTest(path=path):
                report = self.refused(self.post("/api/shelf/packs", wrong))
                self.assertEqual(report["problems"][0]["path"], path)
        self.assertEqual(PackRow.objects.count(), 1)
        # The job carries its pack: it is judged the same where the pack was never kept.
        file = self.client.get(f"/api/jobs/{self.job_id}/file").content
        self.assertEqual(json.loads(file)["own_pack"]["id"], "our-island")

    def test_revisions_are_kept_for_good(self) -> None:
        self.typed(flat(NEWER))
        row = SheetRow.objects.get()
        for act in (row.save, row.delete):
            with self.assertRaises(TypeError):
                act()
        with self.assertRaises(DatabaseError), transaction.atomic(), connection.cursor() as cursor:
            cursor.execute("UPDATE shelf_sheetrow SET kind = 'x'")

    def test_a_weather_file_is_read_and_nothing_is_kept(self) -> None:
        rows = (f"2019-{1 + n // 720 % 12:02}-01T00:00,{n % 40 - 10}" for n in range(8760))
        raw = ("time,temperature\n" + "\n".join(rows)).encode()
        url = "/api/shelf/climate?file_name=log.csv"
        found = self.client.post(url, raw, "application/octet-stream").json()
        self.assertEqual((found["cold"][0]["t_air_c"], found["hot"][0]["t_air_c"]), (-10, 29))
        self.refused(self.client.post(url, b"nothing", "application/octet-stream"))

    def test_a_row_fills_a_sheet_and_its_label_says_the_rest(self) -> None:
        rows = "".join(LIBRARY_ROW.format(name=f"Gannet Works GW-{n}") for n in range(400, 440))
        raw = (LIBRARY_HEAD + rows + "Gannet Works GW-0,,,,,,,,,,,,,,,,,\n").encode()
        for _ in range(2):
            told = self.file(raw)[-1]
            self.assertEqual((told["entries"], told["left_out"]), (40, [44]))
        self.assertEqual(self.shelf("/modules")["library_total"], 0)
        found = self.shelf("/modules?find=gannet 42")
        self.assertEqual((found["total"], found["library_total"]), (0, 10))
        row = found["library"][0]
        self.assertEqual(row["missing"], ["Highest system voltage"])
        cells = {
            one["name"]: one["text"] for one in self.shelf(f"/modules/library/{row['id']}")["cells"]
        }
        self.assertEqual((cells["maker"], cells["model"]), ("Gannet Works", "GW-420"))
        self.assertAlmostEqual(float(cells["beta_voc_pct_per_k"]), -0.25013, places=4)
        self.refused(self.typed(cells))
        kept = self.typed(cells | {"max_system_v": "1000"})
        self.assertEqual(kept.status_code, 200)
        self.assertEqual(self.shelf("/modules?find=gw-420")["total"], 1)

    def test_what_is_no_library_of_that_kind_is_refused_and_changes_nothing(self) -> None:
        for kind, raw in (
            ("inverters", LIBRARY_HEAD + LIBRARY_ROW.format(name="A 1")),
            ("cables", LIBRARY_HEAD + LIBRARY_ROW.format(name="A 1")),
            ("modules", LIBRARY_HEAD),
            ("modules", LIBRARY_HEAD + "Broken 1,,,x\n"),
            ("modules", "Name,V_oc_ref\nUnits,V\n"),
        ):
            with self.subTest(kind=kind, raw=raw[-20:]):
                told = self.file(raw.encode(), kind)[-1]
                self.assertTrue(told["problems"][0]["message"])
        self.assertEqual(self.shelf("/modules?find=a")["library_total"], 0)
        self.refused(self.client.get("/api/shelf/modules/library/1"))


class Edits(ApiCase):
    def edit(self, do: str, **fields: object) -> Any:
        revision = self.get()["revision"]
        return self.post("/edits", {"revision": revision, "edit": {"do": do, **fields}})

    def test_the_roof_is_drawn_painted_and_strung(self) -> None:
        self.edit("shape_plane", name="East", rows=["######", "#####."])
        places = [{"plane": "East", "row": 1, "column": n} for n in (1, 2, 3)]
        view = self.edit("paint_string", name="A", places=places).json()
        self.assertEqual(view["plan"]["strings"][0]["modules_in_series"], 3)
        self.edit("add_plane", name="Shed", tilt_deg="10°", azimuth_deg="180", mounting="raised")
        view = self.edit("add_string").json()
        self.assertEqual([s["name"] for s in view["plan"]["strings"]], ["A", "B", "C"])
        found = self.post("/arrangements", {"planes": [{"plane": "Shed", "modules": "0"}]}).json()
        best = found["ranked"][0]
        view = self.edit("take_arrangement", strings=best["strings"]).json()
        east = [s for s in view["plan"]["strings"] if s["plane"] == "East"]
        self.assertEqual([len(s["places"]) for s in east], [11])
        self.assertEqual(self.edit("remove_plane", name="Shed").status_code, 200)

    def test_every_wrong_edit_is_a_problem_and_changes_nothing(self) -> None:
        before = self.get()
        for do, fields in (
            ("shape_plane", {"name": "East", "rows": ["##x"]}),
            ("shape_plane", {"name": "East", "rows": ["#" * 41]}),
            ("paint_string", {"name": "Z", "places": []}),
            ("paint_string", {"name": "A", "places": [{"plane": "East", "row": 1, "column": 1}]}),
            ("paint_string", {"name": "A", "places": [{"plane": "East", "row": -1, "column": 1}]}),
            ("add_plane", {"name": "", "tilt_deg": "x", "azimuth_deg": "999", "mounting": "close"}),
            (
                "add_plane",
                {"name": "S", "tilt_deg": "9", "azimuth_deg": "9", "mounting": "floating"},
            ),
            ("remove_plane", {"name": "East"}),
            ("take_sheet", {"kind": "modules", "id": "moon"}),
            ("take_sheet", {"kind": "modules", "id": None}),
            ("take_pack", {"id": "moon"}),
            ("take_pack", {"id": "north-america"}),
            ("take_arrangement", {"strings": []}),
            (
                "take_arrangement",
                {"strings": [{"plane": "Moon", "tracker": 1, "modules_in_series": 9}]},
            ),
            (
                "take_arrangement",
                {"strings": [{"plane": "East", "tracker": 9, "modules_in_series": 0}]},
            ),
            ("replace_figure", {"path": "x", "entered": "1", "reason": "because"}),
            ("replace_figure", {"path": "cold.school", "entered": "flat", "reason": ""}),
            ("burn_down", {}),
        ):
            with self.subTest(do=do, fields=fields):
                report = self.refused(self.edit(do, **fields))
                self.assertTrue(report["problems"][0]["allowed"])
        for planes in ([{"plane": "Moon", "modules": "3"}], [{"plane": "East", "modules": "-3"}]):
            self.refused(self.post("/arrangements", {"planes": planes}))
        self.assertEqual(self.get(), before)

    def test_an_edit_of_an_older_revision_conflicts(self) -> None:
        body = {"revision": 1, "edit": {"do": "add_string"}}
        self.assertEqual(self.post("/edits", body).status_code, 200)
        self.refused(self.post("/edits", body), 409)

    def test_a_figure_replaced_for_the_job_and_put_back(self) -> None:
        view = self.edit(
            "replace_figure", path="current.isc_factor", entered="1.4", reason="as told"
        ).json()
        (told,) = view["assessment"]["rule_pack"]["replaced"]
        self.assertEqual((told["was"], told["now"]), ("1.25", "1.4"))
        figures = {one["path"]: one["value"] for one in self.get("/figures")["figures"]}
        self.assertEqual(figures["current.isc_factor"], 1.4)
        view = self.edit("restore_figure", path="current.isc_factor").json()
        self.assertEqual(view["assessment"]["rule_pack"]["replaced"], [])


class OnTheBench(ApiCase):
    bench = {
        "module": "ostrel-430",
        "inverter": "veyrick-5",
        "rule_pack": "generic-iec",
        "modules_in_series": "11",
        "mounting": "close",
        "t_air_min_c": "−9 °C",
        "t_air_max_c": "31",
        "irradiance_w_per_m2": "0,7 kW/m²",
        "t_module_c": "35",
        "read_v": "418",
    }

    def test_it_judges_and_keeps_nothing(self) -> None:
        found = self.post("/api/bench", self.bench).json()
        self.assertEqual((found["ask"]["verdict"], found["string"]["verdict"]), ("clear", "clear"))
        for field, entered in (
            ("modules_in_series", "400"),
            ("modules_in_series", ""),
            ("read_v", "lots"),
            ("irradiance_w_per_m2", "-5"),
            ("t_air_min_c", "40"),
            ("module", "moon"),
            ("mounting", "floating"),
            ("rule_pack", "moon"),
        ):
            with self.subTest(field=field):
                report = self.refused(self.post("/api/bench", self.bench | {field: entered}))
                self.assertIn(field, report["problems"][0]["path"])

    def test_it_becomes_a_job_with_its_readings(self) -> None:
        bench = dict(self.bench)
        read = {
            name: bench.pop(name, "")
            for name in ("irradiance_w_per_m2", "t_module_c", "t_air_c", "read_v")
        }
        count = bench.pop("modules_in_series")
        typed = bench | {
            "name": "From the bench",
            "place": "Pellwick",
            "latitude_deg": "54",
            "longitude_deg": "0.6",
            "timezone": "Europe/London",
            "climate_source": "log",
            "roof": count,
            "strung": "1",
        }
        url = f"/api/begin/{uuid4()}"
        answers = {"typed": typed, "way": "wall", "read": read}
        asked = self.client.put(url, json.dumps(answers), "application/json").json()["asked"]
        self.assertEqual(asked["missing"], [])
        made = self.post(f"{url}/job", {})
        self.assertEqual(made.status_code, 201)
        view = self.client.get(f"/api/jobs/{made.json()['id']}").json()
        self.assertEqual(view["plan"]["strings"][0]["modules_in_series"], 11)
        asks = {ask["key"]: ask for ask in view["assessment"]["asks"]}
        self.assertEqual(asks["open_circuit/A"]["verdict"], "clear")
        self.assertEqual(asks["open_circuit/A"]["reading"]["by"], "tester")
