"""Every edit as one shape: read from JSON, written back the same, made by the core alone."""

from __future__ import annotations

import json
from contextlib import suppress
from dataclasses import fields, replace
from datetime import date
from pathlib import Path
from typing import Any, Literal, get_args, get_origin
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from core.assess import assess
from core.base.errors import Refused
from core.base.form import hints, read, without_none, write
from core.edits.edit import Edit
from core.edits.every import EDITS, read_edit
from core.edits.new_job import NewJob, begun
from core.edits.planes import with_plane
from core.edits.strings import AddString, with_string
from core.equipment.catalogue import SHIPPED
from core.files.job import read_job, write_job
from core.job.fingerprints import stamped
from core.job.job import Job
from core.job.roof import Plane
from core.tests.samples import measured_job, whole_job, wired_roof, with_feed, with_wall

DEMO = Path(__file__).resolve().parents[2] / "server" / "demo" / "jobs"
ID = "0a000000-0000-4000-8000-0000000000ed"
# One edit of each kind as a screen sends it, on the job that it fits, and what is then so.
STRINGS, ROOF = "strings", "roof"
MADE: tuple[tuple[str, dict[str, Any], str], ...] = (
    (
        STRINGS,
        {
            "do": "add_plane",
            "name": "North",
            "tilt_deg": "12°",
            "azimuth_deg": "0",
            "mounting": "open",
        },
        "planes[2].tilt_deg=12.0",
    ),
    (
        STRINGS,
        {"do": "shape_plane", "name": "East", "rows": ["###", "###"]},
        "planes[0].rows[1]='###'",
    ),
    (STRINGS, {"do": "add_string"}, "strings[2].name='C'"),
    (STRINGS, {"do": "remove_string", "name": "B"}, "strings[-1].name='A'"),
    (
        STRINGS,
        {"do": "take_sheet", "kind": "optimisers", "id": "fenbrow-500"},
        "optimiser.id='fenbrow-500'",
    ),
    (STRINGS, {"do": "take_sheet", "kind": "optimisers", "id": None}, "optimiser=None"),
    (STRINGS, {"do": "take_pack", "id": "uk-small"}, "rule_pack='uk-small'"),
    (
        STRINGS,
        {
            "do": "set_permit",
            "operator": "Strand Net",
            "reference": "SN-1",
            "granted_on": "2026-05-02",
            "export_w": "5 kW",
        },
        "arrival.permit.export_w=5000.0",
    ),
    (
        STRINGS,
        {"do": "set_crew", "crew": [{"name": " Ada Fenn ", "licence": "F-1", "present": True}]},
        "arrival.crew[0].name='Ada Fenn'",
    ),
    (STRINGS, {"do": "set_first_visit", "first_visit": True}, "arrival.first_visit=True"),
    (
        STRINGS,
        {"do": "leave_open", "what": "Label the meter", "owner": "Ada Fenn", "stage": 10},
        "arrival.open_items[0].what='Label the meter'",
    ),
    (
        STRINGS,
        {"do": "set_home_run", "name": "A", "length_m": "40 ft", "section_mm2": "4"},
        "strings[0].home_run[0].length_m=12.192",
    ),
    (
        STRINGS,
        {"do": "size_run", "name": "To Inverter", "section_mm2": "10 mm²"},
        "feed.runs[-1].section_mm2=10.0",
    ),
    (
        STRINGS,
        {"do": "set_supply", "service": "single", "earth_system": "TT"},
        "feed.earth_system='TT'",
    ),
    (
        STRINGS,
        {
            "do": "put_backup",
            "limit_a": "40 A",
            "three_phase": False,
            "shutdown_line": True,
            "battery": None,
        },
        "feed.backup.limit_a=40.0",
    ),
    (
        STRINGS,
        {"do": "place_device", "name": "Inverter", "x_mm": "1.3 m", "y_mm": "1150"},
        "wall.devices[0].x_mm=1300.0",
    ),
    (
        STRINGS,
        {"do": "choose_earthing", "roof": "wire", "array_pole": "none", "lightning": True},
        "earthing.lightning=True",
    ),
    (
        STRINGS,
        {
            "do": "put_instrument",
            "was": None,
            "name": "Clamp",
            "serial": "7",
            "calibrated_on": "2026-01-05",
            "due_on": "",
        },
        "testing.instruments[-1].due_on=None",
    ),
    (STRINGS, {"do": "choose_current", "current": "operating"}, "testing.current='operating'"),
    (STRINGS, {"do": "set_by_hand", "by_hand": True}, "grid.by_hand=True"),
    (ROOF, {"do": "add_branch"}, "micro.branches[-1].units=()"),
    (ROOF, {"do": "move_unit", "name": "U1", "shift_mm": "50"}, "micro.units[0].shift_mm=50.0"),
    (ROOF, {"do": "set_gateway", "host": "gate.local", "port": "1502"}, "micro.gateway.port=1502"),
)
REFUSED: tuple[tuple[str, dict[str, Any], str], ...] = (
    (
        STRINGS,
        {
            "do": "add_plane",
            "name": "North",
            "tilt_deg": "steep",
            "azimuth_deg": "0",
            "mounting": "open",
        },
        "$.tilt_deg",
    ),
    (STRINGS, {"do": "size_run", "name": "nowhere", "section_mm2": "6"}, "$.name"),
    (STRINGS, {"do": "take_sheet", "kind": "inverters", "id": "moon"}, "$.inverters"),
    (STRINGS, {"do": "take_sheet", "kind": "inverters", "id": None}, "$.id"),
    (
        STRINGS,
        {
            "do": "put_load",
            "was": None,
            "name": "Well",
            "phase": "1",
            "current_a": "9",
            "backed_up": True,
        },
        "$.backup",
    ),
    (STRINGS, {"do": "move_unit", "name": "U1", "shift_mm": "50"}, "$.micro"),
    (ROOF, {"do": "add_string"}, "$.inverter"),
    (ROOF, {"do": "set_gap", "plane": "Attic", "row": 1, "column": 1, "width_mm": "300"}, "$.name"),
)


