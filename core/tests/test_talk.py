"""Stage 6 as a whole: its plan edited, what it locks elsewhere, what reports over time."""

from __future__ import annotations

import json
import math
from dataclasses import replace
from datetime import timedelta
from functools import cache
from typing import Any
from unittest import TestCase

from core.assess import assess
from core.assessment.talk import ReportState, TalkStage
from core.base.errors import Refused
from core.edits.every import read_edit
from core.equipment import catalogue
from core.files.job import read_job, write_job
from core.files.unit_list import read_unit_list
from core.interlocks import refuse_if_locked
from core.job.feed import BackupPlan
from core.job.house import views
from core.job.job import Job
from core.job.microinverter import GatewayRead, GatewayUnit
from core.stages.wake.conditions import unmet
from core.tests.commissioned import proved, ready_job, settings_made, switching, talking, woken
from core.tests.golden import DEMO
from core.tests.samples import NOON, sample_job, with_reading

ALIVE = 2


@cache
def demo(name: str) -> Job:
    return read_job((DEMO / f"{name}.json").read_bytes())


@cache
def linked() -> Job:
    return talking(settings_made(proved(ready_job())))


def edited(job: Job, do: str, **fields: Any) -> Job:
    return read_edit({"do": do, **fields}).apply(job, catalogue.SHIPPED)


def verdicts(job: Job) -> dict[str, str]:
    """The gravest verdict of each rule of this stage, wherever it stands."""
    found: dict[str, str] = {}
    for point in assess(job).open_points:
        if point.stage == 6 and found.get(point.judgement.rule_id) != "stop":
            found[point.judgement.rule_id] = point.judgement.verdict
    return found


def may(job: Job, permission: str) -> str:
    states = assess(job).permissions
    return next(one.verdict for one in states if one.id == permission and not one.scope)


