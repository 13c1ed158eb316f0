"""A house in each region from plan to record, with figures by hand as its own code has them."""

from __future__ import annotations

import json
from unittest import TestCase

from core.assess import assess
from core.assessment.judgements import every_judgement
from core.assessment.whole import Assessment
from core.base.judgement import Judgement
from core.figures.rule_packs import known_packs
from core.tests.golden import KEPT_REGIONS, summary
from core.tests.regions import regions

# Rule, which of its judgements (the one of this limit, or the largest value), value, limit, and a
# word of its source. String A: 11 modules of 39.1 V.
BY_HAND: dict[str, tuple[tuple[str, float, float, str], ...]] = {
    "generic-iec": (
        ("string_voc_cold", 11 * 39.1 * (1 - 0.0025 * -34), 550, "IEC 62548"),
        ("conductor_carries", 46, 25, "IEC 60364"),
        ("breaker_carries", 25, 16.7, "IEC 60364"),
        ("loop_trips", 0.4, 230 / (5 * 25), "IEC 60364"),
        ("busbar_sum", 63 + 25, 100, "IEC"),
        ("dc_ampacity", 44, 1.25 * 13.9, "EN 50618"),
    ),
    "uk-small": (
        ("string_voc_cold", 11 * 39.1 * 1.15, 550, "UK practice"),
        ("conductor_carries", 46, 25, "BS 7671"),
        ("loop_trips", 0.4, 0.95 * 230 / (5 * 25), "BS 7671"),
        ("bond_size", 6, 6, "BS 7671"),
        ("ac_rise_limit", 0.814, 1, ""),
    ),
    "germany": (
        ("conductor_carries", 46, 25, "DIN VDE"),
        ("loop_trips", 0.4, 230 / (5 * 25), "IEC"),
        ("bond_size", 6, 6, ""),
    ),
    "australia-nz": (
        ("loop_trips", 0.4, 230 / (4 * 25), "AS/NZS 3000"),
        ("conductor_carries", 46, 25, "AS/NZS 3000"),
        ("ac_rise_limit", 0.814, 2, ""),
    ),
    "north-america": (
        ("string_voc_cold", 11 * 39.1 * 1.14, 600, "690.7"),
        ("breaker_carries", 40, 1.25 * 32, "NEC"),
        ("conductor_carries", 50, 40, "NEC"),
        ("conductor_carries", 175, 150, "NEC"),
        ("busbar_share", 150 + 1.25 * 32, 1.2 * 200, "705.12"),
        ("dc_ampacity", 40 * 0.71, 1.25 * 13.9, "NEC"),
        ("dc_terminals", 35, 1.25 * 1.25 * 13.9, "690.8"),
        ("shutdown_inside", 80, 80, "690.12"),
        ("shutdown_outside", 30, 30, "690.12"),
    ),
}
# What a region asks that another does not.
ASKED = {"arc_detection": {"north-america"}, "shutdown_inside": {"north-america"},
         "array_point": {"australia-nz"}}  # fmt: skip
NOT_ASKED = {"residual_type": {"north-america"}}


class Regions(TestCase):
    said: dict[str, Assessment]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.said = {name: assess(job) for name, job in regions().items()}

    def of(self, name: str) -> list[Judgement]:
        return list(every_judgement(self.said[name]).values())

    def test_nothing_stops_a_sound_house_of_any_region(self) -> None:
        self.assertEqual(set(self.said), set(known_packs()))
        for name in self.said:
            stops = [one.rule_id for one in self.of(name) if one.verdict == "stop"]
            self.assertEqual(stops, [], name)
            proved = self.said[name].stages[6]
            self.assertEqual((name, proved.verdict), (name, "clear"))

    def test_figures_by_hand(self) -> None:
        for name, rows in BY_HAND.items():
            for rule, value, limit, source in rows:
                with self.subTest(pack=name, rule=rule):
                    near = [
                        one
                        for one in self.of(name)
                        if one.rule_id == rule
                        and abs((one.value or 0) - value) < 2e-3 * value
                        and abs((one.limit or 0) - limit) < 2e-3 * limit
                    ]
                    self.assertTrue(
                        near, [(o.value, o.limit) for o in self.of(name) if o.rule_id == rule]
                    )
                    self.assertIn(source, near[0].source)

    def test_what_each_asks(self) -> None:
        for rule, packs in ASKED.items():
            here = {n for n in self.said if rule in {one.rule_id for one in self.of(n)}}
            self.assertEqual(here, packs, rule)
        for rule, packs in NOT_ASKED.items():
            here = {n for n in self.said if rule not in {one.rule_id for one in self.of(n)}}
            self.assertEqual(here, packs, rule)

    def test_labels_are_written_in_every_region(self) -> None:
        for name, said in self.said.items():
            kinds = {one.id.partition("/")[0] for one in said.leave.labels}
            self.assertLessEqual(
                {"dc_run", "dc_switch", "inverter", "board", "emergency"}, kinds, name
            )

    def test_no_verdict_and_no_figure_changed_unseen(self) -> None:
        kept = json.loads(KEPT_REGIONS.read_text())
        self.assertEqual({name: summary(said) for name, said in self.said.items()}, kept)