def jobs() -> dict[str, Job]:
    return {STRINGS: with_wall(with_feed(measured_job())), ROOF: wired_roof()}


def at(value: Any, path: str) -> Any:
    """What stands at a path such as ``feed.runs[-1].length_m``."""
    for step in path.replace("[", ".[").split("."):
        inside = step.startswith("[")
        value = value[int(step.strip("[]"))] if inside else getattr(value, step)
    return value


class Every(TestCase):
    def test_each_kind_is_named_once_by_what_it_does(self) -> None:
        self.assertGreater(len(EDITS), 60)
        for do, shape in EDITS.items():
            self.assertEqual(get_args(hints(shape)["do"]), (do,))
            self.assertIsNot(shape.apply, Edit.apply, do)
            self.assertTrue(shape.__doc__, do)

    def test_one_of_each_kind_is_read_and_written_alike(self) -> None:
        for do, shape in EDITS.items():
            written = {"do": do} | {
                field.name: _some(hints(shape)[field.name])
                for field in fields(shape)
                if field.name != "do"
            }
            with self.subTest(do=do):
                edit = read_edit(json.loads(json.dumps(written)))
                self.assertIsInstance(edit, shape)
                self.assertEqual(read(shape, write(edit)), edit)

    def test_on_a_job_that_it_does_not_fit_it_is_refused_and_never_a_fault(self) -> None:
        bare = replace(jobs()[STRINGS], wall=None)
        for do, shape in EDITS.items():
            for names in ({}, {"name": "A", "string": "A", "branch": "B1", "was": "A"}):
                kinds = hints(shape)
                given = {one: _some(kinds[one]) for one in kinds if one != "do"}
                edit = read_edit(
                    {"do": do} | given | {n: v for n, v in names.items() if n in given}
                )
                for job in (*jobs().values(), bare):
                    with self.subTest(do=do, names=names), suppress(Refused):
                        self.assertIsInstance(edit.apply(job, SHIPPED), Job)

    def test_what_is_no_edit_is_refused_with_its_path(self) -> None:
        for data, path in (
            ("add_string", "$.edit"),
            ({}, "$.edit.do"),
            ({"do": "dance"}, "$.edit.do"),
            ({"do": ["add_string"]}, "$.edit.do"),
            ({"do": "add_string", "name": "A"}, "$.name"),
            ({"do": "remove_string"}, "$.name"),
            ({"do": "remove_string", "name": 3}, "$.name"),
            ({"do": "remove_string", "name": "x" * 201}, "$.name"),
            ({"do": "set_first_visit", "first_visit": "yes"}, "$.first_visit"),
            ({"do": "shape_plane", "name": "East", "rows": ["#"] * 31}, "$.rows"),
            (
                {
                    "do": "paint_string",
                    "name": "A",
                    "places": [{"plane": "East", "row": 0, "column": 1}],
                },
                "$.places[0].row",
            ),
        ):
            with self.subTest(data=data), self.assertRaises(Refused) as refused:
                read_edit(data)
            self.assertEqual(refused.exception.problems[0].path, path)


