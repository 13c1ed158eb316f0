"""Where switches stand: one fact from the latest word, wherever it was given; and what it opens."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta
from functools import cache
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from core.assess import assess
from core.edits.commission import with_sequence
from core.equipment import catalogue
from core.job.feed import BackupPlan, BatteryPlan
from core.job.fingerprints import stamped
from core.job.job import Job
from core.job.sequences import known_sequences, known_steps
from core.planning.wake.order import chosen, steps, wait_s
from core.stages.permissions.switches import Positions, branch_switch, positions
from core.tests.commissioned import made_dead, proved, ready_job, settings_made, sound_roof, woken
from core.tests.samples import NOON, with_reading
from core.tests.test_permissions import state

# Every way to say where the DC switch stands: kind, subject, the answer that means OFF.
SAYS_DC = (
    ("dc_switch", "inverter", 1),
    ("switch_stands", "dc", -1),
    ("dead_step", "dc_off", 1),
    ("wake_step", "dc_first off dc_off", 1),
)
SAYS_DC_ON = (
    ("dc_switch", "inverter", -1),
    ("switch_stands", "dc", 1),
    ("dead_step", "dc_off", -1),
    ("wake_step", "dc_first on dc_on", 1),
)
LATER = 500.0


@cache
def wall() -> Job:
    return settings_made(proved(ready_job()))


@cache
def roof() -> Job:
    return sound_roof()


def stands(job: Job) -> Positions:
    return positions(job)


class OneFact(TestCase):
    @given(st.lists(st.sampled_from((*SAYS_DC, *SAYS_DC_ON)), min_size=1, max_size=6))
    def test_the_latest_word_counts_wherever_it_was_given(
        self, said: list[tuple[str, str, int]]
    ) -> None:
        job = wall()
        for minute, (kind, subject, value) in enumerate(said):
            job = with_reading(job, kind, subject, value, minute=LATER + minute)
        wanted = "OFF" if said[-1] in SAYS_DC else "ON"
        self.assertEqual(stands(job).of("dc"), wanted)
        plug = state(assess(job), "plug", "A").verdict
        self.assertEqual(plug == "clear", wanted == "OFF", said)

    def test_two_words_of_one_moment_the_one_kept_later_counts(self) -> None:
        job = with_reading(wall(), "dc_switch", "inverter", -1, minute=LATER)
        job = with_reading(job, "switch_stands", "dc", -1, minute=LATER)
        self.assertEqual(stands(job).of("dc"), "OFF")

    def test_a_corrected_word_is_none(self) -> None:
        job = with_reading(wall(), "dc_switch", "inverter", -1, minute=LATER)
        wrong = job.readings[-1]
        job = with_reading(
            job, "dc_switch", "inverter", 1, minute=LATER, supersedes=wrong.id, note="the other one"
        )
        self.assertEqual(stands(job).of("dc"), "OFF")

    def test_what_was_not_as_expected_moved_nothing(self) -> None:
        job = with_reading(wall(), "wake_step", "dc_first on dc_on", -1, minute=LATER)
        self.assertEqual(stands(job).of("dc"), "OFF")

    def test_nobody_said_is_neither_on_nor_off(self) -> None:
        bare = replace(wall(), readings=())
        self.assertIsNone(stands(bare).of("dc"))
        plug = state(assess(bare), "plug", "A")
        self.assertIn("8 switch_off_now switch_stands/dc", state(assess(bare), "plug").locks)
        self.assertNotEqual(plug.verdict, "clear")

    def test_the_trial_of_loss_leaves_the_ac_side_on(self) -> None:
        job = with_reading(wall(), "loss_moment", "opened", 1, minute=LATER)
        self.assertEqual(stands(job).of("ac"), "OFF")
        job = with_reading(job, "loss_moment", "closed", 1, minute=LATER + 1)
        self.assertEqual(stands(job).of("ac"), "ON")

    def test_a_branch_is_off_by_the_swap_that_began_with_it(self) -> None:
        job = with_reading(roof(), "branch_on", "B1", 1, minute=LATER)
        job = with_reading(job, "branch_on", "B2", 1, minute=LATER)
        self.assertEqual(stands(job).branches_on(), {"B1", "B2"})
        swapped = with_reading(job, "swap_step", "U1 branch_off", 1, minute=LATER + 1)
        self.assertEqual(stands(swapped).branches_on(), {"B2"})
        self.assertEqual(stands(swapped).of("branch"), "ON")
        every = with_reading(job, "switch_stands", "branch", -1, minute=LATER + 2)
        self.assertEqual(stands(every).branches_on(), frozenset())
        self.assertEqual(stands(every).of(branch_switch("B1")), "OFF")


class Dead(TestCase):
    def opened(self, job: Job, **asked: object) -> str:
        return assess(job, **asked).feed.dead.verdict  # type: ignore[arg-type]

    def test_any_switch_put_on_ends_it(self) -> None:
        dead = made_dead(wall(), LATER)
        self.assertEqual(self.opened(dead), "clear")
        for switch in ("dc", "breaker", "ac", "plugs", "roof"):
            with self.subTest(switch=switch):
                on = with_reading(dead, "switch_stands", switch, 1, minute=LATER + 60)
                self.assertEqual(self.opened(on), "stop")
                again = with_reading(on, "switch_stands", switch, -1, minute=LATER + 61)
                # OFF again is not dead again: it is proved from the first step.
                self.assertEqual(self.opened(again), "stop")
                self.assertEqual(self.opened(made_dead(again, LATER + 62)), "clear")

    def test_the_wait_is_the_sheets_own_and_counted_from_the_last_switch(self) -> None:
        slow = replace(wall(), inverter=replace(wall().inverter, discharge_min=15.0))
        self.assertIn("capacitors", assess(made_dead(slow, LATER)).feed.dead.line)
        quick = replace(wall(), inverter=replace(wall().inverter, discharge_min=0.5))
        job = made_dead(quick, LATER)
        hasty = with_reading(job, "dead_step", "dc_off", 1, minute=LATER + 6.9)
        self.assertEqual(self.opened(hasty), "stop")
        step = known_steps()["discharged"]
        self.assertEqual(wait_s(slow, step), 900.0)

    def test_it_holds_for_the_day_and_no_night(self) -> None:
        dead = made_dead(wall(), LATER)
        done = NOON + timedelta(minutes=LATER)
        self.assertEqual(self.opened(dead, at=done + timedelta(minutes=60)), "clear")
        self.assertEqual(self.opened(dead, at=done + timedelta(hours=20)), "waiting")

    def test_a_battery_beside_it_is_off_by_word(self) -> None:
        battery = BatteryPlan(units=1, most_units=2, discharge_a=20.0, breaker_a=32.0)
        job = made_dead(wall(), LATER)
        backed = replace(
            job, feed=replace(job.feed, backup=BackupPlan(limit_a=40.0, battery=battery))
        )
        self.assertEqual(self.opened(backed), "stop")
        off = with_reading(backed, "switch_stands", "battery", -1, minute=LATER + 20)
        self.assertEqual(self.opened(off), "clear")
        on = with_reading(off, "switch_stands", "battery", 1, minute=LATER + 30)
        self.assertEqual(self.opened(on), "stop")

    def test_a_roof_has_no_dc_switch_to_put_off(self) -> None:
        job = made_dead(roof(), LATER)
        self.assertEqual(self.opened(job), "clear")
        on = with_reading(job, "branch_on", "B2", 1, minute=LATER + 30)
        self.assertEqual(self.opened(on), "stop")


class Orders(TestCase):
    def test_off_and_replacing_go_ac_first_then_dc(self) -> None:
        for sequence in known_sequences().values():
            for phase in ("off", "replace"):
                moves = [known_steps()[one].move for one in sequence.phase(phase)]
                put_off = [one.switch for one in moves if one and one.to == "OFF"]
                ac = [put_off.index(one) for one in ("ac", "breaker") if one in put_off]
                if "dc" in put_off and ac:
                    with self.subTest(sequence=sequence.id, phase=phase):
                        self.assertLess(min(ac), put_off.index("dc"))

    def test_a_sheet_that_wants_dc_first_has_its_way(self) -> None:
        job = wall()
        own = replace(job, inverter=replace(job.inverter, switch_off="dc_first"))
        for phase in ("off", "replace"):
            usual = [one.id for one in steps(job, chosen(job), phase)]
            asked = [one.id for one in steps(own, chosen(own), phase)]
            self.assertEqual((usual[0], asked[0]), ("ac_off", "dc_off"))
            self.assertEqual(sorted(usual), sorted(asked))
        on = [one.id for one in steps(own, chosen(own), "on")]
        self.assertEqual(on, [one.id for one in steps(job, chosen(job), "on")])

    def test_the_step_that_lets_it_feed_wants_the_profile_whichever_side_is_last(self) -> None:
        bare = proved(ready_job())
        for sequence, last in (("dc_first", "ac_on"), ("ac_first", "dc_on"), ("no_sun", "dc_on")):
            job = with_sequence(bare, sequence)
            for switch in ("breaker", "ac", "dc"):
                job = with_reading(job, "switch_stands", switch, -1, minute=25)
            stuck = next(
                one for one in assess(woken(job)).wake.phases[0].steps if one.standing == "locked"
            )
            with self.subTest(sequence=sequence):
                wanted = "profile_set" if sequence == "no_sun" else last
                self.assertEqual(stuck.id, wanted)
                said = " ".join(one.reason for one in stuck.locks)
                self.assertIn("profile", said)

    def test_where_nobody_spoke_of_the_other_side_a_switch_waits_for_word(self) -> None:
        job = wall()
        silent = replace(
            job, readings=tuple(r for r in job.readings if r.kind not in ("dead_step", "dc_switch"))
        )
        silent = with_reading(silent, "switch_stands", "dc", -1, minute=26)
        stuck = next(
            one for one in assess(woken(silent)).wake.phases[0].steps if one.standing == "locked"
        )
        self.assertEqual(stuck.id, "dc_on")
        said = " ".join(one.reason for one in stuck.locks)
        self.assertIn("Breaker", said)
        self.assertIn("AC isolator", said)

    def test_what_comes_to_light_while_it_runs_puts_it_off(self) -> None:
        ended = woken(wall())
        self.assertEqual(assess(ended).wake.phases[0].verdict, "clear")
        for kind, subject, value in (
            ("look_over", "covers", -1),
            ("insulation_plus", "A", 0.01),
            ("torque", "To Inverter at Inverter", 0.2),
            ("continuity", "Inverter → Main earth terminal", 9.0),
        ):
            with self.subTest(kind=kind):
                worse = with_reading(ended, kind, subject, value, minute=900)
                phase = assess(worse).wake.phases[0]
                self.assertEqual(phase.verdict, "stop")
                self.assertIn("must not be left so", phase.line)

    def test_a_module_of_another_kind_ends_what_its_strings_carried(self) -> None:
        ended = woken(wall())
        other = next(one for one in catalogue.sheets("modules") if one.id != ended.module.id)
        swapped = replace(stamped(ended), module=other)
        self.assertNotEqual(assess(swapped).wake.phases[0].verdict, "clear")
