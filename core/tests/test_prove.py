"""Prove on whole jobs: every string, run and device has its tests, none of them clear unread."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from unittest import TestCase

from core.assess import assess
from core.assessment.prove import TestState
from core.base.errors import Refused
from core.edits.commission import with_columns, with_instrument, without_instrument
from core.edits.feed.devices import without_device
from core.files.tester_readings import look, read_file, template
from core.job.job import Job
from core.job.tester_columns import KNOWN
from core.job.testers import ColumnMap, Testing
from core.tests.commissioned import IN_DATE, proved, ready_job
from core.tests.samples import TESTER, micro_job, with_reading

VERDICT = 0


def tests_of(job: Job) -> dict[str, TestState]:
    return {test.key: test for group in assess(job).prove.groups for test in group.tests}


def complete(job: Job) -> str:
    return assess(job).prove.judgements[VERDICT].verdict


class Record(TestCase):
    def test_every_string_run_and_device_has_its_tests(self) -> None:
        tests = tests_of(ready_job())
        for string in ("A", "B"):
            for kind in (
                "polarity",
                "open_circuit",
                "short_circuit",
                "insulation_volts",
                "insulation_plus",
                "insulation_minus",
            ):
                self.assertIn(f"{kind}/{string}", tests)
        for key in (
            "insulation_ac/To Inverter",
            "residual_ms/Board 0°",
            "residual_ma/Board 180°",
            "loop_impedance/inverter circuit",
            "supply_voltage/L-N",
            "conductor_voltage/L-PE",
            "conductor_voltage/N-PE",
            "supply_frequency/site",
            "switch_works/inverter",
            "switch_works/AC isolator",
            "switch_works/Board",
        ):
            self.assertIn(key, tests)
        self.assertTrue(any(key.startswith("continuity/") for key in tests))

    def test_nothing_is_clear_because_it_is_empty(self) -> None:
        job = ready_job()
        for test in tests_of(job).values():
            if not test.read_text:
                self.assertEqual(test.verdict, "waiting", test.title)
        self.assertEqual(complete(job), "waiting")
        self.assertEqual(complete(proved(job)), "clear", assess(proved(job)).prove.judgements[0])

    def test_one_missing_or_failed_test_is_told(self) -> None:
        job = proved(ready_job())
        for kind, subject, value in (
            ("insulation_minus", "A", 0.4),
            ("insulation_volts", "B", 250.0),
            ("residual_ms", "Board 180°", 400.0),
            ("conductor_voltage", "N-PE", 230.0),
            ("switch_works", "AC isolator", -1),
        ):
            worse = with_reading(job, kind, subject, value, minute=1)
            self.assertEqual(complete(worse), "stop", kind)

    def test_an_expired_or_unknown_tester_is_never_clear(self) -> None:
        job = proved(ready_job())
        expired = replace(IN_DATE, due_on=date(2026, 6, 1))
        late = replace(job, testing=Testing(instruments=(expired,)))
        self.assertEqual(complete(late), "watch")
        unknown = with_reading(job, "insulation_plus", "A", 40.0, minute=1, instrument="borrowed")
        self.assertEqual(complete(unknown), "waiting")

    def test_a_retest_counts_and_the_first_stays(self) -> None:
        job = proved(ready_job())
        first = next(one.id for one in job.readings if one.kind == "insulation_plus")
        low = with_reading(job, "insulation_plus", "A", 0.2, minute=1, supersedes=first)
        again = with_reading(
            low, "insulation_plus", "A", 55.0, minute=2, supersedes=low.readings[-1].id
        )
        test = tests_of(again)["insulation_plus/A"]
        self.assertEqual((test.verdict, test.retests), ("clear", 2))
        self.assertEqual(tests_of(low)["insulation_plus/A"].verdict, "stop")

    def test_each_string_is_tested_at_its_own_voltage_and_the_other_reading_is_told(self) -> None:
        # Os 430: 39.1 V. Times 1.25: 9 modules 440 V, 11 modules 538 V; plain, 11 are 430 V.
        job = ready_job()
        asks = {ask.key: ask for ask in assess(job).asks}
        long, short = asks["insulation_volts/A"], asks["insulation_volts/B"]
        self.assertEqual((long.expected_text, short.expected_text), ("1000\xa0V", "500\xa0V"))
        self.assertIn("it would be 500\xa0V", long.expected_because)
        self.assertNotIn("would be", short.expected_because)

    def test_currents_ask_for_sun_and_compare_strings(self) -> None:
        job = ready_job()
        bare = replace(job, readings=tuple(one for one in job.readings if one.kind != "irradiance"))
        needs = tests_of(bare)["short_circuit/A"].judgements[0].needs
        self.assertIn("irradiance on East", " ".join(needs))
        apart = with_reading(proved(job), "short_circuit", "A", 6.0, minute=1)
        rules = {one.rule_id: one.verdict for one in assess(apart).prove.judgements}
        self.assertEqual(rules["string_currents_agree"], "watch")

    def test_beyond_the_testers_range_counts_as_at_least_its_end(self) -> None:
        job = with_reading(ready_job(), "insulation_plus", "A", 200.0, text=">")
        test = tests_of(job)["insulation_plus/A"]
        self.assertEqual((test.verdict, test.read_text), ("clear", ">200\xa0MΩ"))
        with self.assertRaises(Refused):
            with_reading(job, "open_circuit", "A", 200.0, text=">")

    def test_a_roof_of_microinverters_has_no_string_tests(self) -> None:
        kinds = {key.partition("/")[0] for key in tests_of(micro_job())}
        self.assertNotIn("short_circuit", kinds)
        self.assertLessEqual({"insulation_ac", "conductor_voltage", "look_over"}, kinds)

    def test_what_was_tested_and_then_left_the_plan_stays(self) -> None:
        job = with_reading(ready_job(), "residual_ms", "AC isolator 0°", 30.0)
        job = with_reading(job, "insulation_ac", "To Inverter", 120.0)
        left = without_device(job, "AC isolator")
        self.assertIn("AC isolator 0°", left.retired)
        self.assertEqual(len(left.readings), len(job.readings))


class TesterFiles(TestCase):
    OURS = (
        "subject,taken_at,insulation_volts,insulation_plus,insulation_minus,short_circuit\n"
        "A,2026-06-18T13:20,1000,>200,38.5 MΩ,9.9\n"
        "B,2026-06-18T13:24,1000,41,40,\n"
    )

    def test_our_own_columns_need_no_mapping(self) -> None:
        found = read_file(ready_job(), IN_DATE, self.OURS.encode())
        self.assertEqual(len(found), 7)
        plus = next(one for one in found if one.kind == "insulation_plus" and one.subject == "A")
        self.assertEqual(plus.entered, ">200 MΩ")
        assert plus.taken_at is not None
        # The job's own clock: 13:20 in June is 12:20 universal time.
        self.assertEqual(plus.taken_at.utcoffset() and plus.taken_at.hour, 13)

    def test_other_names_are_asked_about_then_kept_with_the_tester(self) -> None:
        raw = b"Strang;Riso+ [GOhm];Anmerkung\nA;0,041;ok\n"
        job = with_instrument(ready_job(), None, replace(IN_DATE, name="Other", serial="O-2"))
        other = job.testing.instrument("Other")
        assert other is not None
        with self.assertRaises(Refused) as caught:
            read_file(job, other, raw)
        self.assertIn("Riso+ [GOhm]", str(caught.exception))
        columns = (
            ColumnMap(theirs="Strang", ours="subject"),
            ColumnMap(theirs="Riso+ [GOhm]", ours="insulation_plus", unit="GΩ"),
            ColumnMap(theirs="Anmerkung"),
        )
        mapped = with_columns(job, "Other", columns).testing.instrument("Other")
        assert mapped is not None
        (reading,) = read_file(job, mapped, raw)
        self.assertEqual((reading.kind, reading.entered), ("insulation_plus", "0,041 GΩ"))

    def test_a_file_is_taken_whole_or_not_and_says_where_it_is_wrong(self) -> None:
        bad = self.OURS + "C,,1000,40,40,\nA,yesterday,1000,forty,40,\n"
        found = look(ready_job(), IN_DATE, bad.encode())
        self.assertEqual(len(found.readings), 7)
        paths = {one.path for one in found.problems}
        self.assertIn("$.rows[4].subject", paths)
        self.assertIn("$.rows[5].taken_at", paths)
        with self.assertRaises(Refused):
            read_file(ready_job(), IN_DATE, bad.encode())

    def test_no_table_is_refused_not_crashed_on(self) -> None:
        for raw in (b"", b"\xff\xfe\x00\x01", b"subject\n", b'"subject,never ends\nA,1'):
            with self.assertRaises(Refused):
                read_file(ready_job(), IN_DATE, raw)

    def test_a_retest_supersedes(self) -> None:
        job = with_reading(ready_job(), "insulation_plus", "A", 0.3)
        found = read_file(job, IN_DATE, self.OURS.encode())
        again = next(one for one in found if one.kind == "insulation_plus" and one.subject == "A")
        self.assertEqual(again.supersedes, job.readings[-1].id)
        self.assertEqual(again.retests, "0.3\xa0MΩ")

    def test_the_template_has_our_columns_and_a_row_for_each(self) -> None:
        lines = template(ready_job()).splitlines()
        self.assertEqual(lines[0].split(","), list(KNOWN))
        self.assertEqual([line.split(",")[0] for line in lines[1:3]], ["A", "B"])


class Testers(TestCase):
    def test_a_tester_that_read_something_stays(self) -> None:
        job = ready_job()
        with self.assertRaises(Refused):
            without_instrument(job, TESTER)
        renamed = replace(IN_DATE, name="Renamed")
        with self.assertRaises(Refused):
            with_instrument(job, TESTER, renamed)
        renewed = with_instrument(job, TESTER, replace(IN_DATE, due_on=date(2028, 1, 1)))
        self.assertEqual(renewed.testing.instruments[0].due_on, date(2028, 1, 1))

    def test_dates_that_contradict_are_refused(self) -> None:
        with self.assertRaises(Refused) as caught:
            replace(IN_DATE, due_on=date(2025, 1, 1))
        self.assertEqual(caught.exception.problems[0].path, "$.due_on")