class Made(TestCase):
    def test_it_does_what_it_says_and_the_job_stays_whole(self) -> None:
        made_from = jobs()
        for name, data, wanted in MADE:
            path, _, value = wanted.partition("=")
            with self.subTest(edit=data):
                job = made_from[name]
                made = read_edit(data).apply(job, SHIPPED)
                self.assertEqual(repr(at(made, path)), value)
                self.assertEqual(made.readings, job.readings)
                self.assertEqual(read_job(write_job(made).encode()), stamped(made))
                assess(made)

    def test_a_refused_one_names_the_field(self) -> None:
        made_from = jobs()
        for name, data, path in REFUSED:
            with self.subTest(edit=data), self.assertRaises(Refused) as refused:
                read_edit(data).apply(made_from[name], SHIPPED)
            self.assertIn(path, [one.path for one in refused.exception.problems])

    @given(st.lists(st.sampled_from(MADE), min_size=2, max_size=6))
    def test_in_any_order_nothing_read_is_lost(self, several: list[tuple[str, Any, str]]) -> None:
        for name, job in jobs().items():
            made = job
            for of, data, _ in several:
                if of == name:
                    try:
                        made = read_edit(data).apply(made, SHIPPED)
                    except Refused:
                        continue
            self.assertEqual(made.readings, job.readings)
            self.assertEqual(read_job(write_job(made).encode()), stamped(made))


class Begun(TestCase):
    def test_a_job_is_begun_by_the_core_alone(self) -> None:
        old = whole_job()
        typed = {
            "name": "Quay 4",
            "day": "",
            "place": "Pellwick",
            "latitude_deg": "54.6",
            "longitude_deg": "-1.2",
            "altitude_m": "20",
            "timezone": "Europe/London",
            "t_air_min_c": "-8 °C",
            "t_air_max_c": "31",
            "climate_source": "leaflet",
            "rule_pack": "generic-iec",
            "module": old.module.id,
        }
        new = read(NewJob, typed | {"inverter": "veyrick-10-three"})
        job = begun(new, SHIPPED, job_id=ID, today=old.day)
        self.assertEqual((job.day, job.site.t_air_min_c, len(job.strings)), (old.day, -8.0, 0))
        self.assertEqual(read_job(write_job(job).encode()), stamped(job))
        # Nobody said what lies on the roof or which cable runs: nothing is counted or allowed.
        said = assess(job)
        self.assertEqual({one.verdict for one in said.stages}, {"waiting"})
        self.assertEqual({one.verdict for one in said.permissions}, {"waiting"})
        self.assertEqual((said.string.array_w, job.feed.runs, job.planes), (0.0, (), ()))
        for typed_string, path in (
            ({}, "$.plane"),
            ({"plane": "South", "modules_in_series": "9"}, "$.plane"),
        ):
            with self.assertRaises(Refused) as refused:
                with_string(job, AddString(**typed_string))
            self.assertEqual([one.path for one in refused.exception.problems], [path])
        job = with_plane(job, Plane(name="South"))
        with self.assertRaises(Refused) as refused:
            with_string(job, AddString(plane="South"))
        self.assertEqual(refused.exception.problems[0].path, "$.modules_in_series")
        job = with_string(job, AddString(plane="South", modules_in_series="9"))
        self.assertEqual(with_string(job, AddString()).strings[1].modules_in_series, 9)
        for spoiled, path in (
            ({"latitude_deg": "north"}, "$.site.latitude_deg"),
            ({"module": "moon"}, "$.module"),
            ({"inverter": "moon"}, "$.inverter"),
            ({"rule_pack": "moon"}, "$.rule_pack"),
        ):
            with self.subTest(spoiled=spoiled), self.assertRaises(Refused) as refused:
                begun(replace(new, **spoiled), SHIPPED, job_id=ID, today=old.day)
            self.assertIn(path, [one.path for one in refused.exception.problems])


def _some(hint: Any) -> Any:
    """Something that a field of this type takes."""
    if without_none(hint) != hint:
        return None
    bare = get_args(hint)[0] if hasattr(hint, "__metadata__") else hint
    if get_origin(bare) is Literal:
        return get_args(bare)[0]
    if get_origin(bare) is tuple:
        return [_some(get_args(bare)[0])]
    if bare in (str, int, bool, date):
        return {str: "1", int: 1, bool: True, date: "2026-11-24"}[bare]
    return {field.name: _some(hints(bare)[field.name]) for field in fields(bare)}