class Planned(TestCase):
    def refused(self, job: Job, word: str, do: str, **fields: Any) -> None:
        with self.assertRaises(Refused) as caught:
            edited(job, do, **fields)
        said = " ".join(f"{one.path} {one.message}" for one in caught.exception.problems)
        self.assertIn(word, said)

    def test_a_job_of_before_reads_as_it_was_and_only_leave_waits_for_this(self) -> None:
        job = settings_made(proved(ready_job()))
        plain = json.loads(write_job(job))
        del plain["talk"]
        older = read_job(json.dumps(plain).encode())
        self.assertIsNone(older.talk)
        done = assess(woken(older))
        self.assertEqual(may(woken(older), "run"), "clear")
        self.assertEqual((done.stands_at, done.stages[5].verdict), (6, "waiting"))

    def test_a_battery_that_nobody_planned_a_line_for_is_not_left_running(self) -> None:
        job = replace(
            settings_made(proved(ready_job())),
            feed=replace(ready_job().feed, backup=BackupPlan(limit_a=63.0)),
        )
        locks = {lock.rule_id for lock in assess(job).locks}
        self.assertIn("battery_talks", locks)
        self.assertNotIn("battery_talks", {one.rule_id for one in assess(linked()).locks})
        # A plan without the controller says nothing of the battery, one without lines neither.
        empty = edited(job, "set_way_out", way="none", reason="on purpose")
        self.assertIn("battery_talks", {lock.rule_id for lock in assess(empty).locks})
        loose = edited(demo("sail-loft"), "remove_talk_wire", name="Chain 2")
        self.assertEqual(verdicts(loose)["chain_planned"], "stop")
        self.assertEqual(may(loose, "run"), "stop")

    def test_a_linked_house_ends_at_leave(self) -> None:
        done = assess(woken(linked()))
        self.assertEqual(done.talk.line, "Linked.")
        self.assertEqual((done.stands_at, done.stages[5].verdict), (10, "clear"))
        again = read_job(write_job(linked()).encode())
        self.assertEqual(again.talk, linked().talk)

    def test_bad_input_is_refused_by_name_and_nothing_is_kept(self) -> None:
        job, wire = linked(), {"was": None, "name": "X", "function": "bus"}
        self.refused(job, "COM 9", "place_talk_wire", wire="Meter", device="Inverter", port="COM 9")
        self.refused(job, "no port BUS", "put_talk_wire", device="Inverter", port="BUS", **wire)
        self.refused(job, "Shed", "put_talk_wire", device="Shed", **wire)
        self.refused(job, "begins and ends", "put_talk_wire", device="Meter", far="Meter", **wire)
        self.refused(job, "ratio", "set_talk_meter", sheet=None, ratio="0")
        clamps = [{"phase": "1", "to_house": True}] * 2
        self.refused(job, "Two clamps on L1", "set_talk_meter", sheet=None, clamps=clamps)
        place = {"device": "Inverter", "secret": "device", "place": "hunter2"}
        self.refused(job, "place", "put_secret_place", **place)
        self.refused(job, "address", "put_talk_device", was="Meter", name="Meter", address="248")
        account = {"portal": "P", "owner_name": "O", "address": "A", "modules": "10"}
        self.refused(job, "mail", "set_account", owner_mail="no mail", power_kw="4", **account)
        kilo = {"owner_mail": "o@p.example", "power_kw": "7200"}
        self.refused(job, "power", "set_account", **kilo, **account)
        for bad in (4.0, -121.0, math.nan):
            with self.assertRaises(Refused):
                with_reading(job, "signal_dbm", "device", bad)

    def test_functions_find_their_ports_or_say_what_stands_against_it(self) -> None:
        job = edited(
            linked(), "put_talk_wire", was=None, name="Store", function="battery", device="Inverter"
        )
        offer = assess(job).talk.offer
        assert offer is not None
        self.assertFalse(offer.fits)
        self.assertIn("meter", offer.line)
        self.assertIn("battery data", offer.line)
        self.refused(job, "Never together", "take_port_offer")
        both = edited(job, "place_talk_wire", wire="Store", device="Inverter", port="COM 1")
        self.assertEqual(verdicts(both)["port_carries"], "stop")
        self.assertEqual(may(both, "dc"), "stop")

    def test_a_way_that_no_device_goes_is_not_chosen(self) -> None:
        job = edited(linked(), "set_way_out", way="short_radio")
        self.assertEqual(verdicts(job)["way_out_chosen"], "waiting")

    def test_a_logger_or_gateway_goes_out_only_by_a_way_of_its_own_sheet(self) -> None:
        for name, goes, not_so in (
            ("ferry-office", "logger", ("wifi", "short_radio")),
            ("slipway-cottage", "wifi", ("mobile", "short_radio")),
        ):
            for way in (goes, *not_so):
                job = edited(demo(name), "set_way_out", way=way, consent=True, spare_port=True)
                said = verdicts(job).get("way_out_chosen", "clear")
                self.assertEqual(said, "clear" if way == goes else "waiting", (name, way))
        self.assertNotEqual(assess(job).talk.line, "Linked.")
        later = edited(
            linked(), "put_talk_wire", was=None, name="Later", function="alarm",
            device="Inverter", port="ALARM", no_device_yet=True, length_m="3", cores="2",
            outside_mm="5", shield="this",
        )  # fmt: skip
        self.assertEqual(verdicts(later)["comes_later"], "watch")

    def test_a_device_with_another_name_or_sheet_takes_its_wires_along(self) -> None:
        named = edited(
            linked(), "put_talk_device", was="Inverter", name="Hall unit", sheet=None, of="Inverter"
        )
        plan = named.talk
        assert plan is not None
        self.assertEqual({one.device for one in plan.wires}, {"Hall unit", "Board"})
        self.assertEqual(plan.device("Board").of, "Hall unit")
        other = edited(
            named, "put_talk_device", was="Hall unit", name="Hall unit", sheet="hathmoor-ports"
        )
        assert other.talk is not None
        meter = next(one for one in other.talk.wires if one.name == "Meter")
        self.assertEqual((meter.port, meter.far_port), ("", "COM"))
        # What was read of ports that are gone is kept, and the gone stay known.
        self.assertEqual(len(other.readings), len(linked().readings))
        self.assertEqual(len(read_job(write_job(other).encode()).readings), len(other.readings))


