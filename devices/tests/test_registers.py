"""The simulated inverter as a Modbus device, and the link's own edges, over a real socket."""

from __future__ import annotations

import struct
from unittest import TestCase

from pymodbus.client import ModbusTcpClient

from core.profiles import profile
from devices.client import set_profile
from devices.link import Link, LinkProblem
from devices.registers import Registers, put, value
from devices.settings import MODELS, read_settings
from devices.simulated.__main__ import parse
from devices.simulated.image import BASE_ADDRESS, registers
from devices.simulated.inverter import SimulatedInverter, running

OVER_VOLTAGE = 708


class Simulated(TestCase):
    def test_the_image_is_a_chain_of_models_that_ends(self) -> None:
        image, placed = registers("S-1", 230.0)
        self.assertEqual(struct.pack(">2H", *image[:2]), b"SunS")
        address, seen = 2, []
        while image[address] != 0xFFFF:
            seen.append(image[address])
            self.assertEqual(placed[image[address]][0], BASE_ADDRESS + address)
            address += 2 + image[address + 1]
        self.assertEqual(address + 2, len(image))
        self.assertLessEqual(set(MODELS), set(seen))

    def test_a_plain_modbus_client_reads_it_too(self) -> None:
        with running(SimulatedInverter("S-1")) as port:
            client = ModbusTcpClient("127.0.0.1", port=port, timeout=2)
            client.connect()
            found = client.read_holding_registers(BASE_ADDRESS, count=2, device_id=1).registers
            self.assertEqual(struct.pack(">2H", *found), b"SunS")
            self.assertTrue(client.read_holding_registers(10, count=2, device_id=1).isError())
            client.close()

    def test_the_settings_in_force_cannot_be_written_only_adopted(self) -> None:
        with running(SimulatedInverter("S-1")) as port, Link("127.0.0.1", port, 1) as link:
            found = Registers(link, MODELS)
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
        with running(SimulatedInverter("S-1")) as port, Link("127.0.0.1", port, 1) as link:
            held = read_settings(Registers(link, MODELS), profile("en-50549-1"))
        settings = {setting.id: setting.value for setting in held}
        self.assertAlmostEqual(settings["over_voltage_1_v"], 1.08 * 230)
        self.assertNotIn("over_voltage_2_v", settings)
        self.assertNotIn("ramp_s", settings)

    def test_addresses_on_the_command_line(self) -> None:
        self.assertEqual(parse("127.0.0.1:15020=sound"), ("127.0.0.1", 15020, "sound"))
        for wrong in ("127.0.0.1:15020", "127.0.0.1:15020=angry", "127.0.0.1:x=sound"):
            with self.assertRaises(ValueError):
                parse(wrong)


class Lines(TestCase):
    def test_reads_longer_than_one_request_are_put_together(self) -> None:
        image, _ = registers("S-1", 230.0)
        with running(SimulatedInverter("S-1")) as port, Link("127.0.0.1", port, 1) as link:
            data = link.read(BASE_ADDRESS, 400)
        self.assertEqual(data, struct.pack(">400H", *image[:400]))

    def test_registers_that_are_not_there_are_refused(self) -> None:
        with running(SimulatedInverter("S-1")) as port, Link("127.0.0.1", port, 1) as link:
            for attempt in (lambda: link.read(100, 4), lambda: link.write(100, b"\0\1")):
                with self.assertRaises(LinkProblem) as caught:
                    attempt()
                self.assertEqual(caught.exception.outcome, "refused")

    def test_another_unit_number_never_gets_settings(self) -> None:
        with running(SimulatedInverter("S-1"), unit_id=1) as port:
            result = set_profile("127.0.0.1", port, 9, profile("en-50549-1"))
        self.assertIn(result.outcome, ("silent", "wrong_device", "refused"))
        self.assertEqual(result.readback, ())

    def test_a_missing_model_is_a_wrong_device(self) -> None:
        with running(SimulatedInverter("S-1")) as port, Link("127.0.0.1", port, 1) as link:
            problem = self.problem_of(link, (*MODELS, 64001))
        self.assertEqual(problem.outcome, "wrong_device")
        self.assertIn("64001", problem.detail)

    def problem_of(self, link: Link, wanted: tuple[int, ...]) -> LinkProblem:
        with self.assertRaises(LinkProblem) as caught:
            Registers(link, wanted)
        return caught.exception
