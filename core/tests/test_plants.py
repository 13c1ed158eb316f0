"""Every sequence on every kind of plant: its order never locks itself, its rehearsal ends well."""

from __future__ import annotations

from unittest import TestCase
from unittest.mock import patch

from core.assess import assess
from core.job.job import Job
from core.job.sequences import PHASES, SwitchId, known_sequences, known_steps
from core.planning.wake.order import EMERGENCY, chosen, steps
from core.rehearsal.play import Act
from core.rehearsal.rehearse import rehearse
from core.rehearsal.state import Shown
from core.stages.permissions.grants import Permissions
from core.stages.reading_index import Readings, kept_of
from core.tests.commissioned import followed, minutes_after_noon, taken
from core.tests.plants import plants
from core.tests.samples import with_reading

ON, OFF, REPLACE = range(3)
# Where nobody has said anything a switch is not OFF: these are said before work begins.
SAID_OFF: tuple[SwitchId, ...] = ("dc", "battery", "battery_breaker", "branch")


def gone_through(test: TestCase, job: Job, phase: int, minute: float) -> tuple[Job, float]:
    """The job after a phase, each step taken when its wait is over; no lock of a switch is met."""
    for _ in range(40):
        made = assess(job).wake.phases[phase]
        step = next((one for one in made.steps if one.standing != "done"), None)
        if step is None:
            break
        test.assertFalse(step.hard, f"{made.sequence} {made.phase}: {step.id} {step.gate.line}")
        minute += 1
        if step.due_at is not None:
            minute = max(minute, minutes_after_noon(step.due_at))
        job = taken(job, step, minute=minute)
    test.assertEqual(assess(job).wake.phases[phase].verdict, "clear")
    return job, minute


class EveryPlant(TestCase):
    def test_each_order_can_be_gone_through_on_off_on_and_replaced(self) -> None:
        # Conditions are each tested on their own: here the order alone must not lock itself.
        with (
            patch("core.stages.wake.steps.unmet", return_value=""),
            patch.object(Permissions, "locks", return_value=()),
        ):
            for name, job in plants().items():
                with self.subTest(plant=name):
                    self.go_through(job)

    def go_through(self, job: Job) -> None:
        for switch in SAID_OFF:
            job = with_reading(job, "switch_stands", switch, -1)
        minute = 1.0
        for phase in (ON, OFF, ON, REPLACE):
            job, minute = gone_through(self, job, phase, minute)

    def test_each_rehearsal_in_order_ends_well(self) -> None:
        for name, job in plants().items():
            for phase in (ON, OFF, REPLACE):
                with self.subTest(plant=name, phase=PHASES[phase]):
                    played = followed(job, phase)
                    left = [one.title for one in played.steps if one.done_s is None]
                    self.assertEqual(left, [], played.line)
                    self.assertFalse(played.shown.harmed)

    def test_emergency_off_is_short_and_never_locked(self) -> None:
        sequence = known_sequences()[EMERGENCY]
        for name, job in plants().items():
            with self.subTest(plant=name):
                planned = steps(job, sequence, "off")
                self.assertLessEqual(len(planned), 6)
                self.assertTrue(any(one.move for one in planned))
                stage = assess(job).wake.emergency
                for one in stage.steps:
                    if one.to == "OFF":
                        self.assertEqual(one.gate.verdict, "clear")

    def test_what_a_plant_has_not_it_is_not_asked_for(self) -> None:
        every = plants()
        plain = {one.id for one in steps(every["plain"], chosen(every["plain"]), "on")}
        self.assertFalse(plain & {"roof_on", "pair", "safety_feed", "battery_on"})
        whole = {one.id for one in steps(every["everything"], chosen(every["everything"]), "on")}
        self.assertLessEqual({"roof_on", "paired", "charged", "battery_on", "island"}, whole)
        bare = every["backup without battery"]
        self.assertNotIn("battery_on", {one.id for one in steps(bare, chosen(bare), "on")})

    def test_every_step_says_what_is_seen_and_what_to_do_otherwise(self) -> None:
        for step in known_steps().values():
            for text in (step.title, step.expect, step.otherwise):
                self.assertTrue(text.strip(), step.id)
            if step.light is not None:
                self.assertTrue(step.within_s or step.wait or step.wait_s or step.move, step.id)

    def test_every_condition_of_a_bare_job_says_what_is_missing(self) -> None:
        for name, job in plants().items():
            stage = assess(job).wake
            first = stage.phases[ON].steps[0]
            with self.subTest(plant=name):
                self.assertEqual((first.standing, first.gate.verdict), ("locked", "waiting"))
                self.assertTrue(first.gate.line.endswith("."))
                self.assertEqual(Readings(kept_of(job)).latest("wake_step", first.key), None)


class WrongOrders(TestCase):
    """What a wrong order does on the plants that have more than strings."""

    def play(self, plant: str, *moves: tuple[float, SwitchId, str], until_s: float) -> Shown:
        acts = tuple(Act(at_s=at, switch=switch, to=to) for at, switch, to in moves)  # type: ignore[arg-type]
        return rehearse(plants()[plant], phase="on", acts=acts, until_s=until_s).shown

    def texts(self, shown: Shown) -> str:
        return " ".join(event.text for event in shown.events)

    def test_a_battery_too_early_locks_itself(self) -> None:
        early = self.play("backup", (1, "breaker", "ON"), (5, "battery", "ON"), until_s=10)
        self.assertIn("locks itself", self.texts(early))
        in_time = self.play(
            "backup",
            (1, "breaker", "ON"),
            (2, "battery_breaker", "ON"),
            (200, "battery", "ON"),
            until_s=210,
        )
        self.assertNotIn("locks itself", self.texts(in_time))

    def test_battery_cables_under_load_are_an_arc(self) -> None:
        shown = self.play("backup", (1, "battery", "ON"), (2, "battery_plug", "ON"), until_s=5)
        self.assertTrue(shown.harmed)

    def test_the_backed_up_side_stays_live_with_the_supply_off(self) -> None:
        shown = self.play(
            "backup",
            (1, "breaker", "ON"),
            (2, "battery_breaker", "ON"),
            (200, "battery", "ON"),
            (210, "breaker", "OFF"),
            until_s=215,
        )
        self.assertIn("backed-up side is live", self.texts(shown))
        self.assertFalse(shown.harmed)

    def test_a_unit_swapped_with_its_branch_on_hurts(self) -> None:
        feeds = ((1.0, "leads", "ON"), (2.0, "branch", "ON"))
        drop = self.play("roof", *feeds, (200, "drop", "OFF"), until_s=205)
        leads = self.play("roof", *feeds, (200, "leads", "OFF"), until_s=205)
        self.assertTrue(drop.harmed and leads.harmed)
        off_first = self.play(
            "roof", *feeds, (200, "branch", "OFF"), (210, "leads", "OFF"), until_s=215
        )
        self.assertFalse(off_first.harmed)

    def test_nothing_of_an_optimised_string_feeds_before_it_is_paired(self) -> None:
        shown = self.play(
            "optimisers",
            *(
                (1.0 + at, switch, "ON")
                for at, switch in enumerate[SwitchId](("plugs", "dc", "breaker", "ac"))
            ),
            until_s=600,
        )
        self.assertEqual((shown.light, shown.power_w), ("pairing", 0.0))
