"""Talk's rules: limits on both sides, and the small cases that a hand can reckon."""

from __future__ import annotations

from itertools import pairwise, permutations
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from core.base.errors import Refused
from core.base.judgement import Judgement
from core.equipment import catalogue
from core.equipment.talker import PortFace, Talker
from core.registry import run_rule
from core.rules.talk.access import (
    account_agrees,
    default_password_gone,
    grid_named,
    link_complete,
    list_counted,
    role_ready,
)
from core.rules.talk.battery_chain import chain_found, chain_planned, chain_resistor, drain_wires
from core.rules.talk.bus_sound import (
    BusPiece,
    bus_addresses,
    bus_devices,
    bus_is_line,
    bus_length,
    bus_one_speed,
    bus_sound,
    devices_served,
)
from core.rules.talk.meter_live import (
    MeterProof,
    export_held,
    export_limit_kept,
    meter_loads,
    meter_sign,
    signal_tested,
)
from core.rules.talk.needs import (
    clamps_fit,
    meter_present,
    range_ok,
    signal_settled,
    talk_planned,
    way_out_chosen,
)
from core.rules.talk.ports import PortBlock, TalkPort, Wish, port_places
from core.rules.talk.wiring import (
    fitted_in_order,
    port_carries,
    seals_enough,
    shield_ends,
    wire_fits,
    wire_on_port,
)
from core.tests.table import Row, check_row

ROWS: tuple[Row, ...] = (
    (range_ok, {"least_dbm": -70.0}, "read_dbm", -60, -70, -80.5, "stop"),
    (range_ok, {"least_dbm": -70.0}, "read_dbm", -69, -70, -72, "watch"),
    (bus_length, {"most_m": 800.0}, "length_m", 120, 800, 801, "stop"),
    (bus_devices, {"most": 31}, "devices", 12, 31, 32, "stop"),
    (devices_served, {"most": 50, "loggers": 1}, "devices", 49, 50, 60, "stop"),
    (export_limit_kept, {"permit_w": 5000.0}, "set_w", 4000, 5000, 5001, "stop"),
    (export_held, {"permit_w": 5000.0}, "seen_w", 4800, 5000, 5100, "stop"),
)
# Rules of a fact, told below or with the whole stage.
OTHERWISE = {
    "account_agrees", "account_whole", "battery_talks", "bus_addresses", "bus_is_line",
    "bus_one_speed", "bus_sound", "cable_ends_known", "chain_found", "chain_planned",
    "chain_resistor", "clamps_fit", "comes_later", "default_password_gone", "drain_wires",
    "export_limit_planned",
    "fitted_in_order", "grid_named", "kept_open", "link_complete", "list_counted", "meter_loads",
    "meter_present", "meter_sign", "network_up", "other_page_saved", "page_saved", "port_carries",
    "role_ready", "seals_enough", "shield_ends", "signal_settled", "signal_tested", "talk_noted",
    "talk_planned", "way_out_chosen", "wire_fits", "wire_on_port",
}  # fmt: skip
LINE = ("I1", "I2", "I3", "I4")


def sheet(sheet_id: str) -> Talker:
    return catalogue.pick(catalogue.sheets("talkers"), sheet_id, Talker, "$")


def face(sheet_id: str, name: str) -> PortFace:
    found = sheet(sheet_id).port(name)
    assert found is not None
    return found


COM_1 = face("veyrick-5-ports", "COM 1")
ALARM = face("veyrick-5-ports", "ALARM")


class Limits(TestCase):
    def test_inside_on_and_beyond(self) -> None:
        for row in ROWS:
            check_row(self, row)

    def says(self, judged: Judgement, verdict: str, *words: str) -> None:
        said = judged.reason + " ".join(judged.needs)
        self.assertEqual(judged.verdict, verdict, said)
        for word in words:
            self.assertIn(word, said)


