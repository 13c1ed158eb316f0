"""Rule packs looked over: what ships stands, and what is wrong in one is refused or found."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import timedelta
from typing import Any
from unittest import TestCase, mock

from core.assess import assess
from core.base.errors import Refused
from core.data import load
from core.edits.sheets_and_figures import with_pack
from core.figures import rule_packs
from core.figures.overrides import Override, OwnPack, figures_of, overridden
from core.figures.pack_check import differences, findings, taken_over
from core.figures.rule_packs import GENERIC, RulePack, known_packs, pack, read_pack
from core.rules.ac.conductors import conductor_ampacity
from core.rules.ac.protection import loop_trips
from core.rules.ac.supply_conductors import pair_volts
from core.rules.dc.dc_drop import dc_terminals
from core.rules.dc.string_voltage import string_voc_cold
from core.tests.samples import sample_job


def made(**sections: Any) -> dict[str, Any]:
    """A pack's file that states these over the generic one."""
    head = {"id": "own", "name": "Own", "edition": "IEC 1:2020", "based_on": "generic-iec"}
    return head | {"checked_on": "2026-11-24", "note": ""} | sections


class Looked(TestCase):
    def refused(self, data: object, path: str) -> None:
        with self.assertRaises(Refused) as refused:
            read_pack(data)
        self.assertTrue(
            any(one.path.startswith(path) for one in refused.exception.problems),
            [one.path for one in refused.exception.problems],
        )

    def test_what_ships_is_whole_and_each_source_can_be_found(self) -> None:
        for name in known_packs():
            self.assertEqual(findings(pack(name)), (), name)

    def test_what_is_wrong_is_refused_with_its_path_or_found(self) -> None:
        table = next(one for one in load("packs/generic-iec")["tables"] if one["id"] == "pvc_two")
        fallen = json.loads(json.dumps(table))
        fallen["rows"][3]["values"][1] = 12
        self.refused(made(tables=[fallen]), "$.tables[0].rows[3].values[1]")
        self.refused(
            made(ac={"rise_limit": {"value": "much", "unit": "%", "source": "x, 1"}}), "$.ac"
        )
        self.refused(made(circuit={"busbar": "by eye"}), "$.circuit.busbar")
        self.refused(made(tables=["none"]), "$.tables[0]")
        self.refused(made() | {"based_on": "own"}, "$.based_on")
        self.refused(made() | {"id": "germany", "based_on": "uk-small"}, "$.id")
        self.refused(made(roof="flat"), "$")
        self.refused([], "$")
        for figure, said in (
            ({"value": 2, "unit": "V", "source": "IEC 60364-5-52:2009, annex G"}, "is in V"),
            ({"value": 2, "unit": "%", "source": "IEC 60364-5-52:2009"}, "names no clause"),
            ({"value": 2, "unit": "%", "source": "IEC 60364-5-52, annex G"}, "names no edition"),
            ({"value": 2, "unit": "%", "source": "somebody told me"}, "names no standard"),
        ):
            found = findings(read_pack(made(ac={"rise_limit": figure})))
            self.assertEqual([one.path for one in found], ["ac.rise_limit"])
            self.assertIn(said, found[0].said)
        turned = findings(read_pack(made(circuit={"ratings_a": [16, 10]})))
        self.assertEqual([one.path for one in turned], ["circuit.ratings_a"])

    def test_what_is_taken_over_and_what_differs(self) -> None:
        taken = taken_over(pack("uk-small"))
        self.assertEqual(taken["hot.rise_close"], "generic-iec")
        self.assertNotIn("ac.supply_below", taken)
        self.assertEqual(taken_over(GENERIC), {})
        uk = pack("uk-small")
        changed = Override(path="hot.rise_close", reason="measured here", value=40)
        for rules, whose in ((uk, "generic-iec"), (overridden(uk, [changed]), "")):
            (rise,) = [one for one in figures_of(rules) if one.path == "hot.rise_close"]
            self.assertEqual(rise.inherited, whose)
        apart = {one.path: (one.one, one.other) for one in differences(pack("uk-small"), GENERIC)}
        self.assertEqual(apart["circuit.loop_c_min"], ("0.95", "1"))
        self.assertEqual(differences(GENERIC, GENERIC), ())
        own = read_pack(
            made(ac={"rise_limit": {"value": 2, "unit": "%", "source": "Trade practice"}})
        )
        self.assertEqual([one.path for one in differences(own, GENERIC)], ["ac.rise_limit"])


