"""Our devices read by the register models' own library, our client on a device made from them."""

from __future__ import annotations

import struct
from typing import Any
from unittest import TestCase

from pymodbus.simulator import DataType, SimData, SimDevice
from sunspec2.device import Model
from sunspec2.modbus.client import SunSpecModbusClientDeviceTCP

from core.figures.grid_profiles import profile
from devices.client import Line, set_profile
from devices.live import read_live
from devices.simulated.image import KINDS, Made
from devices.simulated.inverter import SimulatedInverter, answering, running


def read_by_library(port: int) -> SunSpecModbusClientDeviceTCP:
    device = SunSpecModbusClientDeviceTCP(slave_id=1, ipaddr="127.0.0.1", ipport=port, timeout=2)
    device.connect()
    device.scan()
    device.connect()
    return device


class ReadByTheLibrary(TestCase):
    def test_every_kind_is_found_and_says_who_it_is(self) -> None:
        for kind in KINDS:
            with running(SimulatedInverter(Made(serial="P-7", kind=kind))) as port:
                device = read_by_library(port)
                self.assertEqual(device.common[0].SN.value, "P-7")
                measured = device.models[101 if kind == "old" else 701][0]
                self.assertEqual((measured.W.cvalue, measured.Hz.cvalue), (4510, 50))
                device.close()

    def test_what_our_client_set_the_library_reads(self) -> None:
        chosen = profile("de-4105")
        with running(SimulatedInverter(Made(serial="P-7"))) as port:
            set_profile(Line(host="127.0.0.1", port=port, unit_id=1), chosen)
            device = read_by_library(port)
            over = device.models[708][0]
            over.read()
            trip = over.Crv[0].MustTrip
            self.assertEqual(trip.ActPt.value, 1)
            self.assertAlmostEqual(trip.Pt[0].V.cvalue, 125.0)
            self.assertAlmostEqual(trip.Pt[0].Tms.cvalue, 0.1)
            droop = device.models[711][0]
            droop.read()
            self.assertAlmostEqual(droop.Ctl[0].KOf.cvalue, 0.05)
            self.assertAlmostEqual(droop.Ctl[0].DbOf.cvalue, 0.2)
            self.assertEqual(device.models[705][0].Ena.value, 0)
            device.close()


def library_device(base: int, *models: tuple[int, dict[str, Any]]) -> SimDevice:
    """A device of the library's models alone, its chain begun at any of the known addresses."""
    image = b"SunS"
    for model_id, points in models:
        model = Model(model_id, data={"ID": model_id, **points})
        model.points["L"].value = model.len - 2
        image += model.get_mb()
    image += struct.pack(">HH", 0xFFFF, 0)
    words = list(struct.unpack(f">{len(image) // 2}H", image))
    return SimDevice(1, simdata=[SimData(base, values=words, datatype=DataType.REGISTERS)])


class OurClientOnTheLibrary(TestCase):
    COMMON = (1, {"Mn": "Loan", "Md": "Nine", "Opt": "", "Vr": "9", "SN": "L-9", "DA": 1})

    def test_scales_and_addresses_of_another_old_device(self) -> None:
        # Whole volts here, tenths of a volt and hundredths of a hertz there; the map begins at 0.
        measured = {"A": 5, "AphA": 5, "A_SF": 0, "PhVphA": 231, "V_SF": 0, "W": 12, "W_SF": 2}
        measured |= {"Hz": 4998, "Hz_SF": -2, "WH": 0, "WH_SF": 0, "St": 4, "Evt1": 1 << 10}
        basic = {"WMax": 50, "WMax_SF": 2, "VRef": 230, "VRef_SF": 0, "VRefOfs": 0}
        basic |= {"VRefOfs_SF": 0, "VMax": 2530, "VMin": 2070, "VMinMax_SF": -1}
        device = library_device(0, self.COMMON, (101, measured), (121, basic))
        with answering([device]) as port:
            line = Line(host="127.0.0.1", port=port, unit_id=1)
            live = read_live(line, 1)
            self.assertEqual([(one.pair, one.volts) for one in live.lines], [("L-N", 231)])
            self.assertEqual((live.hertz, live.power_w), (49.98, 1200))
            self.assertEqual([one.id for one in live.alarms], ["ac_over_volt"])
            result = set_profile(line, profile("uk-g98-type-a"))
        self.assertEqual(result.outcome, "read_back")
        held = {one.id: one.value for one in result.readback}
        self.assertAlmostEqual(held["over_voltage_1_v"], 262.2)
        self.assertAlmostEqual(held["under_voltage_1_v"], 184)

    def test_a_device_without_settings_is_the_wrong_one(self) -> None:
        with answering([library_device(50000, self.COMMON)]) as port:
            line = Line(host="127.0.0.1", port=port, unit_id=1)
            result = set_profile(line, profile("en-50549-1"))
        self.assertEqual((result.outcome, result.sent), ("wrong_device", ()))
        self.assertEqual(result.device and result.device.serial, "L-9")