class Wired(Limits):
    def test_a_port_takes_what_its_sheet_says(self) -> None:
        self.says(port_carries(face=COM_1, port="COM 1", taken=("meter",)), "clear", "meter")
        both = port_carries(face=COM_1, port="COM 1", taken=("meter", "battery"))
        self.says(both, "stop", "meter", "battery", "never")
        lacks = port_carries(face=ALARM, port="ALARM", taken=("network",))
        self.says(lacks, "stop", "no network", "alarm")
        full = port_carries(face=ALARM, port="ALARM", taken=("alarm", "alarm"))
        self.says(full, "stop", "1 at once")
        aux, bus = (face("veyrick-6-ports", name) for name in ("AUX", "BUS 2"))
        clash = port_carries(face=bus, port="BUS 2", taken=("backup",), block=("surge",))
        self.says(clash, "stop", "block")
        self.says(port_carries(face=aux, port="AUX", taken=()), "clear")

    def test_a_wire_waits_for_both_ends(self) -> None:
        end = {"wire": "M", "far": "Meter"}
        self.says(wire_on_port(port="", far_port=True, **end), "waiting", "a port for M")
        self.says(wire_on_port(port="COM 1", far_port=False, **end), "waiting", "far end")
        self.says(wire_on_port(port="COM 1", far_port=True, **end), "clear")

    def test_a_cable_goes_with_its_port_or_says_why_not(self) -> None:
        cable: dict[str, Any] = {"wire": "M", "face": COM_1, "length_m": 9.0, "cores": 4}
        self.says(wire_fits(outside_mm=5.0, **cable), "clear")
        self.says(wire_fits(outside_mm=6.6, **cable), "stop", "6.6", "4", "6.5")
        self.says(wire_fits(**cable), "waiting", "outside diameter")
        self.says(wire_fits(outside_mm=5.0, **cable | {"length_m": 51.0}), "stop", "51", "50")
        self.says(wire_fits(outside_mm=5.0, **cable | {"cores": 3}), "stop", "3 cores")

    def test_a_shield_ends_once_and_on_its_pin(self) -> None:
        alarm = {"wire": "A", "shielded": True, "sheet_pin": 8}
        self.says(shield_ends(ends=1, **alarm), "clear")
        # By hand: the alarm's shield belongs on pin 8; on pin 1 it would be on alarm minus.
        self.says(shield_ends(ends=1, pin=1, **alarm), "stop", "pin 1", "8")
        self.says(shield_ends(ends=2, **alarm), "stop", "2 ends", "1")
        self.says(shield_ends(ends=2, both=True, **alarm), "clear")
        self.says(shield_ends(ends=0, **alarm), "waiting")

    def test_three_seals_wanted_and_two_supplied_is_a_stop(self) -> None:
        self.says(seals_enough(device="I", wanted=3, supplied=2), "stop", "3", "2")
        self.says(seals_enough(device="I", wanted=3, supplied=3), "clear")

    def test_wired_before_its_board_is_looked_at(self) -> None:
        self.says(fitted_in_order(device="B", late=True, before="wiring"), "watch", "wiring")
        self.says(fitted_in_order(device="B", late=False, before="wiring"), "clear")


class Bus(Limits):
    @given(st.permutations(LINE))
    def test_a_line_is_a_line_however_its_cables_are_told(self, names: list[str]) -> None:
        pieces = tuple(BusPiece(start=a, end=b) for a, b in pairwise(names))
        for told in permutations(pieces):
            self.says(bus_is_line(pieces=told), "clear")

    def test_a_branch_a_loop_and_a_gap_are_stops(self) -> None:
        def judged(*pairs: str) -> Judgement:
            return bus_is_line(pieces=tuple(BusPiece(start=a, end=b) for a, b in pairs))

        self.says(judged("AB", "BC", "BD"), "stop", "branches at B")
        self.says(judged("AB", "BC", "CA"), "stop", "closes on itself")
        self.says(judged("AB", "CD"), "stop", "C, D")
        self.says(judged("AB", "BA"), "stop")

    def test_addresses_are_each_once(self) -> None:
        names = ("I1", "I2", "I3")
        self.says(bus_addresses(devices=names, addresses=(1, 2, 3)), "clear")
        self.says(bus_addresses(devices=names, addresses=(1, 2, 1)), "stop", "I1, I3")
        self.says(bus_addresses(devices=names, addresses=(1, None, 3)), "waiting", "I2")
        self.says(bus_one_speed(speeds=("9600 8N1", "19200 8E1")), "stop")

    def test_the_ohms_tell_what_is_wrong(self) -> None:
        # By hand: two of 120 Ω are 60; one alone 120; three 40.
        ends = {"expected_ohm": 60.0, "one_end_ohm": 120.0}
        for read, verdict, word in (
            (60.0, "clear", ""), (66.0, "clear", ""), (119.0, "stop", "far end"),
            (40.0, "stop", "too many"), (0.2, "stop", "touch"), (5000.0, "stop", "open"),
        ):  # fmt: skip
            self.says(bus_sound(read_ohm=read, **ends), verdict, word)