class House(TestCase):
    def test_what_is_read_of_the_chain_is_read_for_every_inverter(self) -> None:
        """A battery of the first inverter is none of another's, and its readings harm no view."""
        job = edited(demo("curlew-barn"), "put_talk_device", was=None, name="Battery 1",
                     sheet="skerrow-keep-talk")  # fmt: skip
        job = with_reading(job, "end_resistor", "Battery 1", 1)
        job = with_reading(job, "signal_dbm", "device", -60)
        seen = [{one.kind for one in view.readings} for view in views(job)]
        self.assertEqual(len(seen), 3)
        for kinds in seen:
            self.assertLessEqual({"end_resistor", "signal_dbm"}, kinds)
        self.assertEqual(len({assess(view).talk.bus for view in views(job)}), 1)


class Locks(TestCase):
    def test_another_cable_or_port_makes_what_was_seen_there_past(self) -> None:
        job = read_job(write_job(linked()).encode())
        self.assertEqual(may(job, "dc"), "clear")
        plan = job.talk
        assert plan is not None
        moved = edited(job, "place_talk_wire", wire="Meter", device="Inverter", port="")
        self.assertNotEqual(may(moved, "dc"), "clear")
        self.assertIn("wire_on_port", verdicts(moved))

    def test_no_hole_is_drilled_for_a_device_that_hears_nothing(self) -> None:
        job = edited(demo("beacon-row-7"), "set_way_out", way="wifi", consent=True)
        drill = next(one for one in assess(job).hang.devices if one.kind == "inverter").drill
        self.assertEqual(drill.verdict, "clear")
        later = job.readings[-1].taken_at + timedelta(minutes=5) - NOON
        deaf = with_reading(job, "signal_dbm", "device", -90.0, minute=later.total_seconds() / 60)
        drill = next(one for one in assess(deaf).hang.devices if one.kind == "inverter").drill
        self.assertEqual(drill.verdict, "stop")
        self.assertIn("−90", drill.line)

    def test_nobody_sets_out_without_the_code(self) -> None:
        job = demo("sail-loft")
        gone = with_reading(job, "talk_ready", "Inverter · code", -1, minute=900_000)
        self.assertEqual(assess(gone).arrive.start.verdict, "stop")
        self.assertIn("service code", assess(gone).arrive.start.line)

    def test_pairing_and_battery_wait_for_their_part_and_their_controller(self) -> None:
        job = demo("sail-loft")
        self.assertIn("activation", unmet(switching(job), "activation_in"))
        self.assertIn("Controller", unmet(switching(job), "controller_talks"))
        for kind, subject, value in (
            ("activation_in", "Inverter", 1), ("controller_up", "Controller", 1),
            ("end_resistor", "Battery 1", 1), ("end_resistor", "Battery 2", 1),
            ("drain_wire", "battery", 1), ("drain_wire", "controller", 1),
        ):  # fmt: skip
            job = with_reading(job, kind, subject, value)
        self.assertEqual(unmet(switching(job), "activation_in"), "")
        self.assertIn("out of Battery 1", unmet(switching(job), "controller_talks"))
        job = with_reading(job, "end_resistor", "Battery 1", -1, minute=5)
        self.assertEqual(unmet(switching(job), "controller_talks"), "")

    def test_in_the_dead_before_it_is_opened_alive_before_anything_feeds(self) -> None:
        groups = assess(demo("lantern-house")).talk.groups
        self.assertNotEqual(groups[0].gate.verdict, "clear")
        self.assertEqual([one.id for one in groups], ["inside", "outside", "alive"])
        self.assertEqual(groups[1].gate.verdict, "waiting")
        self.assertEqual(groups[ALIVE].gate.verdict, "clear")

    def test_a_battery_without_a_meter_is_a_stop_and_so_is_a_page_not_saved(self) -> None:
        job = edited(demo("sail-loft"), "set_talk_meter", sheet="")
        self.assertEqual(verdicts(job)["meter_present"], "stop")
        page = "Inverter · Country and grid setting"
        unsaved = with_reading(demo("sail-loft"), "page_saved", page, -1, minute=900_000)
        self.assertEqual(verdicts(unsaved)["page_saved"], "stop")

    def test_only_four_things_stay_open_and_only_with_a_name_and_a_day(self) -> None:
        job = replace(
            linked(),
            readings=tuple(one for one in linked().readings if one.kind != "status_row"),
        )
        self.assertEqual(verdicts(job)["link_complete"], "waiting")
        left = edited(
            job, "leave_talk_open", what="link_complete", owner="Mina Tarrow", due="2026-07-02"
        )
        self.assertEqual(verdicts(left)["kept_open"], "watch")
        self.assertNotIn("link_complete", verdicts(left))
        self.assertEqual(verdicts(edited(left, "leave_talk_open", what="link_complete", owner=""))
                         ["link_complete"], "waiting")  # fmt: skip
        with self.assertRaises(Refused):
            edited(job, "leave_talk_open", what="port_carries", owner="Mina", due="2026-07-02")


