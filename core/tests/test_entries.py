"""What a user may type, and what is refused with a reason."""

from __future__ import annotations

from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from core.base.errors import Refused
from core.base.quantity import Quantity
from core.base.units import parse_count, parse_quantity
from core.edits.readings import parse_reading
from core.job.reading_values import Answer, Measured

VOLTS = Quantity("voltage", "V", -2000, 2000)
METRES = Quantity("length", "m", 0.1, 500)
CELSIUS = Quantity("air", "°C", -60, 60)
MODULES = Quantity("modules in series", "modules", 1, 100)
SUN = Quantity("irradiance", "W/m²", 1, 1500)


class Accepted(TestCase):
    def test_units_commas_and_spaces(self) -> None:
        for text, quantity, value in (
            ("412 V", VOLTS, 412),
            ("412V", VOLTS, 412),
            ("1.2 kV", VOLTS, 1200),
            ("427,3", VOLTS, 427.3),
            ("−14", VOLTS, -14),
            ("1 204", VOLTS, 1204),
            ("1.204,5 V", VOLTS, 1204.5),
            ("1,204.5 V", VOLTS, 1204.5),
            ("0,125", METRES, 0.125),
            ("30 ft", METRES, 9.144),
            ("2150 mm", METRES, 2.15),
            ("48 °F", CELSIUS, 80 / 9),
            ("-9 °C", CELSIUS, -9),
            ("0.64 kW/m²", SUN, 640),
            ("640 W/m2", SUN, 640),
            ("12.", METRES, 12),
            ("1e2", VOLTS, 100),
        ):
            with self.subTest(text=text):
                self.assertAlmostEqual(parse_quantity(text, quantity), value)

    @given(st.integers(min_value=-20000, max_value=20000))
    def test_any_tenth_of_a_volt_with_point_or_comma(self, tenths: int) -> None:
        text = f"{tenths / 10:.1f}"
        for typed in (text, text.replace(".", ","), f" {text} V "):
            self.assertAlmostEqual(parse_quantity(typed, VOLTS), tenths / 10)

    def test_counts(self) -> None:
        self.assertEqual(parse_count("11 modules", MODULES), 11)
        self.assertEqual(parse_reading("polarity", "A", " -1 ", ""), Answer(good=False))
        self.assertEqual(parse_reading("setting", "loss_of_mains_s", "2 s", ""), Measured(2))


class RefusedEntries(TestCase):
    def test_each_names_the_quantity_and_what_is_allowed(self) -> None:
        for text, quantity in (
            ("", VOLTS),
            ("   ", VOLTS),
            ("volts", VOLTS),
            ("NaN", VOLTS),
            ("inf", VOLTS),
            ("1e9", VOLTS),
            ("412 A", VOLTS),
            ("412 ft", VOLTS),
            ("4.1.2", VOLTS),
            ("1,204", VOLTS),
            ("--4", VOLTS),
            ("0", METRES),
            ("-3 m", METRES),
            ("1e400", METRES),
            ("5 pc", METRES),
        ):
            with self.subTest(text=text):
                with self.assertRaises(Refused) as caught:
                    parse_quantity(text, quantity, "$.x")
                (problem,) = caught.exception.problems
                self.assertEqual(problem.path, "$.x")
                self.assertEqual(problem.allowed, quantity.allowed)
                self.assertIn(quantity.meaning, problem.message)

    def test_counts_of_nothing_too_many_and_parts(self) -> None:
        for text in ("0", "400", "11.5", "-3"):
            with self.subTest(text=text), self.assertRaises(Refused):
                parse_count(text, MODULES)

    @given(st.text(max_size=40))
    def test_no_text_does_worse_than_be_refused(self, text: str) -> None:
        try:
            value = parse_quantity(text, VOLTS)
        except Refused:
            return
        self.assertTrue(VOLTS.low <= value <= VOLTS.high)