class Wrong(TestCase):
    def test_lists_of_unequal_length_and_unknown_names_are_refused_by_path(self) -> None:
        """As a rule is asked from a command line, with whatever somebody types."""
        reads = {"base_w": [1.0], "loads_w": [500.0], "load_reads_w": [[501.0]]}
        proof = {"single": True, "missing": []}
        for name, data, path in (
            ("bus_addresses", {"devices": ["a"], "addresses": [1, 2]}, "$.addresses"),
            ("bus_ohm", {"cables_m": [1], "resistors": [True], "core_ohm_per_m": 0.1}, "resistors"),
            ("chain_resistor", {"batteries": ["a", "b"], "fitted": [1]}, "$.fitted"),
            ("drain_wires", {"ends": ["a"], "signs": []}, "$.signs"),
            ("meter_loads", {"proof": reads | {"load_reads_w": []}} | proof, "load_reads_w"),
            ("meter_loads", {"proof": reads | {"base_w": [1.0, 2.0]}} | proof, "load_reads_w[0]"),
            ("meter_loads", {"proof": reads} | proof | {"single": False}, "base_w"),
            ("signal_settled", {"signal": "x", "how": "", "reason": "", "wired": True}, "signal"),
            ("meter_present", {"wanted": ["x"], "fitted": True, "wired": True}, "wanted"),
            ("fitted_in_order", {"device": "B", "late": True, "before": "x"}, "before"),
            ("link_complete", {"read": True, "mends": "x"}, "mends"),
            ("range_ok", {"read_dbm": 4.0}, "read_dbm"),
            (
                "reporting_counts",
                {
                    "plan": 9, "last_min": 20,
                    "counts": [{"at_min": 5, "count": 1}, {"at_min": 4, "count": 2}],
                },
                "counts[1].at_min",
            ),
        ):  # fmt: skip
            with self.subTest(rule=name, path=path):
                with self.assertRaises(Refused) as caught:
                    run_rule(name, data)
                self.assertIn(path, caught.exception.problems[0].path)


