"""The day: counted from a job, what binds it, from now on, own times; what clashes over weeks."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from core.assess import assess
from core.base.errors import Refused
from core.base.form import read, write
from core.edits.arrival import Member, SetCrew
from core.edits.day import MoveVisit, PutVisit, RemoveVisit, SetSky, SetTools
from core.equipment.catalogue import SHIPPED
from core.files.job import read_job
from core.job.day import BadSky, DayLayout, LateGoods, MovedTask, PlannedVisit
from core.job.job import Job
from core.planning.day.check import broken
from core.planning.day.list_schedule import listed
from core.planning.day.now import from_now, lateness, latest_starts
from core.planning.day.own_times import LEAST_SEEN, Moment, own_times
from core.planning.day.problem import DayProblem, Person, Rest, Span, Task, Visit
from core.planning.day.tasks import (
    Counted,
    Crewed,
    Light,
    OwnTime,
    day_problem,
    kinds,
    without,
)
from core.planning.day.why import nowhere, why
from core.planning.weeks.check import clashes
from core.planning.weeks.problem import WeekPerson, WeekProblem, WeekVisit, way_min
from core.stages.day.counts import counted, whole
from core.stages.day.errands import errands
from core.tests.golden import DEMO

DAY = date(2026, 6, 22)
SUN = Light(
    daylight=tuple(Span(start_min=n * 1440 + 300, end_min=n * 1440 + 1260) for n in range(3)),
    planes=(),
)
ADA = Member(name="Ada", licence="", present=True)
spans = st.lists(
    st.tuples(st.integers(0, 60), st.integers(1, 20)).map(
        lambda one: Span(start_min=one[0], end_min=one[0] + one[1])
    ),
    max_size=4,
).map(tuple)


def demo(name: str, **days: object) -> Job:
    job = read_job((DEMO / f"{name}.json").read_bytes())
    roof = tuple(one.name for one in job.arrival.crew)
    visit = PlannedVisit(number=1, day=DAY)
    layout = DayLayout(**{"visits": (visit,), "roof": roof, "sky": 1.0} | days)
    return replace(job, days=layout)


def problem(job: Job, **more: object) -> DayProblem:
    said = assess(job)
    return day_problem(
        job, more.get("count") or whole(job, said), SUN, more.get("crewed", Crewed())
    )


def minutes(made: DayProblem, task: str) -> int:
    return next(one.minutes for one in made.tasks if one.id == task)


class Counting(TestCase):
    def test_every_kind_of_the_data_names_kinds_that_are_there(self) -> None:
        known = [one.id for one in kinds()]
        self.assertEqual(len(known), len(set(known)))
        for place, one in enumerate(kinds()):
            # What comes first stands first: no circle is possible.
            self.assertLessEqual({*one.after} - {*known[:place]}, {"on_again"}, one.id)

    def test_pieces_read_one_by_one_are_taken_off(self) -> None:
        job = read_job((DEMO / "beacon-row-7.json").read_bytes())
        said = assess(job)
        every, left = dict(whole(job, said).counts), counted(job, said)
        self.assertEqual(dict(left.counts)["labels"], 0)
        self.assertGreater(every["labels"], 3)
        self.assertIn("insulation", left.done)
        halved = [one for n, one in enumerate(said.asks) if one.kind != "label_stuck" or n % 2]
        part = replace(said, asks=tuple(replace(o, reading=None) for o in halved))
        self.assertEqual(dict(counted(job, part).counts)["labels"], every["labels"])

    def test_own_times_take_the_place_of_first_guesses_and_a_lift_of_both(self) -> None:
        job = demo("slipway-cottage")
        own = OwnTime(kind="labels", each_min=3.0, low_min=2, high_min=4, seen=20)
        first, own_made = problem(job), problem(job, crewed=Crewed(times=(own,)))
        self.assertEqual(minutes(own_made, "labels"), 3 * minutes(first, "labels"))
        self.assertEqual(minutes(own_made, "earth"), minutes(first, "earth"))
        lifted = problem(demo("slipway-cottage", lift=True))
        self.assertEqual(minutes(lifted, "modules") * 6, minutes(first, "modules") * 4)

    def test_a_heavy_device_and_a_battery_take_two_and_longer(self) -> None:
        job, light = demo("slipway-cottage"), (("hang", 2.0),)
        made = {}
        for more in ((), (("hang heavy", 1.0),), (("hang battery", 1.0),)):
            count = Counted(counts=light + more, planes=(), done=frozenset())
            task = next(o for o in problem(job, count=count).tasks if o.id == "hang")
            made[more] = (task.minutes, task.hands)
        self.assertEqual(list(made.values()), [(20, 1), (40, 2), (60, 2)])

    def test_times_seen_come_from_the_gaps_of_one_person_on_one_job(self) -> None:
        begin = datetime(2026, 6, 22, 8, 0, tzinfo=UTC)

        def seen(job: str, by: str, gaps: list[float]) -> list[Moment]:
            at, found = begin, []
            for gap in [0.0, *gaps]:
                at += timedelta(minutes=gap)
                found.append(Moment(job=job, kind="label_stuck", by=by, at=at))
            return found

        steady = seen("a", "Ada", [2.0, 3.0, 4.0, 3.0]) + seen("a", "Jory", [2.0, 3.0, 4.0, 3.0])
        (own,) = own_times(steady)
        self.assertEqual((own.kind, own.each_min, own.seen), ("labels", 3.0, LEAST_SEEN))
        self.assertTrue(own.low_min <= own.each_min <= own.high_min)
        # A batch from a file and a lunch between say nothing; too few are no time.
        noise = seen("b", "Ada", [0.0] * 30) + seen("c", "Ada", [90.0] * 30)
        self.assertEqual(own_times(steady + noise), (own,))
        self.assertEqual(own_times(steady[:-1]), ())

    def test_errands_are_due_before_the_first_and_after_the_last_visit(self) -> None:
        visits = (
            PlannedVisit(number=1, day=DAY), PlannedVisit(number=2, day=DAY + timedelta(days=3))
        )  # fmt: skip
        job = demo("slipway-cottage", visits=visits)
        for one in errands(job, assess(job)):
            if not one.id.startswith("look"):
                edge = one.due < DAY if one.when == "before" else one.due > visits[1].day
                self.assertTrue(edge, one)
        bare = replace(job, arrival=replace(job.arrival, permit=None))
        open_now = {one.id for one in errands(bare, assess(bare)) if not one.done}
        self.assertIn("permit", open_now)


class Binding(TestCase):
    @given(spans, spans)
    def test_a_minute_is_left_where_it_was_and_nothing_was_cut(
        self, whole_of: tuple[Span, ...], cut: tuple[Span, ...]
    ) -> None:
        def holds(among: tuple[Span, ...], at: int) -> bool:
            return any(one.start_min <= at < one.end_min for one in among)

        left = without(whole_of, cut)
        for at in range(90):
            self.assertEqual(holds(left, at), holds(whole_of, at) and not holds(cut, at), at)

    def test_wind_keeps_off_the_roof_and_rain_from_insulation_too(self) -> None:
        for what, bars in (("wind", {"roof"}), ("rain", {"roof", "insulation"})):
            sky = (BadSky(what=what, begins_min=600, ends_min=720),)
            job = demo("slipway-cottage", visits=(PlannedVisit(number=1, day=DAY, sky=sky),))
            barred = set()
            for one in problem(job).tasks:
                if one.windows is not None and not any(
                    w.start_min <= 600 and w.end_min >= 720 for w in one.windows
                ):
                    barred.add("roof" if one.roof else one.id)
            self.assertEqual(barred, bars)

    def test_what_waits_for_an_inverter_without_a_day_is_left_for_later(self) -> None:
        job = demo("gull-terrace-2")
        job = replace(job, arrival=replace(job.arrival, first_visit=True))
        made = {one.id for one in problem(job).tasks}
        self.assertIn("modules", made)
        self.assertIn("clear_up", made)
        self.assertFalse(made & {"hang", "ac_run", "off", "switch_on", "hand_over"})
        every = problem(replace(job, arrival=replace(job.arrival, first_visit=False))).tasks
        late = (LateGoods(what="inverter", day=DAY + timedelta(days=1)),)
        comes = replace(job, days=replace(job.days, late=late))
        self.assertEqual({o.id for o in problem(comes).tasks}, {o.id for o in every})

    def test_somebody_away_is_at_nothing_meanwhile(self) -> None:
        visits = tuple(PlannedVisit(number=n, day=DAY + timedelta(days=n - 1)) for n in (1, 2, 3))
        job = demo("slipway-cottage", visits=visits)
        away = (("Ada Fenn", (Span(start_min=600, end_min=700),)),)
        made = problem(job, crewed=Crewed(away=away))
        plan = listed(made)
        self.assertTrue(plan)
        self.assertEqual(broken(made, plan), ())
        stays = replace(made, people=tuple(replace(one, away=()) for one in made.people))
        told = {one.rule for one in broken(made, listed(stays))}
        self.assertEqual(told, {"away"})

    def test_a_task_longer_than_the_day_and_a_circle_are_said(self) -> None:
        people = (Person(id="Ada", licensed=True, roof=True),)
        visit = Visit(id="v", start_min=0, end_min=60)
        long = Task(id="a", label="Long", minutes=90)
        made = DayProblem(people=people, visits=(visit,), tasks=(long,))
        self.assertIn("the longest visit has 60", nowhere(made)[0])
        round_about = tuple(
            Task(id=name, label=name.upper(), minutes=5, after=(other,))
            for name, other in (("a", "b"), ("b", "c"), ("c", "a"))
        )
        made = replace(made, tasks=round_about)
        self.assertEqual(listed(made), ())
        self.assertIn("in a circle", nowhere(made)[0])
        job = demo("slipway-cottage")
        named = replace(job, arrival=replace(job.arrival, crew=job.arrival.crew * 2))
        self.assertEqual(len(problem(named).people), len(job.arrival.crew))
        with self.assertRaises(Refused) as refused:
            SetCrew(crew=(ADA, ADA)).apply(job, SHIPPED)
        self.assertEqual(refused.exception.problems[0].path, "$.crew[1].name")
        twice = write(replace(made, people=people)) | {"people": write(people * 2)}
        with self.assertRaises(Refused) as refused:
            read(DayProblem, twice)
        self.assertEqual(refused.exception.problems[0].path, "$.people[1].id")


class Now(TestCase):
    def test_what_is_over_is_over_and_the_rest_begins_now(self) -> None:
        rest = Rest(minutes=30, earliest_min=700, latest_end_min=800)
        visits = (
            Visit(id="1", start_min=450, end_min=990, rest=rest),
            Visit(id="2", start_min=1890, end_min=2430),
        )
        made = DayProblem(people=(), visits=visits, tasks=())
        at_ten = from_now(made, 600)
        self.assertEqual([o.start_min for o in at_ten.visits], [600, 1890])
        self.assertEqual(at_ten.visits[0].rest, rest)
        self.assertEqual(from_now(made, 780).visits[0].rest, None)
        self.assertEqual([o.id for o in from_now(made, 1000).visits], ["2"])

    def test_late_is_said_with_what_must_not_slip(self) -> None:
        people = (Person(id="Ada", licensed=True, roof=True),)
        window = (Span(start_min=600, end_min=910),)
        tasks = (
            Task(id="a", label="Ends", minutes=60),
            Task(id="b", label="Readings", minutes=30, after=("a",), windows=window),
        )
        morning = DayProblem(
            people=people, visits=(Visit(id="1", start_min=540, end_min=990),), tasks=tasks
        )
        self.assertEqual(latest_starts(morning), {"a": 820, "b": 880})
        late = from_now(morning, 580)
        said = lateness((morning, listed(morning)), (late, listed(late)))
        self.assertEqual(said, "40 min late. “Ends” before 13:40, or on another visit.")
        over = from_now(morning, 830)
        self.assertIn("not all of it fits", lateness((morning, listed(morning)), (over, ())))


class Editing(TestCase):
    def edited(self, job: Job, *edits: object) -> DayLayout:
        for one in edits:
            job = one.apply(job, SHIPPED)
        return job.days

    def test_a_visit_that_moves_keeps_its_number_and_what_was_put_on_it(self) -> None:
        job, on = demo("slipway-cottage"), DAY + timedelta(days=2)
        days = self.edited(
            job,
            PutVisit(day=DAY + timedelta(days=1)),
            SetSky(number=1, what="wind", begins="12:00", ends="14:00"),
            SetTools(tool="tester", count="2"),
            MoveVisit(number=1, day=on),
        )
        self.assertEqual(
            [(o.number, o.day) for o in days.visits], [(2, on - timedelta(1)), (1, on)]
        )
        self.assertEqual(days.visits[1].sky[0].begins_min, 720)
        moved = (
            MovedTask(task="labels", visit=1, at_min=600),
            MovedTask(task="off", visit=2, at_min=600),
        )
        left = self.edited(replace(job, days=replace(days, moved=moved)), RemoveVisit(number=1))
        self.assertEqual([one.task for one in left.moved], ["off"])

    def test_what_cannot_be_is_refused_and_named(self) -> None:
        job = demo("slipway-cottage")
        two = replace(job, days=self.edited(job, PutVisit(day=DAY + timedelta(days=1))))
        for edit, path in (
            (MoveVisit(number=2, day=DAY), "$.day"),
            (MoveVisit(number=9, day=DAY), "$.number"),
            (SetSky(number=1, what="rain", begins="14:00", ends="12:00"), "$"),
            (SetSky(number=1, what="rain", begins="noon", ends="12:00"), "$.begins"),
            (SetTools(tool="crane", count="1"), "$.tool"),
            (SetTools(tool="tester", count="many"), "$.count"),
            (PutVisit(day=DAY, travel_min="-5"), "$.travel_min"),
        ):
            with self.assertRaises(Refused) as refused:
                edit.apply(two, SHIPPED)
            self.assertTrue(refused.exception.problems[0].path.startswith(path), edit)


class Weeks(TestCase):
    def visit(self, name: str, begins: int, ends: int, *people: str, **more: object) -> WeekVisit:
        at = Span(start_min=begins, end_min=ends)
        base = {"id": name, "job": name, "label": name, "number": 1, "people": people, "at": at}
        return WeekVisit(**base | {"latitude_deg": 53.4, "longitude_deg": -3.0} | more)

    def rules(self, *visits: WeekVisit, away: tuple[Span, ...] = ()) -> set[tuple[str, str]]:
        people = (
            WeekPerson(id="Ada", licensed=True, away=away), WeekPerson(id="Jory")
        )  # fmt: skip
        made = WeekProblem(people=people, visits=visits)
        turned_round = WeekProblem(people=people, visits=visits[::-1])
        found = {(one.rule, one.visit) for one in clashes(made)}
        self.assertEqual(found, {(one.rule, one.visit) for one in clashes(turned_round)})
        return found

    def test_each_clash_is_found_and_nothing_else(self) -> None:
        a = self.visit("a", 450, 990, "Ada", "Jory")
        self.assertEqual(self.rules(a), set())
        self.assertEqual(self.rules(a, self.visit("b", 900, 1000, "Jory", "Ada")), {("twice", "b")})
        far = {"latitude_deg": 53.9}
        self.assertEqual(self.rules(a, self.visit("b", 1000, 1100, "Ada", **far)), {("way", "b")})
        self.assertEqual(self.rules(a, self.visit("b", 1200, 1300, "Ada", **far)), set())
        self.assertEqual(self.rules(self.visit("b", 450, 990, "Jory")), {("licence", "b")})
        self.assertEqual(self.rules(self.visit("b", 450, 990)), {("nobody", "b")})
        self.assertEqual(self.rules(self.visit("b", 1, 9, "Ada", permit=False)), {("permit", "b")})
        self.assertEqual(self.rules(self.visit("b", 1, 9, "Ada", goods_min=5)), {("goods", "b")})
        gone = (Span(start_min=980, end_min=1500),)
        self.assertEqual(self.rules(a, away=gone), {("away", "a")})
        first = self.visit("1", 2000, 2100, "Ada", job="j")
        then = self.visit("2", 450, 990, "Ada", job="j", number=2)
        self.assertEqual(self.rules(first, then), {("order", "2")})

    @settings(max_examples=60)
    @given(*[st.floats(-60, 60) for _ in range(4)])
    def test_the_way_is_as_long_back_and_a_degree_is_two_hours(
        self, a: float, b: float, c: float, d: float
    ) -> None:
        one = self.visit("a", 1, 2, latitude_deg=a, longitude_deg=b)
        other = self.visit("b", 1, 2, latitude_deg=c, longitude_deg=d)
        self.assertAlmostEqual(way_min(one, other), way_min(other, one), delta=1)
        up = replace(one, latitude_deg=a + 1)
        # 111.2 km of a meridian, 1.3 times as far by road, at 45 km/h.
        self.assertAlmostEqual(way_min(one, up), 111.2 * 1.3 / 45 * 60, delta=1)


class Said(TestCase):
    def test_every_task_that_lies_somewhere_says_why(self) -> None:
        made = problem(
            demo("slipway-cottage", visits=(PlannedVisit(number=1, day=DAY, ends_min=1400),))
        )
        plan = listed(made)
        said = why(made, plan)
        self.assertEqual({one.task for one in plan}, set(said))
        self.assertTrue(all(said.values()))
