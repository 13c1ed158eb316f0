"""A meter over its open registers and a portal over its open JSON, each over a real socket."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any
from unittest import TestCase

from core.base.errors import Refused
from core.rules.talk.meter_live import MeterProof, meter_loads
from devices.meter import read_meter
from devices.portal import enter_plant, plant_heard
from devices.simulated.__main__ import parse
from devices.simulated.faulty import Fault, faulty
from devices.simulated.inverter import answering
from devices.simulated.meter import MeterOrder, SimulatedMeter, Switched, meter_order
from devices.simulated.portal import Portal, ordered, server

METERS = Path(__file__).parents[2] / "server" / "demo" / "meters"
HERE = "127.0.0.1"
LOAD_W = 2000.0
PAGE: dict[str, Any] = {
    "plant": "p 1/2",
    "devices": [{"serial": "VX1", "check_code": "7K2M"}, {"serial": "VX2", "check_code": ""}],
}


@contextmanager
def listening(portal: Portal) -> Iterator[int]:
    made = server(portal, HERE, 0)
    thread = threading.Thread(target=made.serve_forever, daemon=True)
    thread.start()
    try:
        yield made.server_address[1]
    finally:
        made.shutdown()
        made.server_close()
        thread.join()


class Meter(TestCase):
    def proof(self, **order: Any) -> MeterProof:
        """The load switched on phase after phase, read over the line each time."""
        clock = [0.0]
        loads = tuple(
            Switched(phase=at, watts=LOAD_W, from_s=10.0 * at, to_s=10.0 * at + 10)
            for at in (1, 2, 3)
        )
        made = MeterOrder(
            format="long-noon-meter", serial="M", phases=3, base_w=(300.0, 120.0, 200.0),
            loads=loads, **order,
        )  # fmt: skip
        meter = SimulatedMeter(made, now=lambda: clock[0])
        shown = []
        with answering([meter.device()]) as port:
            for at in range(4):
                clock[0] = 10.0 * at + 5
                found = read_meter(HERE, port, 1, 3)
                self.assertEqual((found.outcome, len(found.watts)), ("read_back", 3), found.detail)
                shown.append(found.watts)
        return MeterProof(base_w=shown[0], loads_w=(LOAD_W,) * 3, load_reads_w=tuple(shown[1:]))

    def test_what_is_wrong_with_its_clamps_is_told_from_what_it_shows(self) -> None:
        for order, verdict, word in (
            ({}, "clear", ""),
            ({"turned": (2,)}, "stop", "clamp 2 is turned round"),
            ({"on_phase": (1, 3, 2)}, "stop", "clamp 2 sits on L3"),
            ({"ratio": 2.0}, "stop", "counts 2 times"),
        ):
            with self.subTest(order=order):
                judged = meter_loads(proof=self.proof(**order), single=False, missing=())
                self.assertEqual(judged.verdict, verdict, judged.reason)
                self.assertIn(word, judged.reason)

    def test_a_line_that_breaks_or_another_device_gives_no_figure(self) -> None:
        wanted: dict[Fault, str] = {"garbage": "garbage", "closes": "closed", "silent": "silent"}
        for fault, outcome in wanted.items():
            with faulty(fault) as port:
                found = read_meter(HERE, port, 1, 1)
            self.assertEqual((found.outcome, found.watts), (outcome, ()))
        self.assertEqual(read_meter(HERE, 1, 1, 1).outcome, "unreachable")
        one = SimulatedMeter(MeterOrder(format="long-noon-meter", serial="M"))
        with answering([one.device()]) as port:
            self.assertEqual(read_meter(HERE, port, 1, 1).watts, (300.0,))
            self.assertEqual(read_meter(HERE, port, 1, 3).outcome, "wrong_device")

    def test_the_demos_meters_are_orders(self) -> None:
        for path in METERS.glob("*.json"):
            self.assertEqual(parse(f"127.0.0.1:15040={path}").roster, path)
            self.assertTrue(meter_order(path).serial)
        with self.assertRaises(Refused):
            MeterOrder(format="long-noon-meter", serial="", phases=4)


class Portals(TestCase):
    def test_a_plant_is_taken_and_its_devices_are_heard_one_after_another(self) -> None:
        clock = [0.0]
        portal = Portal(codes={"VX1": "7K2M"}, every_s=5.0, never=frozenset({"VX2"}))
        portal.now = lambda: clock[0]
        with listening(portal) as port:
            self.assertEqual(enter_plant(HERE, port, PAGE).outcome, "accepted")
            for now, heard in ((1.0, ()), (6.0, ("VX1",)), (60.0, ("VX1",))):
                clock[0] = now
                self.assertEqual(plant_heard(HERE, port, "p 1/2").heard, heard)
            self.assertEqual(plant_heard(HERE, port, "another").outcome, "garbage")

    def test_a_wrong_check_code_is_refused_and_nothing_is_taken(self) -> None:
        portal = Portal(codes={"VX1": "9999"})
        with listening(portal) as port:
            answer = enter_plant(HERE, port, PAGE)
        self.assertEqual(answer.outcome, "refused")
        self.assertIn("VX1", answer.why)
        self.assertEqual(portal.plants, {})

    def test_away_garbage_silence_and_nobody(self) -> None:
        for word, outcome in (("away", "away"), ("garbage", "garbage")):
            portal, _, _ = ordered(["127.0.0.1:0", word])
            with listening(portal) as port:
                self.assertEqual(enter_plant(HERE, port, PAGE).outcome, outcome)
        faults: tuple[Fault, ...] = ("garbage", "closes", "silent")
        for fault in faults:
            with faulty(fault) as port:
                answer = plant_heard(HERE, port, "p")
            self.assertIn(answer.outcome, ("garbage", "unreachable", "silent"))
            self.assertEqual(answer.heard, ())
        self.assertEqual(plant_heard(HERE, 1, "p").outcome, "unreachable")
        with self.assertRaises(ValueError):
            ordered(["127.0.0.1:0", "late"])
