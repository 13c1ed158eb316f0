"""What a nameplate's text gives: figures by their marks, names in spite of mistaken letters."""

from __future__ import annotations

import unittest

from hypothesis import given
from hypothesis import strategies as st

from core.equipment.catalogue import sheets
from core.equipment.label_text import label_read

# As three printers set it: marks in words, in letters with the unit in brackets, with commas.
MODULE_PLATES = (
    "Rated maximum power (Pmax) 430 W\nOpen circuit voltage (Voc) 38.52 V\n"
    "Voltage at maximum power (Vmp) 32.30 V\nShort circuit current (Isc) 14.05 A\n"
    "Current at maximum power (Imp) 13.32 A\nMaximum system voltage 1500 V DC",
    "Pmax [W] 430\nVoc [V] 38.52\nVmp [V] 32.3\nIsc [A] 14.05\nImp [A] 13.32\nUsys [V] 1500",
    "Pmpp: 430 Wp\nUoc: 38,52 V\nUmpp: 32,30 V\nIsc: 14,05 A\nImpp: 13,32 A\n"
    "System voltage: 1500 V",
)
MODULE = {
    "pmax_w": "430",
    "voc_v": "38.52",
    "vmp_v": "32.3",
    "isc_a": "14.05",
    "imp_a": "13.32",
    "max_system_v": "1500",
}
INVERTER_PLATE = (
    "Max. DC voltage 600 V\nMPPT voltage range 90 - 560 V\nMax. input current 13.5 A\n"
    "Max. short-circuit current 18 A\nNominal AC voltage 230 V\nRated AC power 5 kW"
)
INVERTER = {
    "dc.max_dc_v": "600",
    "dc.track_min_v": "90",
    "dc.track_max_v": "560",
    "trackers.1.max_operating_a": "13.5",
    "trackers.1.max_short_circuit_a": "18",
    "nominal_v": "230",
    "rated_ac_w": "5000",
}


class LabelText(unittest.TestCase):
    def test_figures_are_found_however_they_are_marked(self) -> None:
        for plate in MODULE_PLATES:
            with self.subTest(plate=plate):
                said = label_read("modules", plate, ())
                self.assertEqual(said.cells, MODULE)
                self.assertIn("beta_voc_pct_per_k", said.missing)
        self.assertEqual(label_read("inverters", INVERTER_PLATE, ()).cells, INVERTER)

    def test_what_is_not_certain_is_not_said(self) -> None:
        for text in (
            "Voc 38.52",  # no unit
            "Voc 38.52 V\nVoc 36.1 V",  # two that differ
            "Open circuit voltage\n38.52 V",  # of another line
            "Vocational 38.5 V",
            "Voc 1,500 V",  # thousands, or three decimals
            "Voc [V] 1.500",
            "",
        ):
            with self.subTest(text=text):
                self.assertNotIn("voc_v", label_read("modules", text, ()).cells)

    def test_a_name_is_known_by_letters_that_look_alike(self) -> None:
        every = sheets("modules")
        for text, found in (
            ("OSTREL  Type: Os 430", True),
            ("0STREL   0s-43O", True),
            ("Os 431 of Ostrel", False),
            ("", False),
        ):
            with self.subTest(text=text):
                said = label_read("modules", text, every)
                self.assertEqual([one.id for one in said.named][:1] == ["ostrel-430"], found)

    def test_a_label_that_says_another_figure_than_its_sheet_is_told(self) -> None:
        (sheet,) = [one for one in sheets("modules") if one.id == "ostrel-430"]
        for voc_v, differs in (("39.1", ()), ("39.0", ()), ("38.5", ("voc_v",))):
            with self.subTest(voc_v=voc_v):
                text = f"Ostrel Os 430\nVoc {voc_v} V"
                (named, *_) = label_read("modules", text, [sheet]).named
                self.assertEqual(named.differs, differs)

    @given(st.text(alphabet="VocIsMPax [](),.-0123456789\nkWA", max_size=400))
    def test_any_text_is_read_without_a_fault(self, text: str) -> None:
        for kind in ("modules", "inverters", "trunks"):
            said = label_read(kind, text, sheets(kind))
            self.assertTrue(all(float(one) >= 0 or "-" in one for one in said.cells.values()))
