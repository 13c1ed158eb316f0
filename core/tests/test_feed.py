"""Feed as a whole: the chain, the ladder, switches, ends, making dead, and every bad plan."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import timedelta
from typing import Any
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from core.assess import assess
from core.assessment.feed import FeedStage
from core.base.drawing import svg, symbols
from core.base.errors import Refused
from core.base.form import write
from core.base.judgement import Judgement
from core.edits.feed.containment_backup import (
    with_backup,
    with_containment,
    with_load,
    without_containment,
    without_load,
)
from core.edits.feed.devices import with_dc, with_device, with_supply, without_device
from core.edits.feed.home_runs import with_home_piece, with_home_size, without_home_piece
from core.edits.feed.other_sources import NothingElseFeeds, PutOtherSource, RemoveOtherSource
from core.edits.feed.runs import split_run, with_run, with_run_size, without_run
from core.edits.strings import without_string
from core.equipment import catalogue
from core.equipment.cables_switches_fixings import Isolator, SafetySwitch
from core.equipment.catalogue import SHIPPED
from core.files.job import read_job, write_job
from core.job.feed import (
    AcRun,
    BackupPlan,
    BatteryPlan,
    Containment,
    DcSwitching,
    FeedDevice,
    FeedPlan,
    HomeRun,
    LoadGroup,
    chain_of,
    one_run,
)
from core.job.fingerprints import stamped
from core.job.job import Job
from core.job.subjects import DEAD_STEPS
from core.planning.goods.load_list import load_in
from core.sheets.single_line import path_sheet
from core.stages.feed.context import feed_of
from core.stages.feed.voltage_profile import ladder
from core.stages.reading_index import Readings, kept_of
from core.tests.commissioned import made_dead
from core.tests.samples import (
    NOON,
    sample_job,
    settled,
    whole_job,
    wired,
    with_feed,
    with_reading,
)

FED = with_feed(settled(sample_job()))


def feed(job: Job) -> FeedStage:
    return assess(job).feed


def judged(stage: FeedStage, rule: str) -> Judgement:
    """The first judgement of that rule anywhere in the stage."""
    parts = (*stage.runs, *stage.dc_runs, *stage.devices, stage.dc_switching, *stage.ends)
    ways = (*parts, *stage.containments, *([stage.backup] if stage.backup else []))
    every = (*stage.judgements, *(one for part in ways for one in part.judgements))
    return next(one for one in every if one.rule_id == rule)


def changed(job: Job, was: str, **changes: Any) -> Job:
    run = next(one for one in job.feed.runs if one.name == was)
    return with_run(job, was, replace(run, **changes))


class Chain(TestCase):
    @given(order=st.permutations(range(5)), turned=st.lists(st.booleans(), min_size=5, max_size=5))
    def test_runs_in_any_order_and_direction_make_the_same_way(
        self, order: list[int], turned: list[bool]
    ) -> None:
        names = ["S", *"ABCD", "I"]
        kinds = ("supply", "meter", "board", "isolator", "clamp", "inverter")
        devices = tuple(FeedDevice(name=n, kind=k) for n, k in zip(names, kinds, strict=True))
        runs = [
            AcRun(
                name=f"r{n}",
                start=names[n + turned[n]],
                end=names[n + 1 - turned[n]],
                length_m=1.0,
                section_mm2=6.0,
                cores=3,
            )
            for n in range(5)
        ]
        chain = chain_of(devices, tuple(runs[n] for n in order), "I")
        self.assertEqual(chain.rungs, tuple(names))
        self.assertEqual([run.name for run in chain.runs], ["r0", "r1", "r2", "r3", "r4"])
        broken = chain_of(devices, tuple(runs[n] for n in order if n != 2), "I")
        self.assertEqual(broken.gap, ("B", "I"))

    def test_a_gap_is_a_stop_that_says_where_and_nothing_is_computed_over_it(self) -> None:
        stage = feed(without_run(FED, "To AC isolator"))
        self.assertEqual(judged(stage, "feed_chain").verdict, "stop")
        self.assertIn("Board", stage.line)
        self.assertIsNone(stage.today)
        self.assertEqual(judged(stage, "ac_terminal_room").verdict, "waiting")
        self.assertEqual(len(stage.path.places), len({one.id for one in stage.path.places}))

    def test_loops_and_what_does_not_exist_are_refused(self) -> None:
        loop = AcRun(
            name="Back",
            start="Supply point",
            end="Inverter",
            length_m=1.0,
            section_mm2=6.0,
            cores=3,
        )
        for refused, path, said in (
            (lambda: with_run(FED, None, loop), "$.runs[3].end", "loop"),
            (lambda: with_run(FED, None, replace(loop, end="Shed")), "$.runs[3].end", "Shed"),
            (lambda: changed(FED, "To Board", section_mm2=7.0), "$.feed.runs[0].section_mm2", "7"),
            (lambda: changed(FED, "To Board", length_m=0.0), "$.length_m", "0.1 to 500"),
            (lambda: changed(FED, "To Board", length_m=5000.0), "$.length_m", "0.1 to 500"),
            (lambda: changed(FED, "To Board", end="Supply point"), "$.end", "another"),
            (lambda: with_home_size(FED, "A", 25.0), "$.strings[0].home_run[0].section_mm2", "25"),
            (lambda: without_device(FED, "Inverter"), "$.name", "end of the path"),
            (lambda: without_run(FED, "No"), "$.name", "To Board"),
            (lambda: self.split(13.0), "$.at_m", "on the run"),
            (lambda: without_load(FED, "x"), "$.backup", "backup"),
        ):
            with self.subTest(path=path, said=said), self.assertRaises(Refused) as caught:
                refused()
            problem = caught.exception.problems[0]
            self.assertEqual(problem.path, path)
            self.assertIn(said, f"{problem.message} {problem.allowed}")

    def split(self, at_m: float) -> Job:
        return split_run(FED, "To AC isolator", at_m, FeedDevice(name="Clamps", kind="clamp"))

    def test_a_device_put_in_and_taken_out_leaves_the_way_as_it_was(self) -> None:
        job = self.split(5.0)
        lengths = [run.length_m for run in job.feed.chain.runs]
        self.assertEqual(lengths, [5, 5, 7, 3])
        self.assertAlmostEqual(feed(job).today.terminal_v, feed(FED).today.terminal_v, places=6)
        back = without_device(job, "Clamps")
        self.assertEqual([run.length_m for run in back.feed.chain.runs], [5, 12, 3])

    def test_a_renamed_device_and_run_are_followed_and_what_was_read_of_them_stays(self) -> None:
        job = with_reading(FED, "torque", "To Inverter at AC isolator", 2.2)
        way = Containment(name="Pipe", way="pipe", holds=("To Inverter",))
        job = with_containment(job, None, way)
        renamed = replace(job.feed.device("AC isolator"), name="Rotary")
        job = changed(with_device(job, "AC isolator", renamed), "To Inverter", name="Last")
        self.assertEqual(job.feed.chain.rungs[2], "Rotary")
        self.assertEqual(job.feed.containments[0].holds, ("Last",))
        self.assertIn("To Inverter at AC isolator", job.retired)
        titles = [past.title for past in assess(job).past_readings]
        self.assertIn("To Inverter at AC isolator · torque", titles)
        self.assertEqual(without_containment(job, "Pipe").feed.containments, ())

    def test_a_string_that_leaves_lets_go_of_its_way_and_keeps_what_was_read(self) -> None:
        job = with_home_piece(FED, "B", 1, HomeRun(length_m=9, section_mm2=4, to="Loft"))
        job = with_home_piece(job, "B", None, HomeRun(length_m=9, section_mm2=4))
        job = around(with_reading(job, "torque", "string B at Loft", 1.8))
        gone = without_string(job, "B")
        self.assertNotIn("string B", gone.feed.containments[0].holds)
        self.assertIn("string B at Loft", gone.retired)
        joined = without_home_piece(job, "B", 1)
        self.assertIn("string B at Loft", joined.retired)
        self.assertEqual(len(joined.readings), len(job.readings))


class OlderFiles(TestCase):
    def test_a_job_of_version_1_is_read_as_the_present_one(self) -> None:
        data = json.loads(write_job(sample_job()))
        data["version"] = 1
        data["feed"] = {"length_m": 20.0, "section_mm2": 6.0, "cores": 3}
        data["strings"][0]["home_run"] = {"length_m": 18.0, "section_mm2": 4.0}
        data["strings"][1]["home_run"] = None
        job = read_job(json.dumps(data).encode())
        self.assertEqual(job.feed, one_run(length_m=20.0, section_mm2=6.0, cores=3))
        runs = [one.home_run for one in job.strings]
        self.assertEqual(runs, [(HomeRun(length_m=18.0, section_mm2=4.0),), ()])
        data["feed"]["length_m"] = "long"
        with self.assertRaises(Refused):
            read_job(json.dumps(data).encode())

    def test_a_job_with_every_part_goes_out_and_comes_back(self) -> None:
        job = around(with_feed(whole_job()))
        self.assertEqual(read_job(write_job(job).encode()), stamped(job))


def around(job: Job) -> Job:
    """The job with a way shared by everything, and backup with a battery."""
    names = tuple(name for name in job.circuits)
    way = Containment(
        name="Trunking", way="trunking", holds=names, width_mm=60, height_mm=60, signal_mm=6
    )
    battery = BatteryPlan(units=2, most_units=3, discharge_a=50, breaker_a=63, approved=True)
    loads = (
        LoadGroup(name="Kitchen", phase=1, current_a=16, backed_up=True),
        LoadGroup(name="Oven", phase=2, current_a=14, backed_up=False),
    )
    backup = BackupPlan(limit_a=40, loads=loads, battery=battery, shutdown_line=True)
    return with_backup(with_containment(job, None, way), backup)


class Ladder(TestCase):
    def test_the_highest_phase_counts_and_all_must_be_read(self) -> None:
        job = sample_job(inverter=catalogue.inverter("veyrick-10-three"))
        job = replace(job, feed=one_run(length_m=20, section_mm2=6, cores=5))
        for pair, volts in (("L1-N", 236.0), ("L2-N", 241.0)):
            job = with_reading(job, "supply_voltage", pair, volts)
        self.assertEqual(judged(feed(job), "ac_terminal_room").verdict, "waiting")
        stage = feed(with_reading(job, "supply_voltage", "L3-N", 233.0))
        self.assertEqual((stage.supply.volts, stage.supply.pair), (241.0, "L2-N"))
        self.assertEqual(judged(stage, "ac_terminal_room").verdict, "clear")

    def test_readings_over_the_day_make_the_high_day(self) -> None:
        job = with_reading(FED, "supply_voltage", "L-N", 251.0, minute=1)
        job = with_reading(job, "supply_voltage", "L-N", 232.0, minute=60)
        stage = feed(job)
        self.assertEqual((stage.supply.volts, stage.supply.readings), (232.0, 2))
        self.assertEqual((stage.supply.lowest_v, stage.supply.highest_v), (232.0, 251.0))
        self.assertEqual(stage.high.supply_v, 251.0)
        self.assertEqual(judged(stage, "ac_high_day").verdict, "watch")
        # A reading that was a slip no longer counts: 8 % above nominal does.
        slip = job.readings[-2].id
        job = with_reading(job, "supply_voltage", "L-N", 231.0, minute=61, supersedes=slip)
        self.assertAlmostEqual(feed(job).high.supply_v, 248.4)

    def test_thin_cable_trips_and_the_next_sizes_say_what_they_buy(self) -> None:
        job = with_reading(with_run_size(FED, "To AC isolator", 2.5), "supply_voltage", "L-N", 251)
        stage = feed(job)
        self.assertEqual(judged(stage, "ac_terminal_room").verdict, "stop")
        sizes = next(run.sizes for run in stage.runs if run.name == "To AC isolator")
        self.assertLess(stage.today.most_export_w, stage.export_w)
        self.assertTrue(all(one.buys for one in sizes if one.section_mm2 > 2.5))
        for figures in ([s.rise_v for s in sizes], [s.loss_kwh for s in sizes]):
            self.assertEqual(figures, sorted(figures, reverse=True))
        # The chosen size's figures are the run's own.
        own = next(one for one in sizes if one.chosen)
        run = next(run for run in stage.runs if run.name == "To AC isolator")
        self.assertEqual((own.rise_v, own.loss_kwh), (run.rise_v, run.loss_kwh))

    def test_the_operators_cable_lifts_but_is_not_in_the_limit(self) -> None:
        own = feed(FED)
        theirs = feed(changed(FED, "To Board", of_network=True))
        self.assertEqual(theirs.today.terminal_v, own.today.terminal_v)
        self.assertLess(theirs.today.rise_pct, own.today.rise_pct)

    def test_what_never_reaches_the_trip_may_be_exported_whole(self) -> None:
        stage = feed(changed(FED, "To AC isolator", length_m=0.5))
        self.assertEqual(stage.today.most_export_w, FED.inverter.rated_ac_w)
        self.assertIn("all of its", stage.today.export_text)

    def test_a_profile_that_answers_rests_below_what_it_would_reach(self) -> None:
        job = replace(FED, grid=replace(FED.grid, profile="au-4777-a"))
        high = feed(with_reading(job, "supply_voltage", "L-N", 256.0)).high
        self.assertLess(high.settled.terminal_v, high.terminal_v)
        self.assertTrue(high.settled.limited)
        self.assertIsNone(feed(FED).high.settled)

    def test_one_response_alone_is_enough_to_rest(self) -> None:
        job = replace(FED, grid=replace(FED.grid, profile="au-4777-a"))
        watt, var = feed_of(job, Readings(kept_of(job)), frozenset()).responses
        for responses, rests in (((watt, ()), True), (((), var), True), (((), ()), False)):
            view = feed_of(job, Readings(kept_of(job)), frozenset())
            view.__dict__["responses"] = responses
            made = ladder(view, "high", 256.0)
            assert made is not None
            self.assertEqual(made.settled is not None, rests)

    def test_a_way_too_long_to_export_over_says_so(self) -> None:
        job = changed(with_run_size(FED, "To AC isolator", 1.5), "To AC isolator", length_m=500.0)
        stage = feed(replace(job, inverter=replace(job.inverter, rated_ac_w=100_000.0)))
        for rule in ("ac_terminal_room", "ac_rise_limit", "ac_high_day"):
            self.assertIn(judged(stage, rule).verdict, ("stop", "waiting", "watch"))


class Runs(TestCase):
    def test_what_the_tables_do_not_hold_waits_and_says_so(self) -> None:
        for changes, said in (
            ({"air_c": 65.0}, "10 to 60"),
            ({"grouped": 12}, "at most 9"),
            ({"material": "aluminium"}, "aluminium"),
            ({"method": "A1", "insulation": "xlpe"}, "B1 · C"),
        ):
            stage = feed(changed(FED, "To AC isolator", **changes))
            run = next(one for one in stage.runs if one.name == "To AC isolator")
            self.assertEqual(run.verdict, "waiting", changes)
            self.assertIn(said, run.line)

    def test_each_run_is_held_against_what_protects_it(self) -> None:
        # 6 mm2 by method C carries 46 A behind the 25 A breaker; the tails 85 A behind 63 A.
        carried = {run.name: run.judgements[0] for run in feed(FED).runs}
        self.assertEqual(
            [(one.value, one.limit) for one in carried.values()], [(85, 63), (46, 25), (46, 25)]
        )
        loose = with_device(FED, "Board", replace(FED.feed.device("Board"), breaker=None))
        self.assertEqual(feed(loose).runs[2].verdict, "waiting")

    def test_gauges_are_judged_by_their_own_tables(self) -> None:
        job = changed(FED, "To AC isolator", section_mm2=5.26, method="raceway", insulation="xlpe")
        run = next(one for one in feed(job).runs if one.name == "To AC isolator")
        self.assertIn("10\u00a0AWG", run.title)
        names = {one.name for one in run.sizes}
        self.assertEqual(names & {"8\u00a0AWG", "6\u00a0mm²"}, {"8\u00a0AWG"})
        self.assertIn("small_conductor", {one.rule_id for one in run.judgements})
        for section_mm2, gauged in ((4.0, False), (5.26, True)):
            dc = feed(with_home_size(job, "A", section_mm2)).dc_runs[0].sizes
            self.assertEqual({"AWG" in size.name for size in dc}, {gauged})

    def test_a_home_run_of_several_pieces_is_one_drop(self) -> None:
        job = with_home_piece(FED, "A", 1, HomeRun(length_m=10, section_mm2=4, to="Loft"))
        job = with_home_piece(job, "A", None, HomeRun(length_m=8, section_mm2=6))
        run = feed(job).dc_runs[0]
        # 2 * (10 m of 5.09 + 8 m of 3.39 ohm/km) at 70 C, at 13.2 A.
        loop = 2 * (10 * 5.09 + 8 * 3.39) / 1000 * (1 + 0.00393 * 50)
        self.assertAlmostEqual(run.drop.drop_v, loop * job.module.imp_a)
        self.assertFalse(any(one.chosen for one in run.sizes))
        one = without_home_piece(job, "A", 1)
        self.assertEqual(len(one.strings[0].home_run), 1)
        self.assertEqual(feed(with_home_size(job, "A", 10.0)).dc_runs[0].drop.drop_pct < 1, True)
        hot = with_home_piece(FED, "A", 1, HomeRun(length_m=10, section_mm2=4, air_c=95))
        self.assertEqual(feed(hot).dc_runs[0].verdict, "waiting")


class Switches(TestCase):
    def test_a_three_phase_inverter_on_a_one_phase_supply_stops(self) -> None:
        job = replace(FED, inverter=catalogue.inverter("veyrick-10-three"))
        self.assertEqual(judged(feed(job), "supply_fits").verdict, "stop")
        for service, verdict in (("three", "clear"), (None, "waiting")):
            stage = feed(with_supply(job, service, "TN"))
            self.assertEqual(judged(stage, "supply_fits").verdict, verdict)

    def test_schools_of_dc_isolation_side_by_side(self) -> None:
        schools = {one.school: one for one in feed(FED).dc_schools}
        # Two strings: four ends each a switch; the automatic one's own feed has three.
        ends = {name: one.terminations for name, one in schools.items()}
        self.assertEqual(ends, {"none": 0, "manual": 8, "automatic": 11, "both": 19})
        self.assertTrue(all(one.live and one.caution for one in schools.values()))
        self.assertEqual([one.school for one in schools.values() if one.chosen], ["none"])

    def test_a_dc_switch_is_held_against_the_strings_own_coldest_voltage(self) -> None:
        dc = catalogue.pick(catalogue.sheets("isolators"), "stobmoor-dc-16-pv1", Isolator, "$")
        job = with_dc(FED, DcSwitching(school="manual", isolator=dc, reason="As asked", by="A"))
        assessment = assess(job)
        cold = max(one.volts.voc_cold_v for one in assessment.string.strings)
        self.assertEqual(judged(assessment.feed, "dc_isolator_voltage").limit, cold)
        self.assertEqual(judged(assessment.feed, "dc_isolator_duty").verdict, "stop")
        bare = with_dc(FED, DcSwitching(school="manual"))
        self.assertEqual(judged(feed(bare), "dc_school").verdict, "waiting")
        self.assertEqual(judged(feed(bare), "dc_isolator_voltage").verdict, "waiting")

    def test_what_stands_on_the_path_is_on_the_load_in_sheet_once(self) -> None:
        dc = catalogue.pick(catalogue.sheets("isolators"), "stobmoor-dc-25", Isolator, "$")
        job = with_dc(FED, DcSwitching(school="manual", isolator=dc, surge="2", reason="As asked"))
        found = {line.what: line.count for line in load_in(job) if line.group == "equipment"}
        # The DC isolator hangs on the wall already; surge devices at both ends of the DC run.
        self.assertEqual(found[dc.label], 1)
        self.assertEqual((found["Stobmoor B25"], found["Stobmoor AC 40, two poles"]), (1, 1))
        cables = {line.what for line in load_in(FED) if line.group == "cable"}
        self.assertIn("AC cable 3 × 6\u00a0mm²", cables)
        self.assertIn("DC cable 4\u00a0mm², plus and minus", cables)
        # A two-pole isolator for each string, and one safety switch for both.
        small = catalogue.pick(catalogue.sheets("isolators"), "stobmoor-dc-16-pv1", Isolator, "$")
        guard = catalogue.pick(
            catalogue.sheets("safety_switches"), "stobmoor-guard-2", SafetySwitch, "$"
        )
        both = with_dc(
            FED, DcSwitching(school="both", isolator=small, safety=guard, reason="As asked")
        )
        counts = {line.what: line.count for line in load_in(both)}
        self.assertEqual((counts[small.label], counts[guard.label]), (2, 1))
        surges = (found["Surge device, AC, type 2"], found["Surge device, DC, type 2"])
        self.assertEqual(surges, (1, 2))


class Ends(TestCase):
    def test_an_end_says_how_it_is_made_in_the_regions_colours(self) -> None:
        end = next(one for one in feed(FED).ends if one.device == "Inverter")
        self.assertEqual([core.colour for core in end.cores], ["brown", "blue", "green and yellow"])
        longer = {core.conductor: core.longer_mm for core in end.cores}
        self.assertEqual(longer, {"L": 0, "N": 0, "PE": 30})
        self.assertEqual(len(end.threading), 3)
        self.assertIn("13.5", end.threading[1])
        south = feed(replace(FED, rule_pack="australia-nz")).ends[-1]
        self.assertEqual([core.colour for core in south.cores][:2], ["red", "black"])

    def test_fine_strands_get_a_ferrule_and_others_none(self) -> None:
        for strands, is_ferruled in (("fine", True), ("solid", False)):
            ends = feed(changed(FED, "To Inverter", strands=strands)).ends
            end = next(one for one in ends if one.device == "Inverter")
            self.assertEqual("Ferrule" in end.finish, is_ferruled, end.finish)

    def test_the_torque_log_counts_up_to_clear(self) -> None:
        done = feed(wired(FED))
        self.assertEqual({end.verdict for end in done.ends}, {"clear"})
        loose = feed(with_reading(wired(FED), "torque", "To Inverter at Inverter", 0.5, minute=99))
        self.assertEqual({e.device for e in loose.ends if e.verdict == "stop"}, {"Inverter"})

    def test_what_does_not_fit_stops_with_what_would(self) -> None:
        stage = feed(changed(FED, "To Inverter", section_mm2=25.0, outside_mm=25.0))
        end = next(one for one in stage.ends if one.device == "Inverter")
        self.assertEqual([one.verdict for one in end.judgements], ["stop", "stop"])
        self.assertIn("10\u00a0mm² is the nearest", end.line)


class SwitchingContext(TestCase):
    def test_what_shares_a_way(self) -> None:
        job = around(FED)
        stage = feed(job)
        self.assertEqual(judged(stage, "containment_parted").verdict, "stop")
        self.assertEqual(judged(stage, "containment_fill").verdict, "waiting")
        alone = Containment(name="Pipe", way="pipe", holds=("To Board",), width_mm=32)
        stage = feed(with_containment(FED, None, alone))
        # 13.5 mm in 32 mm: (13.5 / 32)^2.
        self.assertAlmostEqual(stage.containments[0].fill_pct, 17.8, places=1)

    def test_a_lid_goes_on_last(self) -> None:
        way = Containment(name="Pipe", way="pipe", holds=("To Inverter",), width_mm=32)
        job = with_reading(with_containment(FED, None, way), "lid", "Pipe", 1)
        self.assertEqual(feed(job).containments[0].verdict, "waiting")
        self.assertEqual(feed(wired(job)).containments[0].verdict, "clear")

    def test_backed_up_loads_by_phase(self) -> None:
        backup = BackupPlan(limit_a=20, three_phase=True)
        job = with_backup(FED, backup)
        for name, phase, amps, backed in (
            ("Lights", 1, 6, True),
            ("Pump", 0, 10, True),
            ("Oven", 2, 30, False),
            ("Kettle", 3, 13, True),
        ):
            job = with_load(
                job, None, LoadGroup(name=name, phase=phase, current_a=amps, backed_up=backed)
            )
        stage = feed(job).backup
        backed = [one for one in stage.phases if one.backed_up]
        self.assertEqual([one.current_a for one in backed], [16, 10, 23])
        self.assertEqual([one.verdict for one in backed], ["clear", "clear", "stop"])
        # The oven is not backed up, and more than the controller passes on.
        others = [(one.phase, one.verdict) for one in stage.phases if not one.backed_up]
        self.assertEqual(others, [("L2", "stop")])
        single = with_backup(job, replace(job.feed.backup, three_phase=False))
        self.assertEqual(judged(feed(single), "backup_one_phase").verdict, "stop")
        dropped = with_load(
            job, "Kettle", LoadGroup(name="Kettle", phase=3, current_a=13, backed_up=False)
        )
        backed = [one for one in feed(dropped).backup.phases if one.backed_up]
        self.assertEqual({one.verdict for one in backed}, {"clear"})

    def test_a_compartment_opens_only_when_proved_dead_in_order(self) -> None:
        job = FED
        self.assertEqual(feed(job).dead.verdict, "waiting")
        hasty = job
        for minute, step in enumerate(DEAD_STEPS):
            hasty = with_reading(hasty, "dead_step", step, 1, minute=minute)
        self.assertIn("capacitors", feed(hasty).dead.line)
        job = made_dead(job, 0)
        self.assertEqual(feed(job).dead.verdict, "clear")
        for said, worse in (
            ("in order", with_reading(job, "dead_step", "locked", 1, minute=50)),
            ("not done", with_reading(job, "dead_step", "ac_off", -1, minute=60)),
            ("put ON since", with_reading(job, "switch_stands", "dc", 1, minute=60)),
            ("put ON since", with_reading(job, "dc_switch", "inverter", -1, minute=60)),
            ("put ON since", with_reading(job, "loss_moment", "closed", 1, minute=60)),
        ):
            with self.subTest(said=said):
                self.assertEqual(feed(worse).dead.verdict, "stop")
                self.assertIn(said, feed(worse).dead.line)
        a_night = assess(job, at=NOON + timedelta(hours=20)).feed.dead
        self.assertEqual(a_night.verdict, "waiting")
        battery = BatteryPlan(units=1, most_units=2, discharge_a=20.0, breaker_a=32.0)
        backed = with_backup(job, BackupPlan(limit_a=40.0, battery=battery))
        self.assertIn("battery", feed(backed).dead.line)
        off = with_reading(backed, "switch_stands", "battery", -1, minute=30)
        self.assertEqual(feed(off).dead.verdict, "clear")


class Missing(TestCase):
    def test_what_is_empty_is_never_clear(self) -> None:
        way = feed(with_containment(FED, None, Containment(name="Pipe", way="open")))
        self.assertEqual(way.containments[0].verdict, "waiting")
        bare = feed(with_backup(FED, BackupPlan(limit_a=20))).backup
        self.assertEqual((bare.phases, bare.judgements[0].verdict), ((), "waiting"))
        plain = replace(FED.inverter.ac, gland_least_mm=None, gland_most_mm=None)
        stage = feed(replace(FED, inverter=replace(FED.inverter, ac=plain)))
        self.assertEqual(judged(stage, "gland_seals").verdict, "clear")
        end = next(one for one in stage.ends if one.device == "Inverter")
        self.assertIn("waiting", [one.verdict for one in end.judgements])

    def test_a_size_is_judged_as_its_run_would_be(self) -> None:
        read = with_reading(FED, "supply_voltage", "L-N", 232.0)
        loose = with_device(read, "Board", replace(FED.feed.device("Board"), breaker=None))
        for job, run in (
            (loose, "To Inverter"),
            (changed(read, "To Inverter", air_c=65.0), "To Inverter"),
        ):
            sizes = next(one.sizes for one in feed(job).runs if one.name == run)
            self.assertNotIn("clear", {one.verdict for one in sizes})
        # 14 AWG carries 20 A, and may be behind 15 A at most.
        gauge = changed(read, "To Inverter", section_mm2=5.26, method="raceway", insulation="xlpe")
        fine = replace(gauge.feed.device("Board").breaker, rated_a=20.0)
        gauge = with_device(gauge, "Board", replace(gauge.feed.device("Board"), breaker=fine))
        sizes = next(one.sizes for one in feed(gauge).runs if one.name == "To Inverter")
        thin = sizes[0]
        self.assertEqual((thin.name, thin.iz_a, thin.verdict), ("14\u00a0AWG", 20, "stop"))

    def test_a_breaker_is_judged_wherever_it_sits(self) -> None:
        board = FED.feed.device("Board")
        odd = with_device(FED, "Board", replace(board, kind="meter"))
        self.assertEqual(judged(feed(odd), "breaker_carries").verdict, "clear")


class OtherSources(TestCase):
    """What feeds the house beside the job."""

    def beside(self, job: Job, **changes: Any) -> Job:
        named = {"was": None, "name": "Garage", "kind": "inverter", "board": "Board"}
        typed = {"breaker_a": "20 A", "phase": "0", "output_va": "", "comes": False}
        return PutOtherSource(**(named | typed | changes)).apply(job, SHIPPED)

    def test_every_breaker_counts_on_the_busbar(self) -> None:
        # 63 A in, 20 A of the inverter, 20 A of the garage: 103 A on a bar of 100 A.
        board = FED.feed.device("Board")
        job = with_device(FED, "Board", replace(board, busbar_a=100.0, supply_a=63.0))
        own_a = board.breaker.rated_a
        self.assertEqual(judged(feed(job), "busbar_sum").value, 63 + own_a)
        both = self.beside(job)
        said = judged(feed(both), "busbar_sum")
        self.assertEqual((said.value, said.verdict), (63 + own_a + 20, "stop"))
        locks = {lock.rule_id for lock in assess(both).locks}
        self.assertIn("busbar_sum", locks)
        less = RemoveOtherSource(name="Garage").apply(both, SHIPPED)
        self.assertEqual(judged(feed(less), "busbar_sum").value, 63 + own_a)

    def test_while_nobody_looked_it_waits(self) -> None:
        unseen = replace(FED, feed=replace(FED.feed, others=None))
        said = judged(feed(unseen), "busbar_sum")
        self.assertEqual(said.verdict, "waiting")
        self.assertIn("whether anything else feeds this house", said.reason)
        seen = NothingElseFeeds().apply(unseen, SHIPPED)
        self.assertEqual(judged(feed(seen), "busbar_sum").verdict, "clear")

    def test_what_they_give_lifts_the_shared_runs_alone(self) -> None:
        before, after = feed(FED), feed(self.beside(FED, output_va="3680 VA"))
        board = [rung.name for rung in before.today.rungs].index("Board")
        for at, (one, other) in enumerate(zip(before.today.rungs, after.today.rungs, strict=True)):
            if 0 < at <= board:
                self.assertGreater(other.rise_v, one.rise_v)
                # 3680 VA beside the inverter's own, over the same conductors.
                share = 1 + 3680 / FED.wall_inverter.rated_ac_w
                self.assertAlmostEqual(other.rise_v / one.rise_v, share, delta=0.02)
            elif at > board:
                self.assertAlmostEqual(other.rise_v, one.rise_v, delta=0.02)

    def test_phases_of_a_three_phase_house(self) -> None:
        three = with_supply(FED, "three", "TN")
        beside = self.beside(three, phase="1", output_va="3.68 kVA")
        self.assertEqual(judged(feed(beside), "unbalance_limit").verdict, "waiting")
        for phase, verdict in ((1, "watch"), (2, "watch")):
            said = judged(feed(with_supply(beside, "three", "TN", phase)), "unbalance_limit")
            self.assertEqual(said.verdict, verdict, said.reason)
        own_kva = FED.wall_inverter.rated_ac_w / 1000
        same = judged(feed(with_supply(beside, "three", "TN", 1)), "unbalance_limit")
        self.assertAlmostEqual(same.value, own_kva + 3.68)
        # On another phase either may be off: the larger alone is the worst.
        apart = judged(feed(with_supply(beside, "three", "TN", 2)), "unbalance_limit")
        self.assertAlmostEqual(apart.value, max(own_kva, 3.68))

    def test_a_board_that_is_not_there_and_a_name_twice_are_refused(self) -> None:
        for changes, said in (
            ({"board": "Attic"}, "Board"),
            ({"breaker_a": "20 V"}, "A"),
            ({"phase": "4"}, "0 to 3"),
        ):
            with self.subTest(changes=changes), self.assertRaises(Refused) as refused:
                self.beside(FED, **changes)
            self.assertIn(said, str([vars(one) for one in refused.exception.problems]))
        with self.assertRaises(Refused):
            self.beside(self.beside(FED))


class Drawing(TestCase):
    def test_every_element_is_on_the_sheet_with_its_data_and_inside_its_frame(self) -> None:
        for job in (FED, around(FED), around(with_feed(whole_job())), sample_job()):
            stage = feed(job)
            path, sheet = stage.path, path_sheet(job, stage, "watch", "2026-11-25")
            texts = [one.stroke.text for one in sheet.marks if one.stroke.kind == "text"]
            for place in path.places:
                self.assertIn(place.name, texts)
            self.assertEqual(len(sheet.verdicts), len(path.places) + 1)
            for mark in sheet.marks:
                x, y = mark.stroke.at[:2]
                self.assertTrue(0 < x < sheet.width_mm and 0 < y < sheet.height_mm, mark)
            self.assertTrue(svg(sheet).startswith("<?xml"))

    def test_names_are_escaped_and_symbols_are_whole(self) -> None:
        nasty = replace(FED, name="<script>alert(1)</script>")
        text = svg(path_sheet(nasty, feed(nasty), "clear", "now"))
        self.assertNotIn("<script", text)
        used = {one.symbol for one in feed(around(FED)).path.places}
        self.assertLessEqual(used, set(symbols()))
        self.assertEqual(len(write(tuple(symbols().values()))), len(symbols()))

    def test_many_strings_are_drawn_tracker_by_tracker(self) -> None:
        strings = tuple(
            replace(FED.strings[0], name=f"S{n}", places=(), tracker=1 + n % 2) for n in range(9)
        )
        job = replace(FED, strings=strings)
        arrays = [one for one in feed(job).path.places if one.symbol == "array"]
        names = [one.name for one in arrays]
        self.assertEqual(names, ["Tracker 1, 5 strings", "Tracker 2, 4 strings"])


class Plans(TestCase):
    def test_devices_and_names_are_checked(self) -> None:
        supply = FeedDevice(name="S", kind="supply")
        for devices, runs, path in (
            ((supply, supply), (), "$.devices[1].name"),
            ((supply, replace(supply, name="T")), (), "$.devices"),
        ):
            with self.subTest(path=path), self.assertRaises(Refused) as caught:
                FeedPlan(devices=devices, runs=runs)
            self.assertIn(path, [one.path for one in caught.exception.problems])