class Meter(Limits):
    def test_needed_and_not_there_or_not_wired(self) -> None:
        self.says(meter_present(wanted=(), fitted=False, wired=False), "clear")
        self.says(meter_present(wanted=("battery",), fitted=False, wired=False), "stop", "battery")
        self.says(meter_present(wanted=("backup",), fitted=True, wired=False), "stop", "no port")
        self.says(meter_present(wanted=("export",), fitted=True, wired=True), "clear")
        self.says(clamps_fit(clamps=1, phases=3, own=3), "stop")
        self.says(clamps_fit(clamps=3, phases=3, own=3), "clear")
        self.says(clamps_fit(clamps=0, phases=1, own=0), "clear")

    @settings(max_examples=60, deadline=None)
    @given(
        st.permutations((0, 1, 2)),
        st.tuples(st.booleans(), st.booleans(), st.booleans()),
        st.tuples(*(st.floats(-500, 3000),) * 3),
        st.floats(1500, 3000),
    )
    def test_a_meter_wired_in_any_way_is_told_right_only_when_it_is(
        self, on: list[int], turned: tuple[bool, ...], base: tuple[float, ...], load: float
    ) -> None:
        """Another route: what each channel must show, from power and angle by hand."""

        # A resistive current seen against a voltage 120° away gives minus half of its power.
        def shown(phase: int) -> tuple[float, ...]:
            return tuple(
                base[k] + (-1 if turned[k] else 1) * load * (1.0 if k == phase else -0.5)
                if on[k] == phase
                else base[k]
                for k in range(3)
            )

        proof = MeterProof(
            base_w=base, loads_w=(load,) * 3, load_reads_w=tuple(shown(p) for p in range(3))
        )
        judged = meter_loads(proof=proof, single=False, missing=())
        right = list(on) == [0, 1, 2] and not any(turned)
        self.assertEqual(judged.verdict, "clear" if right else "stop", judged.reason)
        for k, phase in enumerate(on, start=1):
            if phase != k - 1:
                self.assertIn(f"clamp {k} sits on L{phase + 1}", judged.reason)

    def test_one_phase_with_a_turned_arrow_or_a_wrong_ratio(self) -> None:
        for read, verdict, word in (
            (2400.0, "clear", ""), (-1600.0, "stop", "turned"), (4400.0, "stop", "2 times"),
            (1050.0, "stop", "No pairing"),
        ):  # fmt: skip
            proof = MeterProof(base_w=(400.0,), loads_w=(2000.0,), load_reads_w=((read,),))
            self.says(meter_loads(proof=proof, single=True, missing=()), verdict, word)
        small = MeterProof(base_w=(400.0,), loads_w=(100.0,), load_reads_w=((500.0,),))
        self.says(meter_loads(proof=small, single=True, missing=()), "waiting", "300")

    def test_in_weak_sun_the_fall_is_judged_and_not_the_sign(self) -> None:
        def judged(output: float, reads: float) -> Judgement:
            return meter_sign(
                proof=MeterProof(
                    base_w=(2000.0,), loads_w=(), load_reads_w=(), feeding_w=output,
                    feeding_reads_w=(reads,),
                )
            )  # fmt: skip

        self.says(judged(800.0, 1200.0), "clear")
        self.says(judged(3000.0, -1000.0), "clear")
        self.says(judged(800.0, 2800.0), "stop", "rose")
        self.says(judged(800.0, 1900.0), "stop")
        self.says(judged(120.0, 1880.0), "waiting", "300")
        self.says(meter_sign(proof=None), "waiting")


class Signals(Limits):
    def test_wired_blanked_or_a_reason(self) -> None:
        self.says(signal_settled(signal="ripple", how="", reason="", wired=False), "waiting")
        self.says(signal_settled(signal="ripple", how="wired", reason="", wired=False), "stop")
        self.says(signal_settled(signal="ripple", how="wired", reason="", wired=True), "clear")
        self.says(
            signal_settled(signal="ripple", how="not_required", reason="", wired=False), "stop"
        )
        said = signal_settled(signal="ripple", how="not_required", reason="by letter", wired=False)
        self.says(said, "clear", "by letter")

    def test_a_step_above_what_the_sun_gave_proves_nothing(self) -> None:
        def judged(pct: float, *watts: float | None) -> Judgement:
            before, at, after = watts
            return signal_tested(
                step_pct=pct, rated_w=5000.0, before_w=before, at_w=at, after_w=after
            )

        self.says(judged(30, 4000, 1450, 3900), "clear")
        self.says(judged(60, 2000, 2000, 2000), "waiting", "more sun")
        self.says(judged(0, 4000, 900, 4000), "stop", "stays")
        self.says(judged(0, 4000, 0, 300), "stop", "does not come back")
        self.says(judged(0, 4000, None, None), "waiting")
        # Standing still from the start is no proof that the contact did it.
        self.says(judged(0, 0, 0, 0), "waiting")