class Reported(TestCase):
    def counts(self, *looks: tuple[float, float]) -> ReportState:
        job = with_reading(demo("sail-loft"), "pairing_began", "Inverter", 1)
        for minute, count in looks:
            job = with_reading(job, "report_count", "Inverter", count, minute=minute)
        return assess(job).talk.reporting[0]

    def test_a_count_over_time_is_held_against_the_plan(self) -> None:
        for looks, verdict in (
            (((10, 8),), "waiting"), (((10, 8), (20, 8)), "stop"), (((20, 17),), "clear"),
            (((20, 18),), "stop"), (((10, 17), (20, 16)), "watch"),
        ):  # fmt: skip
            with self.subTest(looks=looks):
                said = self.counts(*looks)
                self.assertEqual((said.plan, said.verdict), (17, verdict), said.line)
        # The device gives no names: they are asked for, never guessed.
        short = self.counts((20, 8))
        self.assertEqual(short.silent, ())
        self.assertIn("Never guess", short.do)
        self.assertEqual([one.at_min for one in short.counts], [20.0])

    def roof(self, *, late: tuple[str, ...] = (), source: Any = "protocol") -> Job:
        job = demo("slipway-cottage")
        serials = {one.subject: one.text for one in job.readings if one.kind == "unit_serial"}
        units = tuple(
            GatewayUnit(serial=serial, reporting=name not in late)
            for name, serial in serials.items()
        )
        looked = GatewayRead(
            id="0" * 8 + "-0000-4000-8000-000000000000", at=job.readings[-1].taken_at, by="Ada",
            host="127.0.0.1", port=502, outcome="read", detail="", units=units, source=source,
        )  # fmt: skip
        return replace(job, gateway_reads=(looked,))

    def test_a_silent_unit_is_told_by_its_place_with_the_nearest_that_speak(self) -> None:
        talk = assess(self.roof(late=("U3",))).talk
        silent = {one.name: one for one in talk.reporting[0].silent}
        self.assertIn("U3", silent)
        self.assertTrue(silent["U3"].place and silent["U3"].serial)
        self.assertEqual(len(silent["U3"].near), 2)
        self.assertNotIn("U3", silent["U3"].near)

    def test_a_list_with_one_sign_off_names_what_it_may_be(self) -> None:
        job = self.roof(source="typed")
        (looked,) = job.gateway_reads
        first = looked.units[0].serial
        wrong = first[:-1] + ("0" if first[-1] != "0" else "1")
        units = (replace(looked.units[0], serial=wrong), *looked.units[1:])
        listed = replace(job, gateway_reads=(replace(looked, units=units),))
        roof = assess(listed).roof
        assert roof is not None
        self.assertEqual(roof.gateway.verdict, "stop")
        self.assertIn(f"{wrong} (one sign off {first})", roof.gateway.line)
        twice = replace(
            job, gateway_reads=(replace(looked, units=(*looked.units, looked.units[0])),)
        )
        doubled = assess(twice).roof
        assert doubled is not None
        self.assertIn("more than once", doubled.gateway.line)

    def test_a_gateway_without_names_is_counted_and_that_is_no_proof(self) -> None:
        job = edited(
            demo("slipway-cottage"), "put_talk_device", was="Gateway", name="Gateway",
            sheet="skerrow-whisper",
        )  # fmt: skip
        for count, verdict in ((18, "watch"), (17, "stop")):
            counted = with_reading(job, "listed_count", "Gateway", count)
            roof = assess(counted).roof
            assert roof is not None
            self.assertEqual(roof.gateway.verdict, verdict, roof.gateway.line)

    def test_a_typed_list_is_read_whole_or_not_at_all(self) -> None:
        units = read_unit_list("TN001, TN002\nTN003;TN004")
        self.assertEqual([one.serial for one in units], ["TN001", "TN002", "TN003", "TN004"])
        for bad, word in (
            ("", "0 serials"), ("A B A B", "pasted twice"), ("A\x07B C", "signs"),
            ("x" * 61, "60"), ("A " * 401, "401"), ("A" * 50_000, "50000"),
        ):  # fmt: skip
            with self.assertRaises(Refused) as caught:
                read_unit_list(bad)
            told = str([(one.value, one.allowed, one.message) for one in caught.exception.problems])
            self.assertIn(word, told)


