"""A house with several inverters: each judged as a job of its own, edited and put back whole."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from core.assess import assess, assess_every
from core.base.errors import Refused
from core.base.judgement import Judgement
from core.base.messages import figure
from core.edits.every import read_edit
from core.edits.house import applied
from core.equipment.catalogue import SHIPPED
from core.files.job import copied, read_job, write_job
from core.job.arrival import Permit
from core.job.fingerprints import past_ids
from core.job.house import alone, view, views
from core.job.house_merge import merged
from core.job.house_views import is_shared
from core.job.job import KEPT_APART, Job
from core.job.station import Station
from core.planning.goods.load_list import load_in
from core.tests.samples import sample_job, with_reading

DEMO = Path(__file__).resolve().parents[2] / "server" / "demo" / "jobs"
BARN = read_job((DEMO / "curlew-barn.json").read_bytes())
IDS = (BARN.id, *(one.id for one in BARN.stations))
LEAN_TO, YARD = BARN.stations
# One edit of each part of a plan, by what it may change besides the inverter's own.
EDITS: tuple[dict[str, Any], ...] = (
    {"do": "set_supply", "service": "three", "earth_system": "TT", "phase": "2"},
    {"do": "add_string"},
    {"do": "set_home_run", "name": "OWN", "length_m": "22 m", "section_mm2": "6 mm²"},
    {"do": "choose_dc", "school": "none", "isolator": "", "safety": "", "surge": "none",
     "reason": "short way", "by": "Ada Fenn"},
    {"do": "size_run", "name": "RUN", "section_mm2": "10 mm²"},
    {"do": "add_plane", "name": "Porch", "tilt_deg": "20", "azimuth_deg": "180",
     "mounting": "close"},
    {"do": "put_containment", "was": None, "name": "New pipe", "way": "pipe", "holds": ["RUN"],
     "width_mm": "40 mm", "height_mm": "", "parted": "alone", "slack_m": "0 m", "signal_mm": ""},
    {"do": "put_other_source", "was": None, "name": "Shed", "kind": "battery", "board": "Board",
     "breaker_a": "16 A", "phase": "0", "output_va": "", "comes": True},
    {"do": "set_by_hand", "by_hand": True},
    {"do": "put_backup", "limit_a": "40 A", "three_phase": False, "shutdown_line": True,
     "battery": None},
    {"do": "hang_device", "name": "Own one", "kind": "inverter", "sheet": None,
     "x_mm": "900", "y_mm": "400"},
    {"do": "put_feed_device", "was": "Board", "name": "Main board", "kind": "board",
     "breaker": "stobmoor-b25", "isolator": None, "busbar_a": "160 A", "supply_a": "63 A",
     "far_end": False, "surge": "2", "outdoors": False, "entry": "bottom"},
)  # fmt: skip


def edited(house: Job, of: str, data: dict[str, Any]) -> Job:
    """The house with an edit of one inverter; OWN and RUN stand for its first string and run."""
    own = view(house, of)
    text = json.dumps(data).replace("OWN", own.strings[0].name)
    last = own.feed.chain.runs[-1].name
    return applied(house, of, read_edit(json.loads(text.replace("RUN", last))), SHIPPED)


def own_plan(house: Job, of: str) -> tuple[object, ...]:
    """What an edit of another inverter must leave as it is."""
    one = view(house, of)
    board = next(d for d in one.feed.devices if d.kind == "board")
    last = one.feed.chain.runs[-1]
    parts = one.inverter, one.strings, one.grid, one.earthing, one.waking
    return (
        *parts,
        one.feed.dc,
        one.feed.phase,
        one.feed.backup,
        board.breaker,
        last.length_m,
        last.section_mm2,
    )


def judged(job: Job, rule_id: str) -> Judgement:
    feed = assess(job).feed
    every = (*feed.judgements, *(one for device in feed.devices for one in device.judgements))
    return next(one for one in every if one.rule_id == rule_id)


def read_on(house: Job, of: str, kind: str, subject: str, value: float, minute: int = 0) -> Job:
    """The house with a reading kept where it belongs: of one inverter, or of the house."""
    made = with_reading(view(house, of), kind, subject, value, minute=minute)
    last = made.readings[-1]
    if of == house.id or is_shared(made, last):
        return replace(house, readings=(*house.readings, last))
    stations = tuple(
        replace(one, readings=(*one.readings, last)) if one.id == of else one
        for one in house.stations
    )
    return replace(house, stations=stations)


def locks(house: Job, of: str, permission: str) -> set[str]:
    said = assess(view(house, of))
    named = next(one for one in said.permissions if (one.id, one.scope) == (permission, ""))
    return {lock.rule_id for lock in said.locks if lock.id in named.locks}


class Views(TestCase):
    def test_a_job_with_one_inverter_is_its_own_view(self) -> None:
        job = sample_job()
        self.assertIs(view(job, job.id), job)
        self.assertEqual(assess_every(job), (assess(job),))
        with self.assertRaises(KeyError):
            view(job, BARN.id)

    def test_a_view_put_back_unchanged_is_the_house(self) -> None:
        for of in IDS:
            with self.subTest(of=of):
                self.assertEqual(merged(BARN, of, view(BARN, of)), BARN)

    def test_a_permit_has_to_cover_all_inverters_of_the_house(self) -> None:
        rated = [one.source.rated_ac_w for one in views(BARN)]
        for granted_w, verdict in ((max(rated), "watch"), (sum(rated), "clear")):
            permit = Permit(operator="Grid", reference="R 2", granted_on=None, export_w=granted_w)
            house = replace(BARN, arrival=replace(BARN.arrival, permit=permit))
            for one in assess_every(house):
                with self.subTest(granted_w=granted_w, inverter=one.name):
                    found = {each.rule_id: each for each in one.arrive.judgements}
                    self.assertEqual(found["permit_export"].verdict, verdict)
                    self.assertEqual(found["permit_export"].value, sum(rated))
                    waits = {each.rule_id for each in one.talk.judgements}
                    self.assertEqual("export_limit_planned" in waits, verdict == "watch")

    def test_whether_the_operator_is_asked_first_goes_by_the_fullest_phase_of_all(self) -> None:
        said = {
            each.reason
            for one in assess_every(BARN)
            for each in one.arrive.judgements
            if each.rule_id == "notification"
        }
        fullest_a = figure(BARN.source.rated_ac_w / BARN.source.nominal_v, "A")
        self.assertEqual(len(said), 1)
        self.assertIn(fullest_a, said.pop())

    def test_the_file_holds_the_whole_house(self) -> None:
        self.assertEqual(read_job(write_job(BARN).encode()), BARN)
        for one in views(BARN):
            self.assertEqual(read_job(write_job(one).encode()).stations, ())

    @settings(max_examples=30)
    @given(st.lists(st.tuples(st.sampled_from(IDS), st.sampled_from(EDITS)), max_size=4))
    def test_an_edit_of_one_leaves_the_others_as_they_are(
        self, steps: list[tuple[str, dict[str, Any]]]
    ) -> None:
        house = BARN
        for of, data in steps:
            try:
                made = edited(house, of, data)
            except Refused:
                # The same edit twice: a name that is taken by then.
                continue
            for other in IDS:
                if other != of:
                    self.assertEqual(own_plan(made, other), own_plan(house, other), data["do"])
            self.assertEqual(read_job(write_job(made).encode()), made)
            for each in IDS:
                self.assertEqual(merged(made, each, view(made, each)), made, data["do"])
            house = made
        for one in views(house):
            assess(one)

    def test_what_is_shared_changes_for_all_and_what_is_own_for_one(self) -> None:
        made = edited(BARN, LEAN_TO.id, EDITS[-1])
        self.assertEqual({one.board for one in made.stations}, {"Main board"})
        for one in views(made):
            board = one.feed.device("Main board")
            self.assertEqual(board.busbar_a, 160)
            rated = 25 if one.id == LEAN_TO.id else own_plan(BARN, one.id)[-3].rated_a
            self.assertEqual(board.breaker.rated_a, rated)

    def test_a_way_with_another_name_still_holds_what_others_lead_through_it(self) -> None:
        way = next(one for one in BARN.feed.containments if one.holds)
        shared = replace(way, holds=(*way.holds, "string C"))
        ways = tuple(shared if one is way else one for one in BARN.feed.containments)
        house = replace(BARN, feed=replace(BARN.feed, containments=ways))
        put = {"do": "put_containment", "was": way.name, "name": "Loft way", "way": way.way,
               "holds": list(way.holds), "width_mm": "60 mm", "height_mm": "60 mm",
               "parted": "alone", "slack_m": "0 m", "signal_mm": ""}  # fmt: skip
        made = edited(house, BARN.id, put)
        found = next(one for one in made.feed.containments if one.name == "Loft way")
        self.assertEqual(set(found.holds), set(shared.holds))

    def test_readings_of_the_house_count_for_each_and_others_for_one(self) -> None:
        house = read_on(BARN, YARD.id, "conductor_voltage", "L1-L2", 408.0)
        house = read_on(house, YARD.id, "nameplate_power", "inverter", 3000.0, 1)
        for one in views(house):
            kinds = {(r.kind, r.subject) for r in one.readings}
            self.assertIn(("conductor_voltage", "L1-L2"), kinds)
            own = ("nameplate_power", "inverter") in kinds
            self.assertEqual(own, one.id == YARD.id)
        # On three phases a phase that nobody named is not the next inverter's.
        house = read_on(BARN, LEAN_TO.id, "supply_voltage", "L-N", 239.0)
        self.assertEqual(len(house.readings), len(BARN.readings))

    def test_each_phase_is_asked_by_its_name(self) -> None:
        for one, phase in zip(views(BARN), (1, 2, 3), strict=True):
            asked = [ask.subject for ask in assess(one).asks if ask.kind == "supply_voltage"]
            self.assertEqual(asked, [f"L{phase}-N"])

    def test_a_copy_brings_the_plan_and_new_identities(self) -> None:
        made = copied(BARN, "5a170006-7e1d-4c3a-9b60-2f0e1d3c4bff")
        ids = {made.id, *(one.id for one in made.stations)}
        self.assertFalse(ids & set(IDS))
        self.assertEqual(len(ids), 3)
        kept = (getattr(one, name) for one in (made, *made.stations) for name in KEPT_APART)
        self.assertFalse(any(kept))


class Together(TestCase):
    def test_all_of_them_stand_on_the_busbar_and_on_their_phase(self) -> None:
        # On L1 63 A of the supply and 32 A; on the other lines 63 and 20.
        for one in views(BARN):
            self.assertEqual(judged(one, "busbar_sum").value, 63 + 32)
        same = applied(
            BARN, YARD.id, read_edit({**EDITS[0], "earth_system": "TN", "phase": "1"}), SHIPPED
        )
        for one in (view(same, YARD.id), view(same, BARN.id)):
            self.assertEqual(judged(one, "busbar_sum").value, 63 + 32 + 20)
        # 5 kVA and 3 kVA on L1, 3 kVA on L2: at the worst the first two alone.
        self.assertAlmostEqual(judged(view(same, BARN.id), "unbalance_limit").value, 8.0)
        self.assertAlmostEqual(judged(view(BARN, BARN.id), "unbalance_limit").value, 5.0)

    def test_nothing_is_opened_while_another_is_on_and_none_goes_on_beside_a_half(self) -> None:
        house = read_on(BARN, YARD.id, "switch_stands", "ac", 1.0)
        house = read_on(house, YARD.id, "switch_stands", "dc", -1.0, 1)
        for of in (BARN.id, LEAN_TO.id):
            self.assertIn("sister_off", locks(house, of, "open"))
            self.assertNotIn("sister_off", locks(house, of, "ac"))
            self.assertIn("sister_done", locks(house, of, "ac"))
        self.assertNotIn("sister_off", locks(house, YARD.id, "open"))
        off = read_on(house, YARD.id, "switch_stands", "ac", -1.0, 2)
        self.assertFalse({"sister_off", "sister_done"} & locks(off, LEAN_TO.id, "open"))
        self.assertFalse({"sister_off", "sister_done"} & locks(off, LEAN_TO.id, "ac"))

    def test_a_reading_is_past_when_its_own_string_changes_alone(self) -> None:
        house = read_on(BARN, YARD.id, "open_circuit", YARD.strings[0].name, 300.0)
        house = read_job(write_job(house).encode())
        shorter = {"do": "set_home_run", "name": "OWN", "length_m": "40 m", "section_mm2": "4 mm²"}
        for of, past in ((LEAN_TO.id, 0), (YARD.id, 1)):
            made = view(edited(house, of, shorter), YARD.id)
            self.assertEqual(len(past_ids(made)), past)


class BesideARoof(TestCase):
    def test_a_wall_inverter_beside_a_roof_of_microinverters(self) -> None:
        roof = read_job((DEMO / "slipway-cottage.json").read_bytes())
        add = {"do": "add_inverter", "name": "Shed inverter", "inverter": "hathmoor-3",
               "board": "Board"}  # fmt: skip
        house = applied(roof, roof.id, read_edit(add), SHIPPED)
        units, shed = views(house)
        self.assertEqual(units.feed.devices, roof.feed.devices)
        self.assertEqual([one.name for one in units.feed.others], ["Shed inverter"])
        self.assertEqual((units.micro, shed.micro), (roof.micro, None))
        self.assertNotIn("Branch board", [one.name for one in shed.feed.devices])
        self.assertEqual([one.board for one in shed.feed.others], ["Board"])
        # 3 kVA over what the roof's own breakers put on the bar.
        before, after = judged(roof, "busbar_sum"), judged(units, "busbar_sum")
        self.assertAlmostEqual(after.value - before.value, 3000 / 230)
        self.assertEqual(merged(house, shed.id, shed), house)


class Goods(TestCase):
    def test_what_is_shared_is_counted_once(self) -> None:
        each = [{one.id: one.count for one in load_in(job)} for job in views(BARN)]
        whole = {one.id: one.count for one in load_in(alone(views(BARN)[0]))}
        for line in ("rail_m", "mid_clamps", "end_clamps"):
            self.assertAlmostEqual(sum(one.get(line, 0) for one in each), whole[line], delta=1)
        self.assertEqual([one["modules"] for one in each], [20, 8, 8])
        surges = [name for one in each for name in one if name.startswith("AC, type")]
        self.assertEqual(len(surges), 1)
        breakers = [n for one in each for n in one if n.startswith("path") and "B" in n]
        self.assertEqual(len(breakers), 3, breakers)


class BadInput(TestCase):
    def refused(self, **changes: Any) -> str:
        with self.assertRaises(Refused) as caught:
            replace(BARN, **changes)
        return " ".join(f"{p.path} {p.allowed} {p.message}" for p in caught.exception.problems)

    def station(self, **changes: Any) -> tuple[Station, ...]:
        return (LEAN_TO, replace(YARD, **changes))

    def test_what_two_inverters_cannot_share_is_refused(self) -> None:
        drawn = LEAN_TO.strings[0].places
        strings = (replace(YARD.strings[0], places=drawn),)
        for changes, said in (
            ({"id": LEAN_TO.id}, "stations[1].id"),
            ({"name": LEAN_TO.name}, "stations[1].name"),
            ({"board": "Attic"}, "stations[1].board"),
            ({"grid": LEAN_TO.grid}, "another inverter's address"),
            ({"strings": strings}, "hangs on another inverter already"),
            ({"strings": (replace(YARD.strings[0], name="A"),)}, "a name of no other string"),
            ({"strings": (replace(YARD.strings[0], plane="Moon"),)}, "strings[0].plane"),
        ):
            with self.subTest(said=said):
                self.assertIn(said, self.refused(stations=self.station(**changes)))
        self.assertIn("Every inverter is a device", self.refused(stations=(LEAN_TO,)))

    def test_a_seventh_inverter_and_one_of_which_something_was_read(self) -> None:
        house = BARN
        for number in range(3):
            add = {"do": "add_inverter", "name": f"More {number}", "inverter": "hathmoor-3",
                   "board": "Board"}  # fmt: skip
            house = applied(house, house.id, read_edit(add), SHIPPED)
        with self.assertRaisesRegex(Refused, "6 inverters at most"):
            applied(house, house.id, read_edit({**add, "name": "Seventh"}), SHIPPED)
        gone = read_edit({"do": "remove_inverter", "name": YARD.name})
        self.assertEqual(len(applied(BARN, BARN.id, gone, SHIPPED).stations), 1)
        read = read_on(BARN, YARD.id, "nameplate_power", "inverter", 3000.0)
        with self.assertRaisesRegex(Refused, "Readings were kept"):
            applied(read, read.id, gone, SHIPPED)
        first = read_edit({"do": "remove_inverter", "name": "Inverter"})
        with self.assertRaises(Refused):
            applied(BARN, BARN.id, first, SHIPPED)

    def test_a_wrong_reading_is_refused_where_it_stands(self) -> None:
        data = json.loads(write_job(read_on(BARN, YARD.id, "nameplate_power", "inverter", 3000.0)))
        data["stations"][1]["readings"][0]["subject"] = "toaster"
        with self.assertRaises(Refused) as caught:
            read_job(json.dumps(data).encode())
        self.assertIn("$.stations[1].readings", caught.exception.problems[0].path)