class Around(Limits):
    def test_access_and_account(self) -> None:
        own = {"device": "I", "secret": "device"}
        self.says(default_password_gone(place="envelope", sign=1, **own), "clear", "envelope")
        self.says(default_password_gone(place="", sign=1, **own), "waiting", "where")
        self.says(default_password_gone(place="envelope", sign=0, **own), "waiting")
        self.says(default_password_gone(place="", sign=-1, **own), "stop", "maker")
        self.says(role_ready(device="I", what="code", sign=-1), "stop", "service code")
        plan = "en-50549-1"
        self.says(grid_named(named="EN 50549-1, v3", profile=plan, permitted=""), "clear")
        self.says(grid_named(named="VDE 4105", profile=plan, permitted=plan), "stop", plan)
        self.says(grid_named(named="EN 50549-10", profile=plan, permitted=""), "stop")
        self.says(grid_named(named="VDE-AR-N 4105", profile="de-4105", permitted=""), "clear")
        region = {"profile": "au-4777-a", "permitted": ""}
        self.says(grid_named(named="AS/NZS 4777.2 Australia A", **region), "clear")
        self.says(grid_named(named="AS/NZS 4777.2 Australia B", **region), "stop")
        self.says(grid_named(named="", profile=plan, permitted=plan), "waiting")
        self.says(grid_named(named=plan, profile=plan, permitted="de-4105"), "stop")
        same = account_agrees(what="address", entered="7 Beacon Row, Pellwick", plan="Pellwick")
        self.says(same, "clear")
        self.says(account_agrees(what="modules", entered="20", plan="21"), "stop", "20", "21")
        self.says(list_counted(counted=20, units=20), "watch", "unproved")
        self.says(list_counted(counted=19, units=20), "stop")
        self.says(talk_planned(planned=False), "waiting")
        self.says(way_out_chosen(way="none", missing=(), said="No way out."), "watch")

    def test_a_broken_rung_names_itself_and_who_mends_it(self) -> None:
        broken = link_complete(
            read=True, broken=4, name="internet reached", look="Look at the router.",
            mends="router", again="5, 6",
        )  # fmt: skip
        self.says(broken, "stop", "rung 4", "internet reached", "router", "5, 6")
        self.says(link_complete(read=False, misread="1110", wanted=8), "waiting", "8 digits")
        self.says(link_complete(read=True), "clear")

    def test_the_chain_ends_in_its_last_battery(self) -> None:
        two = ("Battery 1", "Battery 2")
        self.says(chain_resistor(batteries=two, fitted=(1, 1)), "stop", "out of Battery 1")
        self.says(chain_resistor(batteries=two, fitted=(-1, -1)), "stop", "in Battery 2")
        self.says(chain_resistor(batteries=two, fitted=(-1, 1)), "clear")
        self.says(chain_resistor(batteries=two, fitted=(None, 1)), "waiting", "Battery 1")
        self.says(drain_wires(ends=("battery", "controller"), signs=(1, None)), "waiting")
        self.says(drain_wires(ends=("battery", "controller"), signs=(1, -1)), "stop")
        self.says(chain_found(found=1, planned=2), "stop")
        self.says(chain_planned(devices=1, units=2, wires=2), "stop", "1", "2")
        self.says(chain_planned(devices=2, units=2, wires=1), "stop", "1 lines")
        self.says(chain_planned(devices=2, units=2, wires=2), "clear")


class Places(TestCase):
    @settings(max_examples=80, deadline=None)
    @given(st.data())
    def test_every_place_that_is_offered_is_one_that_its_port_takes(
        self, data: st.DataObject
    ) -> None:
        """Twenty ports, twelve functions: whatever is offered is held against the sheets anew."""
        names = [f"f{n}" for n in range(12)]
        some = st.lists(st.sampled_from(names), min_size=1, max_size=4, unique=True)
        ports = tuple(
            TalkPort(
                id=f"P{n}", device="d", functions=tuple(data.draw(some)),
                most=data.draw(st.integers(1, 2)),
            )
            for n in range(20)
        )  # fmt: skip
        blocks = (PortBlock(ports=("P0", "P1", "P2"), excludes=(("f0", "f1"),)),)
        wishes = tuple(Wish(device="d", function=name) for name in names)
        found = port_places(ports=ports, wishes=wishes, blocks=blocks)
        by_id = {port.id: port for port in ports}
        placed = {one.wish.partition(":")[2]: one.port for one in found.places}
        if found.conflicts:
            self.assertLess(found.most_together, len(wishes))
            return
        self.assertEqual(set(placed), set(names))
        for name, port in placed.items():
            self.assertIn(name, by_id[port].functions)
        for port in set(placed.values()):
            on = [name for name, at in placed.items() if at == port]
            self.assertLessEqual(len(on), by_id[port].most)
        inside = {name for name, at in placed.items() if at in ("P0", "P1", "P2")}
        self.assertFalse({"f0", "f1"} <= inside)