class Ladder(TestCase):
    def row(self, digits: str) -> TalkStage:
        return assess(
            with_reading(demo("sail-loft"), "status_row", "Inverter", 0.0, text=digits)
        ).talk

    def test_the_first_rung_that_fails_is_named_with_who_mends_it(self) -> None:
        for digits, broken, word in (
            ("11101111", 4, "who sees to the router"), ("1000 0000", 2, "the installer"),
        ):  # fmt: skip
            (ladder,) = self.row(digits).ladders
            stands = [one.stands for one in ladder.rungs]
            self.assertEqual(stands.index("broken") + 1, broken)
            self.assertIn(word, ladder.line)
            self.assertIn(f"rung {broken}", self.row(digits).line)
        again = [
            one.number for one in self.row("11101111").ladders[0].rungs if one.stands == "again"
        ]
        self.assertEqual(again, [5, 6, 7, 8])

    def test_a_row_of_another_length_is_no_row(self) -> None:
        for digits in ("1111111", "111111112", "11111112"):
            (ladder,) = self.row(digits).ladders
            self.assertEqual(ladder.verdict, "waiting")
            self.assertIn(digits, ladder.line)

    def test_what_must_not_come_yet_is_refused_and_nothing_is_kept(self) -> None:
        job = demo("sail-loft")
        for kind, subject, text, word in (
            ("status_row", "Inverter", "1111111", "8 digits"),
            ("status_row", "Inverter", "11112111", "8 digits"),
            ("pairing_began", "Inverter", "", "Activation card"),
        ):
            reading = with_reading(job, kind, subject, 1, text=text).readings[-1]  # type: ignore[arg-type]
            with self.assertRaises(Refused) as caught:
                refuse_if_locked(job, reading)
            self.assertIn(word, caught.exception.problems[0].message)
        fits = with_reading(job, "status_row", "Inverter", 0.0, text="1111 0111").readings[-1]
        refuse_if_locked(job, fits)
        ready = with_reading(job, "activation_in", "Inverter", 1)
        refuse_if_locked(ready, with_reading(ready, "pairing_began", "Inverter", 1).readings[-1])
        early = replace(
            linked(),
            readings=tuple(
                one for one in linked().readings
                if one.kind not in ("network_answers", "account_step")
            ),
        )  # fmt: skip
        entered = with_reading(early, "account_step", "entered", 1).readings[-1]
        with self.assertRaises(Refused):
            refuse_if_locked(early, entered)

    def test_a_decal_is_read_by_the_module_it_is_behind_and_twice_is_a_stop(self) -> None:
        job = demo("sail-loft")
        said = assess(job).talk.optimisers
        assert said is not None
        self.assertEqual((said.of, said.taken), (17, 0))
        first, second = (one.place for one in said.modules[:2])
        for place in (first, second):
            job = with_reading(job, "optimiser_serial", place, 0.0, text="OP-1")
        twice = assess(job).talk
        assert twice.optimisers is not None
        self.assertEqual([one.verdict for one in twice.optimisers.judgements], ["stop"])
        self.assertIn("OP-1", {row.serial for row in twice.map})
        self.assertIsNone(assess(linked()).talk.optimisers)

    def test_the_plant_page_holds_no_secret(self) -> None:
        job = with_reading(linked(), "check_code", "Inverter", 0.0, text="7K2M-SECRET")
        said = assess(job).talk
        self.assertNotIn("7K2M-SECRET", str((said.account, said.map, said.secrets)))
        self.assertIn(job.site.place, {one.value for one in said.account})

    def test_nothing_is_asked_of_a_job_without_a_plan(self) -> None:
        self.assertEqual([one for one in assess(sample_job()).asks if one.stage == 6], [])
