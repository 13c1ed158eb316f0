"""The simulated inverter as a Modbus device, and the link's own edges, over a real socket."""

from __future__ import annotations

import struct
from unittest import TestCase

from pymodbus.client import ModbusTcpClient

from core.figures.grid_profiles import profile
from devices.client import Line, read_profile, set_profile
from devices.link import Link, LinkProblem
from devices.newer_map import MODELS
from devices.registers import Registers, put, value
from devices.simulated.__main__ import parse
from devices.simulated.faults import Faults
from devices.simulated.image import BASE_ADDRESS, KINDS, Made, registers
from devices.simulated.inverter import SimulatedInverter, running

OVER_VOLTAGE = 708
MADE = Made(serial="S-1")


class Simulated(TestCase):
    def test_the_image_of_every_kind_is_a_chain_of_models_that_ends(self) -> None:
        for kind in KINDS:
            image, placed = registers(Made(serial="S-1", kind=kind))
            self.assertEqual(struct.pack(">2H", *image[:2]), b"SunS")
            address, seen = 2, []
            while image[address] != 0xFFFF:
                seen.append(image[address])
                self.assertEqual(placed[image[address]][0], BASE_ADDRESS + address)
                address += 2 + image[address + 1]
            self.assertEqual(address + 2, len(image))
            self.assertEqual(set(MODELS) <= set(seen), kind != "old")

    def test_a_plain_modbus_client_reads_it_too(self) -> None:
        with running(SimulatedInverter(MADE)) as port:
            client = ModbusTcpClient("127.0.0.1", port=port, timeout=2)
            client.connect()
            found = client.read_holding_registers(BASE_ADDRESS, count=2, device_id=1).registers
            self.assertEqual(struct.pack(">2H", *found), b"SunS")
            self.assertTrue(client.read_holding_registers(10, count=2, device_id=1).isError())
            client.close()

    def test_the_settings_in_force_cannot_be_written_only_adopted(self) -> None:
        with running(SimulatedInverter(MADE)) as port, Link("127.0.0.1", port, 1) as link:
            found = Registers(link)
            in_force = found.model(OVER_VOLTAGE).Crv[0].MustTrip.Pt[0].V
            put(in_force, 130.0)
            with self.assertRaises(LinkProblem) as caught:
                found.write(OVER_VOLTAGE)
            self.assertEqual(caught.exception.outcome, "refused")
            self.assertEqual(value(found.reload(OVER_VOLTAGE).Crv[0].MustTrip.Pt[0].V), 108.0)
            waiting = found.model(OVER_VOLTAGE).Crv[1].MustTrip.Pt[0].V
            put(waiting, 111.5)
            found.write(OVER_VOLTAGE)
            self.assertEqual(value(found.reload(OVER_VOLTAGE).Crv[0].MustTrip.Pt[0].V), 108.0)
            put(found.model(OVER_VOLTAGE).AdptCrvReq, 2)
            found.write(OVER_VOLTAGE)
            self.assertEqual(value(found.reload(OVER_VOLTAGE).Crv[0].MustTrip.Pt[0].V), 111.5)

    def test_a_factory_default_agrees_with_no_profile(self) -> None:
        with running(SimulatedInverter(MADE)) as port:
            line = Line(host="127.0.0.1", port=port, unit_id=1)
            held = read_profile(line, profile("en-50549-1")).readback
        settings = {setting.id: setting.value for setting in held}
        self.assertAlmostEqual(settings["over_voltage_1_v"], 1.08 * 230)
        self.assertNotIn("over_voltage_2_v", settings)
        self.assertNotIn("ramp_s", settings)

    def test_orders_on_the_command_line(self) -> None:
        found = parse("127.0.0.1:15020=three,serial=VX1,watts=10000,slow=0.5,refuses=707,locked")
        self.assertEqual((found.host, found.port), ("127.0.0.1", 15020))
        self.assertEqual(found.made, Made(serial="VX1", kind="three", rated_w=10000))
        self.assertEqual(found.faults, Faults(slow=0.5, refuses=707, locked=True))
        for wrong in ("=new", ":15020", ":15020=angry", ":x=new", ":1=new,angry", ":1=new,slow=-1"):
            with self.assertRaises(ValueError, msg=wrong):
                parse(f"127.0.0.1{wrong}")


class Lines(TestCase):
    def test_reads_longer_than_one_request_are_put_together(self) -> None:
        image, _ = registers(MADE)
        with running(SimulatedInverter(MADE)) as port, Link("127.0.0.1", port, 1) as link:
            data = link.read(BASE_ADDRESS, 400)
        self.assertEqual(data, struct.pack(">400H", *image[:400]))

    def test_registers_that_are_not_there_are_refused(self) -> None:
        with running(SimulatedInverter(MADE)) as port, Link("127.0.0.1", port, 1) as link:
            for attempt in (lambda: link.read(100, 4), lambda: link.write(100, b"\0\1")):
                with self.assertRaises(LinkProblem) as caught:
                    attempt()
                self.assertEqual(caught.exception.outcome, "refused")

    def test_another_unit_number_never_gets_settings(self) -> None:
        with running(SimulatedInverter(MADE), unit_id=1) as port:
            line = Line(host="127.0.0.1", port=port, unit_id=9)
            result = set_profile(line, profile("en-50549-1"))
        self.assertIn(result.outcome, ("silent", "wrong_device", "refused"))
        self.assertEqual(result.readback, ())

    def test_a_missing_model_is_a_wrong_device(self) -> None:
        with (
            running(SimulatedInverter(MADE)) as port,
            Link("127.0.0.1", port, 1) as link,
            self.assertRaises(LinkProblem) as caught,
        ):
            Registers(link).require((*MODELS, 64001))
        self.assertEqual(caught.exception.outcome, "wrong_device")
        self.assertIn("64001", caught.exception.detail)
