"""Wake: the sequences as data, their locks, waits and overrides, and the rehearsal of them."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from core.assess import assess
from core.base.errors import Refused
from core.edits.commission import with_sequence
from core.interlocks import liftable, refuse_if_locked
from core.job.feed import BackupPlan, BatteryPlan, DcSwitching
from core.job.job import Job
from core.job.readings import Reading
from core.job.sequences import (
    PHASES,
    SWITCHES,
    StepOverride,
    SwitchId,
    known_sequences,
    known_steps,
    wake_key,
)
from core.planning.wake.order import chosen, fitting
from core.rehearsal.play import Act
from core.rehearsal.rehearse import rehearse
from core.rehearsal.state import Shown
from core.tests.commissioned import (
    BEGIN_MIN,
    followed,
    proved,
    ready_job,
    settings_made,
    step_now,
    taken,
    woken,
)
from core.tests.samples import NOON, micro_job, sample_job, with_reading

ON, OFF, REPLACE = range(3)


def whole() -> Job:
    return settings_made(proved(ready_job()))


def reading_of(job: Job, key: str, value: float = 1, *, minute: float = 0) -> Reading:
    return with_reading(job, "wake_step", key, value, minute=minute).readings[-1]


def lifted(job: Job, key: str) -> StepOverride:
    return StepOverride(
        id=f"override-{len(job.step_overrides)}",
        at=NOON + timedelta(minutes=BEGIN_MIN),
        by="Ada Fenn",
        licence="L 1",
        key=key,
        reason="meter man waits, permit by phone",
        lifted="permit",
        lock="1 permit_on_file",
    )


class Sequences(TestCase):
    def test_switching_off_comes_with_every_sequence_and_everything_is_put_off(self) -> None:
        for one in known_sequences().values():
            if one.id == "emergency":
                continue
            self.assertTrue(one.on and one.off and one.replace, one.id)
            put_on = [known_steps()[s].move for s in one.on]
            put_off = {
                move.switch for s in one.off if (move := known_steps()[s].move) and move.to == "OFF"
            }
            # Plugs, leads and the like stay where they are; what carries current is opened.
            opened = {m.switch for m in put_on if m and m.switch in ("dc", "breaker", "branch")}
            self.assertLessEqual(opened, put_off, one.id)

    def test_plugs_never_move_but_with_their_switch_off(self) -> None:
        for step in known_steps().values():
            if step.move and step.move.switch in ("plugs", "leads", "drop", "battery_plug"):
                self.assertTrue(step.state, step.id)

    def test_the_plan_leads_to_the_sequence(self) -> None:
        job = sample_job()
        self.assertEqual(chosen(job).id, "dc_first")
        uk = replace(job, rule_pack="uk-small")
        self.assertEqual(chosen(uk).id, "ac_first")
        self.assertEqual(chosen(micro_job()).id, "micro")
        battery = BatteryPlan(units=1, most_units=2, discharge_a=20.0, breaker_a=32.0)
        backup = replace(job.feed, backup=BackupPlan(limit_a=40.0, battery=battery))
        self.assertEqual(chosen(replace(job, feed=backup)).id, "backup")
        safe = replace(job.feed, dc=DcSwitching(school="automatic"))
        self.assertEqual(chosen(replace(job, feed=safe)).id, "safety_switch")

    def test_a_sequence_that_does_not_fit_is_refused(self) -> None:
        job = sample_job()
        self.assertEqual(chosen(with_sequence(job, "no_sun")).id, "no_sun")
        with self.assertRaises(Refused):
            with_sequence(job, "micro")
        self.assertEqual(set(fitting(job)), {"dc_first", "ac_first", "no_sun"})


class Locks(TestCase):
    def test_a_whole_job_is_woken_in_order_and_not_otherwise(self) -> None:
        job = woken(whole())
        self.assertEqual(assess(job).wake.phases[ON].verdict, "clear")
        self.assertEqual(assess(job).stages[7].verdict, "clear")

    def test_no_step_comes_before_its_turn(self) -> None:
        job = whole()
        steps = assess(job).wake.phases[ON].steps
        for step in steps[1:]:
            with self.assertRaises(Refused, msg=step.id):
                refuse_if_locked(job, reading_of(job, step.key.partition("/")[2]))

    def test_each_condition_locks_the_step_that_needs_it(self) -> None:
        job = whole()
        for without, key in (
            ("irradiance", "dc_on"),
            ("look_over", "clear"),
            ("conductor_voltage", "supply_read"),
            ("insulation_plus", "clear"),
            ("polarity", "clear"),
        ):
            bare = replace(job, readings=tuple(r for r in job.readings if r.kind != without))
            stuck = step_now(woken(bare))
            assert stuck is not None
            self.assertEqual((stuck.standing, stuck.gate.verdict), ("locked", "waiting"), without)
            ids = [one.id for one in assess(job).wake.phases[ON].steps]
            self.assertLessEqual(ids.index(stuck.id), ids.index(key), without)
        no_permit = replace(job, arrival=replace(job.arrival, permit=None))
        stuck = step_now(woken(no_permit))
        assert stuck is not None
        self.assertIn("permit", stuck.gate.line.lower())

    def test_nothing_is_left_running_on_a_wrong_profile(self) -> None:
        stuck = step_now(woken(proved(ready_job())))
        assert stuck is not None
        # The AC side is what lets it feed: the breaker may be ON while the isolator is not.
        self.assertEqual((stuck.id, stuck.standing, stuck.permission), ("ac_on", "locked", "ac"))
        self.assertIn("profile", stuck.gate.line)

    def test_a_wait_is_over_by_when_the_step_was_taken(self) -> None:
        job = whole()
        minute = BEGIN_MIN
        while (step := step_now(job)) is not None and step.id != "watch":
            minute += 0.1
            job = taken(job, step, minute=minute)
        assert step is not None and step.due_at is not None
        key = step.key.partition("/")[2]
        early = reading_of(job, key, minute=minute + 0.5)
        with self.assertRaises(Refused):
            refuse_if_locked(job, early)
        refuse_if_locked(job, reading_of(job, key, minute=minute + 1.01))

    def test_what_did_not_happen_may_always_be_said_and_stops(self) -> None:
        job = whole()
        step = step_now(job)
        assert step is not None
        key = step.key.partition("/")[2]
        refuse_if_locked(job, reading_of(job, key, -1))
        began = taken(job, step, minute=BEGIN_MIN)
        second = step_now(began)
        assert second is not None
        failed = taken(began, second, -1, minute=BEGIN_MIN + 1)
        self.assertEqual(assess(failed).wake.phases[ON].verdict, "stop")
        self.assertIn(second.otherwise, assess(failed).wake.phases[ON].line)

    def test_off_is_never_refused_but_a_plug_under_load_is(self) -> None:
        job = woken(whole())
        for step in assess(job).wake.phases[OFF].steps:
            if step.to == "OFF":
                refuse_if_locked(job, reading_of(job, step.key.partition("/")[2], minute=300))
        plugs = next(s for s in assess(job).wake.phases[REPLACE].steps if s.id == "plugs_out")
        self.assertTrue(plugs.hard)
        with self.assertRaises(Refused):
            refuse_if_locked(job, reading_of(job, plugs.key.partition("/")[2], minute=300))
        with self.assertRaises(Refused):
            liftable(job, plugs.key)

    def test_all_off_and_replaced_after_it_was_on(self) -> None:
        job = woken(woken(whole()), OFF, begin_min=300)
        self.assertEqual(assess(job).wake.phases[OFF].verdict, "clear")
        positions = {one.switch: one.position for one in assess(job).wake.switches}
        self.assertEqual((positions["dc"], positions["breaker"]), ("OFF", "OFF"))
        # What was put OFF is switched on anew, and the sun of noon is not the evening's.
        self.assertEqual(assess(job).wake.phases[ON].done, 0)
        stuck = step_now(woken(job, ON, begin_min=400))
        self.assertEqual(stuck and stuck.id, "dc_on")
        job = with_reading(job, "irradiance", "East", 300.0, minute=390)
        again = woken(job, ON, begin_min=400)
        self.assertEqual(assess(again).wake.phases[ON].verdict, "clear")

    def test_an_override_lifts_one_lock_of_this_round_and_is_told(self) -> None:
        job = whole()
        job = replace(job, arrival=replace(job.arrival, permit=None))
        step = step_now(job)
        assert step is not None
        found = liftable(job, step.key)
        self.assertEqual((found.step.id, found.lock.rule_id), ("clear", "permit_on_file"))
        freed = replace(job, step_overrides=(lifted(job, step.key.partition("/")[2]),))
        refuse_if_locked(freed, reading_of(freed, step.key.partition("/")[2]))
        rules = {one.rule_id: one for one in assess(freed).wake.judgements}
        self.assertEqual(rules["lock_overridden"].verdict, "watch")
        self.assertIn("meter man", rules["lock_overridden"].reason)

    def test_an_override_of_an_earlier_round_lifts_nothing_now(self) -> None:
        job = whole()
        step = step_now(job)
        assert step is not None
        first = step.key.partition("/")[2]
        job = replace(job, arrival=replace(job.arrival, permit=None))
        job = replace(job, step_overrides=(lifted(job, first),))
        job = taken(job, step, minute=BEGIN_MIN + 1)
        self.assertEqual(assess(job).wake.phases[ON].done, 1)
        again = taken(job, step, -1, minute=BEGIN_MIN + 5)
        with self.assertRaises(Refused):
            refuse_if_locked(again, reading_of(again, first, minute=BEGIN_MIN + 6))

    def test_what_follows_a_step_that_is_done_anew_is_done_anew(self) -> None:
        job = woken(whole())
        second = assess(job).wake.phases[ON].steps[1]
        redone = taken(taken(job, second, -1, minute=200), second, minute=201)
        self.assertEqual(assess(redone).wake.phases[ON].done, 2)

    def test_a_first_step_that_fails_is_told(self) -> None:
        job = whole()
        step = step_now(job)
        assert step is not None
        failed = taken(job, step, -1, minute=BEGIN_MIN)
        self.assertEqual(assess(failed).wake.phases[ON].verdict, "stop")

    def test_lights_are_decoded_by_the_devices_own_table(self) -> None:
        job = with_reading(whole(), "light", "inverter", 0, text="red, steady")
        stage = assess(job).wake
        assert stage.light is not None
        self.assertEqual(stage.light.state, "earth_fault")
        self.assertIn("light_alarm", {one.rule_id for one in stage.judgements})
        unknown = with_reading(whole(), "light", "inverter", 0, text="pink, dancing")
        self.assertIsNone(assess(unknown).wake.light)


class Rehearsals(TestCase):
    def test_in_order_it_ends_well_for_any_seed(self) -> None:
        for seed in (1, 2):
            for phase in (ON, OFF, REPLACE):
                played = followed(whole(), phase, seed=seed)
                self.assertTrue(played.finished, (phase, played.line))
                self.assertFalse(played.shown.harmed)

    def test_the_same_seed_and_moves_give_the_same(self) -> None:
        acts = (Act(at_s=3, switch="plugs"), Act(at_s=9, switch="dc"))
        one, two = (self.play(acts, 60) for _ in range(2))
        self.assertEqual(one, two)

    def play(self, acts: tuple[Act, ...], until_s: float, **more: str) -> Shown:
        return rehearse(whole(), phase="on", acts=acts, until_s=until_s, **more).shown  # type: ignore[arg-type]

    FEEDS = tuple(
        Act(at_s=at, switch=switch)
        for at, switch in enumerate[SwitchId](("plugs", "roof", "dc", "breaker", "ac"))
    )

    def texts(self, shown: Shown) -> str:
        return " ".join(event.text for event in shown.events)

    def test_a_plug_pulled_under_load_is_an_arc(self) -> None:
        shown = self.play((*self.FEEDS, Act(at_s=200, switch="plugs", to="OFF")), 210)
        self.assertTrue(shown.harmed)
        self.assertIn("arc", self.texts(shown))
        dead = self.play((*self.FEEDS[:2], Act(at_s=20, switch="plugs", to="OFF")), 30)
        self.assertFalse(dead.harmed)

    def test_it_watches_the_supply_before_it_feeds(self) -> None:
        before = self.play(self.FEEDS, 70)
        after = self.play(self.FEEDS, 100)
        self.assertEqual((before.light, before.power_w), ("watching", 0.0))
        self.assertEqual(after.light, "feeding")
        self.assertGreater(after.power_w, 0)

    def test_a_high_supply_trips_it_and_it_watches_anew(self) -> None:
        shown = self.play(self.FEEDS, 400, supply="high")
        self.assertIn("over-voltage", self.texts(shown))

    def test_little_sun_does_not_start_it(self) -> None:
        self.assertEqual(self.play(self.FEEDS, 400, sun="dark").light, "starting")

    def test_opening_the_supply_back_feeds_for_a_moment(self) -> None:
        shown = self.play((*self.FEEDS, Act(at_s=200, switch="breaker", to="OFF")), 210)
        self.assertIn("back into the open circuit", self.texts(shown))
        self.assertEqual(shown.power_w, 0.0)

    def test_a_safety_switch_must_charge_before_dc_reaches(self) -> None:
        job = whole()
        safety = replace(job.feed.dc, school="automatic")
        job = replace(job, feed=replace(job.feed, dc=safety))
        acts = (Act(at_s=1, switch="plugs"), Act(at_s=2, switch="dc"))
        shown = rehearse(job, phase="on", acts=acts, until_s=30).shown
        self.assertIn("safety switch is open", self.texts(shown))

    @settings(max_examples=60, deadline=None)
    @given(
        st.lists(
            st.tuples(st.floats(0, 900), st.sampled_from(SWITCHES), st.sampled_from(("ON", "OFF"))),
            max_size=25,
        ),
        st.integers(0, 1000),
    )
    def test_any_order_of_any_switch_has_an_answer(
        self, moves: list[tuple[float, SwitchId, str]], seed: int
    ) -> None:
        acts = tuple(Act(at_s=at, switch=switch, to=to) for at, switch, to in moves)  # type: ignore[arg-type]
        shown = rehearse(whole_once(), phase="on", acts=acts, until_s=900, seed=seed).shown
        self.assertGreaterEqual(shown.power_w, 0.0)
        ordered = [event.at_s for event in shown.events]
        self.assertEqual(ordered, sorted(ordered))
        # Power only where both sides reach the inverter.
        if shown.power_w > 0:
            self.assertEqual((shown.stands("dc"), shown.stands("breaker")), ("ON", "ON"))


_KEPT: list[Job] = []


def whole_once() -> Job:
    """The whole job, made once for all examples."""
    if not _KEPT:
        _KEPT.append(whole())
    return _KEPT[0]


class Keys(TestCase):
    def test_every_key_fits_a_name(self) -> None:
        for one in known_sequences().values():
            for phase in PHASES:
                for step in one.phase(phase):
                    self.assertLessEqual(len(wake_key(one.id, phase, step)), 60)
