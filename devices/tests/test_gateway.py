"""The gateway over a real socket: what it lists, who reports, what a bad line looks like."""

from __future__ import annotations

from pathlib import Path
from typing import Any
from unittest import TestCase

from sunspec2.modbus.client import SunSpecModbusClientDeviceTCP

from core.base.errors import Refused
from core.base.form import read
from devices.gateway import FIRST_UNIT, ONE_PHASE, read_gateway
from devices.simulated.__main__ import parse
from devices.simulated.faulty import Fault, faulty
from devices.simulated.gateway import Listed, Roster, SimulatedGateway, roster
from devices.simulated.image import Made
from devices.simulated.inverter import SimulatedInverter, answering, running

DEMO = Path(__file__).parents[2] / "server" / "demo" / "rosters" / "slipway-cottage.json"


def gateway(*after_s: float | None, clock: list[float]) -> SimulatedGateway:
    units = tuple(
        Listed(serial=f"TN{at:08d}", reports_after_s=after, power_w=200.0)
        for at, after in enumerate(after_s)
    )
    return SimulatedGateway(Roster(name="GW-1", units=units), now=lambda: clock[0])


class Gateway(TestCase):
    def test_units_are_listed_at_once_and_report_one_after_another(self) -> None:
        clock = [0.0]
        with answering(gateway(0.0, 30.0, None, clock=clock).devices()) as port:
            for now, reporting in ((0.0, 1), (29.0, 1), (30.0, 2), (9999.0, 2)):
                clock[0] = now
                found = read_gateway("127.0.0.1", port)
                self.assertEqual((found.outcome, len(found.units)), ("read", 3))
                self.assertEqual(sum(one.reporting for one in found.units), reporting)
            self.assertEqual(found.units[0].power_w, 200.0)
            self.assertIsNone(found.units[2].power_w)
            self.assertEqual(found.units[1].serial, "TN00000001")

    def test_an_independent_client_reads_the_same(self) -> None:
        with answering(gateway(0.0, clock=[0.0]).devices()) as port:
            device: Any = SunSpecModbusClientDeviceTCP(
                slave_id=FIRST_UNIT, ipaddr="127.0.0.1", ipport=port
            )
            device.scan()
            self.assertEqual(device.common[0].SN.value, "TN00000000")
            self.assertEqual(device.models[ONE_PHASE][0].W.cvalue, 200)
            device.close()

    def test_a_full_gateway_and_an_empty_one(self) -> None:
        with answering(gateway(*[0.0] * 246, clock=[0.0]).devices()) as port:
            self.assertEqual(len(read_gateway("127.0.0.1", port).units), 246)
        with answering(gateway(clock=[0.0]).devices()) as port:
            self.assertEqual(read_gateway("127.0.0.1", port).units, ())

    def test_a_line_that_breaks_gives_no_list_at_all(self) -> None:
        wanted: dict[Fault, str] = {
            "garbage": "garbage", "closes": "unreachable", "silent": "silent"
        }  # fmt: skip
        for fault, outcome in wanted.items():
            with faulty(fault) as port:
                found = read_gateway("127.0.0.1", port)
            self.assertEqual((found.outcome, found.units), (outcome, ()))
        self.assertEqual(read_gateway("127.0.0.1", 1).outcome, "unreachable")
        with answering(gateway(*[0.0] * 20, clock=[0.0]).devices()) as port:
            self.assertEqual(read_gateway("127.0.0.1", port, limit_s=0.0).outcome, "silent")

    def test_another_device_is_no_gateway(self) -> None:
        with running(SimulatedInverter(Made(serial="S-1")), unit_id=FIRST_UNIT) as port:
            self.assertEqual(read_gateway("127.0.0.1", port).outcome, "garbage")

    def test_rosters_and_arguments(self) -> None:
        self.assertEqual(len(roster(DEMO).units), 18)
        ordered = parse("h:1=a/b.json")
        self.assertEqual((ordered.port, ordered.roster), (1, Path("a/b.json")))
        with self.assertRaises(Refused):
            read(Roster, {"name": "x", "units": [{"serial": "", "reports_after_s": -1}]})
