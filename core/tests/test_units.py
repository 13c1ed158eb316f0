"""A prefix is exact: every prefix before every unit, with a general units library beside it."""

from __future__ import annotations

import json
from typing import ClassVar
from unittest import TestCase

import pint
from hypothesis import given
from hypothesis import strategies as st

from core.base.errors import Refused
from core.base.quantity import Quantity
from core.base.units import parse_quantity, units_taken
from core.edits.readings import parse_reading, reading_quantity
from core.equipment.catalogue import sheets
from core.equipment.catalogue_csv import flat, sheet_of
from core.files.job import read_job, write_job
from core.files.tester_readings import read_file
from core.job.reading_kinds import KINDS, ReadingKind
from core.job.reading_values import Measured
from core.tests.commissioned import IN_DATE, ready_job
from core.tests.samples import sample_job, with_reading

PREFIXES = ("", "n", "µ", "m", "c", "d", "k", "K", "M", "G", "T")
BASES = ("V", "A", "Ω", "W", "VA", "W/m²", "m", "g", "s", "Nm", "Hz", "K", "C", "F", "bar")
KEPT_IN = ("V", "A", "mA", "W", "VA", "W/m²", "Ω", "kΩ", "MΩ", "m", "mm", "kg", "Nm", "s", "ms")
FAR = 1e30
# A degree stands for no farad and no coulomb here.
LIBRARY = pint.UnitRegistry()
AS_THE_LIBRARY_HAS_IT = {"Nm": "newton*meter", "W/m²": "W/m^2", "VA": "volt*ampere"}


def by_the_library(prefix: str, base: str, kept_in: str) -> float | None:
    """How many of the kept unit one of these is; None where they are of different kinds."""
    names = AS_THE_LIBRARY_HAS_IT
    own, bare = next(
        (kept_in.removesuffix(base), base) for base in (*names, kept_in) if kept_in.endswith(base)
    )
    try:
        one = LIBRARY.Quantity(1.0, prefix + names.get(base, base))
        return float(one.to(own + names.get(bare, bare)).magnitude)
    except pint.errors.PintError:
        return None


class Prefixes(TestCase):
    def test_what_is_taken_is_what_the_library_makes_of_it_and_else_nothing_is(self) -> None:
        for kept_in in KEPT_IN:
            taken = units_taken(kept_in)
            quantity = Quantity("figure", kept_in, -FAR, FAR)
            for prefix in PREFIXES:
                for base in BASES:
                    typed = prefix + base
                    if (typed, kept_in) == ("nm", "Nm"):  # Where torque is asked no length is.
                        continue
                    with self.subTest(typed=typed, kept_in=kept_in):
                        expected = by_the_library(prefix, base, kept_in)
                        if typed in taken and expected is not None:
                            self.assertAlmostEqual(
                                parse_quantity(f"7 {typed}", quantity) / (7 * expected), 1.0
                            )
                            continue
                        with self.assertRaises(Refused) as caught:
                            parse_quantity(f"7 {typed}", quantity)
                        for one in taken:
                            self.assertIn(one, caught.exception.problems[0].message)

    def test_ohms_in_words_and_signs_are_the_same_and_micro_is(self) -> None:
        ohm, milliampere = Quantity("r", "Ω", 0, FAR), Quantity("i", "mA", 0, FAR)
        for typed, quantity, value in (
            ("450 mohm", ohm, 0.45),
            ("450 m\u2126", ohm, 0.45),
            ("450 mOhms", ohm, 0.45),
            ("0.45 Mohm", ohm, 450_000),
            ("0.45 M\u2126", ohm, 450_000),
            ("500 uA", milliampere, 0.5),
            ("500 \u03bcA", milliampere, 0.5),
        ):
            with self.subTest(typed=typed):
                self.assertAlmostEqual(parse_quantity(typed, quantity), value)


class EveryWayIn(TestCase):
    """A megohm of continuity is never a milliohm, wherever it is written."""

    SPELLED: ClassVar = {"mΩ": 1e-3, "Ω": 1.0, "kΩ": 1e3, "MΩ": 1e6, "GΩ": 1e9}

    @given(
        st.sampled_from(["mΩ", "Ω", "kΩ", "MΩ", "GΩ"]),
        st.sampled_from(["continuity", "loop_impedance", "insulation_plus", "insulation_ac"]),
        st.decimals(min_value="0.01", max_value="999", places=2),
    )
    def test_in_a_field(self, unit: str, kind: ReadingKind, number: object) -> None:
        quantity = reading_quantity(kind, "any")
        ohm = float(str(number)) * self.SPELLED[unit]
        kept = ohm / self.SPELLED[KINDS[kind].unit]
        try:
            read = parse_reading(kind, "any", f"{number} {unit}", "")
        except Refused:
            self.assertTrue(unit not in units_taken(quantity.unit) or kept > quantity.high)
            return
        assert isinstance(read, Measured)
        self.assertAlmostEqual(read.number / kept, 1.0)

    def test_in_a_testers_file(self) -> None:
        job, tester = ready_job(), IN_DATE
        link = job.earthing.links[0].name
        good = read_file(job, tester, f"subject,continuity\n{link},450 mΩ\n".encode())
        self.assertEqual(good[0].entered, "450 mΩ")
        for cell in ("0.45 MΩ", "0.45 MOHM", "3 nΩ", "0.45 KΩ", "2 V"):
            with self.subTest(cell=cell), self.assertRaises(Refused):
                read_file(job, tester, f"subject,continuity\n{link},{cell}\n".encode())

    def test_in_a_sheet(self) -> None:
        cells = flat(sheets("modules")[0])
        own = sheet_of("modules", cells)
        volts = float(cells["voc_v"])
        typed = {"voc_v": f"{volts / 1000} kV", "isc_a": f"{float(cells['isc_a']) * 1000} mA"}
        self.assertEqual(sheet_of("modules", cells | typed), own)
        for wrong in (f"{volts} MV", f"{volts} Mv", f"{volts} KV", f"{volts} Ω"):
            with self.subTest(wrong=wrong), self.assertRaises(Refused):
                sheet_of("modules", cells | {"voc_v": wrong})

    def test_in_a_job_file_a_figure_is_a_number(self) -> None:
        job = with_reading(sample_job(), "supply_voltage", "L-N", 240.0)
        data = json.loads(write_job(job))
        for value in ("0.24 kV", "240", "240 V", True):
            data["readings"][-1]["value"] = value
            with self.subTest(value=value), self.assertRaises(Refused) as caught:
                read_job(json.dumps(data))
            self.assertIn("$.readings[", caught.exception.problems[0].path)