class Editions(TestCase):
    """Editions side by side: each with its days, and a job keeps the one that it was judged by."""

    def test_one_that_ended_or_has_not_begun_is_not_taken(self) -> None:
        job = sample_job()
        own = OwnPack(
            id="crew", name="Crew", edition="Own 1", checked_on="2026-01-01",
            based_on="generic-iec",
            figures=(Override(path="ac.rise_limit", reason="ours", value=2),),
        )  # fmt: skip
        day = job.day
        for first, last, taken in (
            (None, None, True),
            (day, day, True),
            (None, day - timedelta(days=1), False),
            (day + timedelta(days=1), None, False),
        ):
            dated = replace(own, counts_from=first, counts_until=last)
            if taken:
                self.assertEqual(with_pack(job, "crew", dated).rules.ac.rise_limit.value, 2)
                continue
            with self.assertRaises(Refused) as refused:
                with_pack(job, "crew", dated)
            self.assertEqual(refused.exception.problems[0].path, "$.id")
            # One that holds it already says so, and is judged on.
            held = assess(replace(job, rule_pack="crew", own_pack=dated))
            said = {one.rule_id: one.verdict for one in held.arrive.judgements}
            self.assertEqual(said["edition_counts"], "watch")
        with self.assertRaises(Refused):
            replace(own, counts_from=day, counts_until=day - timedelta(days=1))

    def test_packs_based_on_each_other_are_refused(self) -> None:
        rings = {"one": {"based_on": "two"}, "two": {"based_on": "one"}}
        ring = mock.patch.object(rule_packs, "load", lambda path: rings[path.rpartition("/")[2]])
        with ring, self.assertRaises(Refused) as refused:
            rule_packs._data("one")
        self.assertIn("one on two on one", refused.exception.problems[0].message)


class Regions(TestCase):
    """Figures by hand, as each region's own code has them."""

    def limit(self, rules: RulePack, breaker_a: float, curve: Any = "B") -> tuple[float, str]:
        judged = loop_trips(
            loop_ohm=0.01, nominal_v=230, breaker_a=breaker_a, curve=curve, rule_pack=rules
        )
        return round(judged.limit or 0, 2), judged.source

    def test_the_loop_by_region(self) -> None:
        uk, au = pack("uk-small"), pack("australia-nz")
        self.assertEqual(self.limit(uk, 25)[0], 1.75)
        self.assertIn("BS 7671", self.limit(uk, 25)[1])
        self.assertEqual(self.limit(uk, 32)[0], 1.37)
        self.assertEqual(self.limit(GENERIC, 25)[0], 1.84)
        # AS/NZS 3000 table 8.1: 1.53 ohm for 20 A and 1.92 ohm for 16 A of type C.
        self.assertEqual((self.limit(au, 20, "C")[0], self.limit(au, 16, "C")[0]), (1.53, 1.92))
        for loop_ohm, verdict in ((1.39, "clear"), (1.41, "watch"), (1.76, "stop")):
            judged = loop_trips(loop_ohm=loop_ohm, nominal_v=230, breaker_a=25, rule_pack=uk)
            self.assertEqual(judged.verdict, verdict, loop_ohm)

    def test_the_supply_by_region(self) -> None:
        for name, service, nominal, low, high in (
            ("uk-small", "single", 230, 216.2, 253), ("australia-nz", "single", 230, 216.2, 253),
            ("germany", "single", 230, 207, 253), ("north-america", "split", 240, 228, 252),
        ):  # fmt: skip
            pair = "L1-L2" if service == "split" else "L-N"
            band = pair_volts(pair=pair, service=service, nominal_v=nominal, rule_pack=pack(name))
            self.assertAlmostEqual(band.low_v, low)
            self.assertAlmostEqual(band.high_v, high)

    def test_a_house_has_600_volts_at_most_in_north_america(self) -> None:
        def judged(name: str) -> Any:
            rules = pack(name)
            return string_voc_cold(
                modules_in_series=14, voc_v=41, beta_voc_pct_per_k=-0.27, t_air_min_c=-20,
                max_dc_v=1000, max_system_v=1500,
                building_most_v=rules.cold.building_most.value, rule_pack=rules,
            )  # fmt: skip

        there, here = judged("north-america"), judged("generic-iec")
        self.assertEqual((there.verdict, there.limit), ("stop", 600))
        self.assertIn("690.7", there.source)
        self.assertEqual((here.verdict, here.limit), ("clear", 1000))

    def test_a_wire_by_gauge_bears_the_sun_and_the_hours_at_its_ends(self) -> None:
        rules = pack("north-america")
        for isc_a, size, verdict in (
            (13.95, 2.08, "stop"),
            (13.95, 3.31, "clear"),
            (12.7, 2.08, "clear"),
        ):
            wire = conductor_ampacity(
                section_mm2=size, insulation="xlpe", method="raceway", rule_pack=rules
            )
            judged = dc_terminals(
                terminal_a=wire.terminal_a or 0, string_a=1.25 * isc_a, rule_pack=rules
            )
            self.assertEqual(judged.verdict, verdict, (isc_a, size))

    def test_xlpe_at_ordinary_terminals_carries_no_more_than_pvc(self) -> None:
        for size, air_c in ((2.5, 30.0), (6, 30.0), (6, 50.0)):
            free, held, plain = (
                conductor_ampacity(section_mm2=size, insulation=kind, terminals=ends, air_c=air)
                for kind, ends, air in (
                    ("xlpe", "90", air_c), ("xlpe", "70", air_c), ("pvc", "70", 30.0),
                )
            )  # fmt: skip
            self.assertEqual(held.iz_a, min(free.iz_a, plain.table_a))
        self.assertEqual(held.terminal_a, 46)
