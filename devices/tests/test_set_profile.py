"""Setting an inverter over a real socket, and every way in which that goes wrong."""

from __future__ import annotations

import socket
from unittest import TestCase

from core.kept import Outcome
from core.profiles import Profile, known_profiles, point_kinds, profile
from core.rules.grid_settings import setting_agrees
from devices.client import SetResult, set_profile
from devices.simulated.faulty import Fault, faulty
from devices.simulated.inverter import SimulatedInverter, Temper, running


def set_on(temper: Temper, chosen: Profile, nominal_v: float = 230.0) -> SetResult:
    with running(SimulatedInverter("T-1", nominal_v, temper)) as port:
        return set_profile("127.0.0.1", port, 1, chosen)


def disagreeing(result: SetResult, chosen: Profile) -> list[str]:
    got = {setting.id: setting.value for setting in result.readback}
    return [
        kind.id
        for kind in point_kinds().values()
        if not kind.by_hand
        and setting_agrees(
            point_id=kind.id, wanted=chosen.value(kind.id), got=got.get(kind.id)
        ).verdict
        != "clear"
    ]


class SetProfile(TestCase):
    def test_every_profile_reads_back_as_written(self) -> None:
        for name in known_profiles():
            with self.subTest(profile=name):
                chosen = profile(name)
                result = set_on("sound", chosen, chosen.nominal_v)
                self.assertEqual((result.outcome, result.detail), ("read_back", ""))
                self.assertEqual(disagreeing(result, chosen), [])
                self.assertEqual(result.device and result.device.serial, "T-1")

    def test_a_second_profile_leaves_nothing_of_the_first(self) -> None:
        with running(SimulatedInverter("T-1")) as port:
            set_profile("127.0.0.1", port, 1, profile("au-4777-a"))
            chosen = profile("uk-g98-type-a")
            result = set_profile("127.0.0.1", port, 1, chosen)
        self.assertEqual(disagreeing(result, chosen), [])

    def test_a_page_that_was_not_saved_is_found(self) -> None:
        chosen = profile("en-50549-1")
        result = set_on("forgets", chosen)
        self.assertEqual(result.outcome, "read_back")
        self.assertEqual(
            disagreeing(result, chosen),
            [
                "over_voltage_1_v",
                "over_voltage_1_s",
                "over_voltage_2_v",
                "over_voltage_2_s",
            ],
        )

    def test_a_locked_device_refuses_and_is_still_read(self) -> None:
        result = set_on("locked", profile("en-50549-1"))
        self.assertEqual(result.outcome, "refused")
        self.assertTrue(result.readback)

    def test_bad_lines_are_told_apart(self) -> None:
        faults: tuple[tuple[Fault, Outcome], ...] = (
            ("garbage", "garbage"),
            ("closes", "closed"),
            ("silent", "silent"),
        )
        for fault, outcome in faults:
            with self.subTest(fault=fault), faulty(fault) as port:
                result = set_profile("127.0.0.1", port, 1, profile("en-50549-1"))
                self.assertEqual(result.outcome, outcome, result.detail)
                self.assertEqual(result.readback, ())

    def test_nothing_there(self) -> None:
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            port = free.getsockname()[1]
        for host in ("127.0.0.1", "no such host", "host.invalid"):
            result = set_profile(host, port, 1, profile("en-50549-1"))
            self.assertEqual(result.outcome, "unreachable")
