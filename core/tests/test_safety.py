"""Supply and array beside the plan: each rule's limit, each region's question, its stage."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from unittest import TestCase

from core.assess import assess
from core.assessment.judgements import every_judgement
from core.base.form import limits_of
from core.base.glossary import SectionMm2
from core.base.judgement import Verdict, worst
from core.base.quantity import Quantity
from core.base.units import parse_quantity, size_name
from core.edits.every import read_edit
from core.edits.sheets_and_figures import with_pack
from core.equipment.catalogue import SHIPPED
from core.equipment.terminals import AcSide
from core.figures.rule_packs import pack
from core.job.job import Job
from core.job.safety import Shutdown
from core.rules.ac.conductors import conductor_ampacity
from core.rules.ac.protection import loop_trips
from core.rules.ac.supply_safety import (
    breaking_capacity,
    electrode_holds,
    exposed_earth,
    fault_current,
    notification,
    outbuilding_earth,
    shared_cable,
    supply_side,
    upstream_protection,
)
from core.rules.dc.array_safety import (
    arc_detection,
    array_point,
    cable_voltage,
    insulation_by_area,
    inverter_monitors,
    outdoor_rating,
    roof_raceway_air,
    shutdown_inside,
    shutdown_listed,
    shutdown_outside,
    shutdown_within,
    surge_by_lightning,
    surge_leads,
    surge_level,
    surge_reach,
)
from core.rules.dc.string_agreement import string_agreement, strings_agree
from core.rules.earth.earth_bonding import leads_subtracted
from core.tests.samples import sample_job, whole_earth, with_feed, with_reading
from core.tests.table import Row, check_row

SAFE = Shutdown(
    initiator="Disconnect at the meter", inside_v=80.0, outside_v=30.0, seconds=30.0, listed=True
)
US = pack("north-america")
ROWS: tuple[Row, ...] = (
    (breaking_capacity, {"fault_ka": 6.0}, "breaking_ka", 10, 6, 4.5, "stop"),
    (upstream_protection, {"upstream_most_a": 32.0}, "breaker_a", 25, 32, 40, "stop"),
    (shared_cable, {"breaker_a": 20.0, "inverter_a": 16.0}, "iz_a", 41, 36, 32, "stop"),
    (supply_side, {"service_a": 100.0, "section_mm2": 21.2}, "sources_a", 60, 100, 101, "stop"),
    (electrode_holds, {"residual_ma": 300.0}, "electrode_ohm", 90, 500 / 3, 170, "stop"),
    (exposed_earth, {"name": "Frames"}, "section_mm2", 21.2, 13.3, 5.26, "watch"),
    (cable_voltage, {"voc_cold_v": 620.0}, "rated_v", 1500, 620, 600, "stop"),
    (surge_level, {"voc_cold_v": 620.0}, "ucpv_v", 1000, 620, 600, "stop"),
    (surge_leads, {}, "lead_m", 0.3, 0.5, 0.8, "watch"),
    (leads_subtracted, {}, "leads_ohm", 0.2, 1.0, 1.4, "stop"),
    (insulation_by_area, {"area_m2": 40.0, "array_kw": 12.0}, "mohm", 1.4, 1.0, 0.8, "stop"),
)
OTHERWISE = {
    "edition_counts",
    "notification",
    "outbuilding_earth",
    "inverter_monitors",
    "arc_detection",
    "shutdown_inside",
    "shutdown_outside",
    "shutdown_within",
    "shutdown_listed",
    "surge_by_lightning",
    "array_point",
    "outdoor_rating",
}


def done(job: Job, **fields: Any) -> Job:
    return read_edit(fields).apply(job, SHIPPED)


def verdicts(job: Job) -> dict[str, Verdict]:
    """The gravest verdict of each rule of a job."""
    found: dict[str, list[Verdict]] = {}
    for one in every_judgement(assess(job)).values():
        found.setdefault(one.rule_id, []).append(one.verdict)
    return {rule: worst(said) for rule, said in found.items()}


class Limits(TestCase):
    def test_inside_on_and_beyond(self) -> None:
        for row in ROWS:
            check_row(self, row)

    def test_a_shutdown_is_held_in_volts_and_seconds_or_waited_for(self) -> None:
        self.assertEqual(shutdown_inside(shutdown=None, rule_pack=US).verdict, "waiting")
        for rule, field, beyond in (
            (shutdown_inside, "inside_v", 80.5),
            (shutdown_outside, "outside_v", 30.5),
            (shutdown_within, "seconds", 31.0),
        ):
            self.assertEqual(rule(shutdown=SAFE, rule_pack=US).verdict, "clear")
            worse = replace(SAFE, **{field: beyond})
            self.assertEqual(rule(shutdown=worse, rule_pack=US).verdict, "stop", field)
        self.assertEqual(shutdown_listed(shutdown=replace(SAFE, listed=False)).verdict, "stop")

    def test_what_a_region_asks_and_another_does_not(self) -> None:
        for name, detects, volts, verdict in (
            ("generic-iec", "no", 600.0, "clear"),
            ("north-america", "yes", 600.0, "clear"),
            ("north-america", "unsaid", 80.0, "watch"),
            ("north-america", "no", 80.0, "stop"),
            ("north-america", "no", 79.0, "clear"),
        ):
            judged = arc_detection(detects=detects, voc_cold_v=volts, rule_pack=pack(name))
            self.assertEqual(judged.verdict, verdict, (name, detects, volts))
        for name, amps, has_permit, verdict in (
            ("uk-small", 16.0, False, "clear"),
            ("uk-small", 16.1, False, "watch"),
            ("uk-small", 21.7, True, "clear"),
            ("germany", 2.6, False, "watch"),
            ("north-america", 2.6, False, "watch"),
        ):
            judged = notification(phase_a=amps, has_permit=has_permit, rule_pack=pack(name))
            self.assertEqual(judged.verdict, verdict, (name, amps))

    def test_facts_that_are_so_not_so_or_not_known(self) -> None:
        for said, wanted in (
            (outbuilding_earth(combined_neutral=False), "clear"),
            (outbuilding_earth(combined_neutral=True), "watch"),
            (outbuilding_earth(combined_neutral=None), "watch"),
            (inverter_monitors(insulation="yes", residual="yes"), "clear"),
            (inverter_monitors(insulation="yes", residual="unsaid"), "watch"),
            (inverter_monitors(insulation="no", residual="unsaid"), "stop"),
            (array_point(point=True), "clear"),
            (array_point(point=None), "watch"),
            (array_point(point=False), "stop"),
            (outdoor_rating(ip=66), "clear"),
            (outdoor_rating(ip=63), "stop"),
            (outdoor_rating(ip=None), "watch"),
            (outdoor_rating(ip=55, rule_pack=pack("australia-nz")), "stop"),
        ):
            self.assertEqual(said.verdict, wanted, said.reason)

    def test_by_hand(self) -> None:
        # 230 V over 0.46 Ω is 500 A. 115 m over 2.3 flashes is 50 m.
        self.assertAlmostEqual(fault_current(loop_ohm=0.46, nominal_v=230.0), 0.5)
        self.assertAlmostEqual(surge_reach(flashes=2.3), 50.0)
        for fitted, length_m, verdict in (
            (False, 49, "clear"),
            (False, 51, "stop"),
            (True, 80, "clear"),
        ):
            judged = surge_by_lightning(fitted=fitted, length_m=float(length_m), flashes=2.3)
            self.assertEqual(judged.verdict, verdict)
        self.assertEqual(roof_raceway_air(air_c=40.0, above_roof_mm=12.0, rule_pack=US), 73.0)
        self.assertEqual(roof_raceway_air(air_c=40.0, above_roof_mm=23.0, rule_pack=US), 40.0)
        self.assertEqual(insulation_by_area(mohm=0.1, area_m2=40.0, array_kw=9.0).verdict, "clear")
        small = supply_side(service_a=200.0, sources_a=20.0, section_mm2=8.37, rule_pack=US)
        self.assertEqual((small.rule_id, small.verdict), ("supply_side_size", "stop"))

    def test_a_residual_device_stands_in_for_a_breaker_only_below_the_touch_voltage(self) -> None:
        # 30 mA over 1600 Ω is 48 V, over 1700 Ω 51 V.
        for loop_ohm, verdict in ((1600.0, "watch"), (1700.0, "stop")):
            judged = loop_trips(
                loop_ohm=loop_ohm, nominal_v=230.0, breaker_a=25.0, curve="B",
                earth_system="TN", residual_ma=30.0,
            )  # fmt: skip
            self.assertEqual(judged.verdict, verdict)

    def test_one_bad_string_moves_the_median_less_than_the_mean(self) -> None:
        volts = (400.0, 401.0, 402.0, 361.0)
        found = string_agreement(volts=volts)
        self.assertAlmostEqual(found.mean_pct, 100 * 30 / 391)
        self.assertAlmostEqual(found.median_pct, 100 * 39.5 / 400.5)
        self.assertEqual(
            strings_agree(volts=volts, school="median").rule_id, "strings_agree_median"
        )

    def test_gauges_up_to_4_0_by_name_and_table(self) -> None:
        quantity = limits_of(SectionMm2)
        assert isinstance(quantity, Quantity)
        for typed, area, iz_a in (
            ("2 AWG", 33.6, 115),
            ("1/0 AWG", 53.5, 150),
            ("AWG 4/0", 107.2, 230),
        ):
            self.assertEqual(parse_quantity(typed, quantity), area)
            self.assertIn(typed.replace("AWG", "").strip(), size_name(area))
            found = conductor_ampacity(section_mm2=area, method="raceway", air_c=30.0, rule_pack=US)
            self.assertEqual(found.iz_a, iz_a)


class Stages(TestCase):
    """Each fact where it is judged: by the edit that enters it, in the assessment that shows it."""

    def known(self, job: Job, **facts: Any) -> dict[str, Verdict]:
        return verdicts(done(job, do="set_safety", **facts))

    def test_supply_and_breaker(self) -> None:
        job = with_feed(sample_job())
        board = next(one for one in job.feed.devices if one.breaker is not None)
        assert board.breaker is not None and job.inverter is not None
        breaker = replace(board.breaker, breaking_ka=6.0)
        ac = replace(
            job.inverter.ac or AcSide(least_mm2=1.5, most_mm2=16.0, torque_nm=2.0),
            upstream_most_a=16.0,
        )
        devices = tuple(
            replace(one, breaker=breaker) if one is board else one for one in job.feed.devices
        )
        job = replace(
            job,
            inverter=replace(job.inverter, ac=ac),
            feed=replace(job.feed, devices=devices),
        )
        self.assertEqual(self.known(job)["upstream_protection"], "stop")
        self.assertNotIn("breaking_capacity", self.known(job))
        self.assertEqual(self.known(job, fault_ka="7.5 kA")["breaking_capacity"], "stop")
        self.assertEqual(self.known(job, fault_ka="4.1")["breaking_capacity"], "clear")
        # 230 V over 0.03 Ω is 7.7 kA at the end of the run already.
        short = with_reading(job, "loop_impedance", "inverter circuit", 0.03)
        self.assertEqual(verdicts(short)["breaking_capacity"], "stop")
        # The worse of what was said and what was read; a sheet that is silent is waited for.
        told = done(short, do="set_safety", fault_ka="4.1")
        self.assertEqual(verdicts(told)["breaking_capacity"], "stop")
        silent = with_feed(sample_job())
        self.assertEqual(self.known(silent, fault_ka="4.1")["breaking_capacity"], "waiting")
        self.assertEqual(self.known(job, outbuilding=True)["outbuilding_earth"], "watch")
        self.assertIn("supply_side", self.known(job, service_a="100 A"))

    def test_a_shared_run_is_held_against_what_guards_it(self) -> None:
        """16 mm² carries 85 A: 63 A of the supply and 22.7 A of the inverter are more."""
        job = with_feed(sample_job())
        runs = (replace(job.feed.runs[0], shared=True), *job.feed.runs[1:])
        self.assertEqual(
            verdicts(replace(job, feed=replace(job.feed, runs=runs)))["shared_cable"], "stop"
        )

    def test_the_array(self) -> None:
        job = sample_job()
        quiet = verdicts(job)
        for rule in ("arc_detection", "shutdown_inside", "array_point", "inverter_monitors"):
            self.assertNotIn(rule, quiet)
        here = verdicts(with_pack(job, "australia-nz", None))
        self.assertEqual(here["array_point"], "watch")
        self.assertEqual(self.known(job, surge_ucpv_v="300 V")["surge_level"], "stop")
        self.assertEqual(self.known(job, surge_lead_m="0.9 m")["surge_leads"], "watch")
        shutdown = {
            "initiator": "Meter", "inside_v": "70", "outside_v": "40", "seconds": "10",
            "listed": True,
        }  # fmt: skip
        found = self.known(job, shutdown=shutdown)
        self.assertEqual((found["shutdown_inside"], found["shutdown_outside"]), ("clear", "stop"))

    def test_earth(self) -> None:
        job = whole_earth(sample_job())
        self.assertEqual(verdicts(job)["bond_size"], "clear")
        self.assertEqual(self.known(job, combined_neutral=True)["bond_size"], "stop")
        self.assertIn("exposed_earth", self.known(job, earth_exposed=True))

    def test_leads_that_cannot_be_nulled_are_taken_off(self) -> None:
        job = with_reading(whole_earth(sample_job()), "test_current", "earth", 0.25)
        link = next(one for one in job.earthing.links if one.how == "washer")
        read = with_reading(job, "continuity", link.name, 0.25)
        self.assertEqual(self.of(with_reading(read, "lead_null", "earth", 1), link.name), "stop")
        bare = with_reading(read, "lead_null", "earth", -1)
        self.assertEqual(self.of(bare, link.name), "waiting")
        for leads_ohm, verdict in ((0.2, "clear"), (0.4, "waiting"), (1.2, "waiting")):
            with_leads = with_reading(bare, "lead_ohm", "earth", leads_ohm)
            self.assertEqual(self.of(with_leads, link.name), verdict, leads_ohm)

    def of(self, job: Job, name: str) -> str:
        return next(one for one in assess(job).asks if one.key == f"continuity/{name}").verdict
