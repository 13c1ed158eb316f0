"""Leave: what ends a job and what brings somebody back to it, and each rule by another route."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from functools import cache
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from core.assess import assess
from core.assessment.leave import LeaveStage
from core.assessment.whole import Assessment
from core.base.errors import Refused
from core.edits.every import read_edit
from core.equipment import catalogue
from core.files.differences import differences
from core.files.job import read_job, write_job
from core.files.yield_table import read_yield
from core.job.house import views
from core.job.job import Job
from core.job.leave import SIGN_ROLES, DayEnergy, DayLight, Signature, YieldLook
from core.job.state import state_digest
from core.planning.leave.plant import energy_plant
from core.rules.leave.follow_up import (
    PartGave,
    days_complete,
    part_gives,
    settings_drift,
    short_reasons,
    yield_as_due,
    yield_band,
)
from core.rules.leave.labels_alike import emergency_says, label_fits
from core.rules.leave.signing import signature_counts
from core.sheets.labels import label_svg
from core.sheets.owner import owner_pages, serial_lines
from core.stages.leave.signing import watch_key
from core.tests.commissioned import proved, ready_job, settings_made, talking, woken
from core.tests.golden import DEMO
from core.tests.samples import NOON, sample_job, with_reading
from core.tests.table import Row, check_row

# Each rule inside, on and beyond its limit.
ROWS: tuple[Row, ...] = (
    (label_fits, {"label": "Board", "most_mm": 281.0}, "height_mm", 60, 281, 300, "watch"),
    (part_gives, {"part": "string A", "expected_share": 0.5}, "share", 0.48, 0.425, 0.3, "watch"),
    (part_gives, {"part": "string A", "expected_share": 0.5}, "share", 0.48, 0.425, 0.04, "stop"),
    (yield_as_due, {"low_kwh": 10.0, "high_kwh": 20.0}, "read_kwh", 15, 20, 21, "watch"),
    (yield_as_due, {"low_kwh": 10.0, "high_kwh": 20.0}, "read_kwh", 15, 10, 4, "stop"),
)
OTHERWISE = {
    "days_complete", "emergency_says", "energy_sign", "label_says", "labels_apart", "look_due",
    "record_signable", "record_signed", "settings_drift", "signature_counts", "watches_taken_on",
}  # fmt: skip
LATER = NOON + timedelta(hours=4)


@cache
def left() -> Job:
    """A job that was built, proved, switched on, set and labelled."""
    job = woken(settings_made(talking(proved(ready_job()))))
    for ask in assess(job).asks:
        if ask.kind == "label_stuck":
            job = with_reading(job, ask.kind, ask.subject, 1)
    return job


def signed(job: Job, **changes: object) -> Job:
    """The job with all three signatures of its state."""
    said = assess(job)
    watches = [one for one in said.open_points if one.judgement.verdict == "watch"]
    made = tuple(
        replace(
            Signature(
                id=f"signed-{role}-{len(job.signatures)}", at=LATER, by="Ada Fenn", role=role,
                name=f"Some {role}",
                of=state_digest(job),
                took_on=tuple(watch_key(one) for one in watches) if role == "answers" else (),
            ),
            **changes,
        )
        for role in SIGN_ROLES
    )  # fmt: skip
    return replace(job, signatures=(*job.signatures, *made))


def edited(job: Job, do: str, **fields: object) -> Job:
    return read_edit({"do": do} | fields).apply(job, catalogue.SHIPPED)


def leave(job: Job) -> LeaveStage:
    return assess(job).leave


def rules_open(said: Assessment) -> set[str]:
    return {one.judgement.rule_id for one in said.open_points if one.stage == 10}


class Rules(TestCase):
    def test_inside_on_and_beyond(self) -> None:
        for row in ROWS:
            check_row(self, row)

    def test_settings_that_are_no_longer_what_was_written(self) -> None:
        for then, now, verdict in (
            ("a1", "a1", "clear"), ("a1", "b2", "stop"), (None, "b2", "waiting"),
            ("a1", None, "waiting"),
        ):  # fmt: skip
            self.assertEqual(settings_drift(then=then, now=now).verdict, verdict)

    def test_the_emergency_label_says_what_and_where(self) -> None:
        for dead, live, twin, verdict in (
            ("THE INVERTER", "THE LEADS", True, "clear"), ("", "THE LEADS", True, "stop"),
            ("THE INVERTER", "", True, "stop"), ("THE INVERTER", "THE LEADS", False, "stop"),
        ):  # fmt: skip
            judged = emergency_says(switch="Q1", dead=dead, stays_live=live, twin_told=twin)
            self.assertEqual(judged.verdict, verdict)

    def test_days_that_were_not_read_are_said(self) -> None:
        for read, verdict in ((3, "clear"), (2, "watch"), (0, "waiting")):
            self.assertEqual(days_complete(days=3, read=read).verdict, verdict)


class Labels(TestCase):
    def test_a_label_that_says_other_volts_is_another_label(self) -> None:
        job = left()
        self.assertTrue(all(one.stuck for one in leave(job).labels))
        colder = replace(job, site=replace(job.site, t_air_min_c=-25.0))
        unstuck = [one.of for one in leave(colder).labels if not one.stuck]
        self.assertEqual(unstuck, ["string A", "string B"])
        self.assertIn("step_label_stuck", rules_open(assess(colder)))

    def test_own_words_are_read_beside_the_others_and_a_left_out_one_has_a_reason(self) -> None:
        job = left()
        switches = [one for one in leave(job).labels if one.id == "dc_switch"]
        isolators = [one for one in leave(job).labels if one.id == "ac_isolator"]
        first, second = switches[0], isolators[0]
        for one, number in ((first, 1), (second, 2)):
            text = f"DC SWITCH {number} PARTS"
            job = edited(job, "set_label", id=one.id, of=one.of, text=text)
        said = assess(job)
        self.assertIn("labels_apart", rules_open(said))
        self.assertEqual(said.stages[-1].verdict, "stop")
        told = next(o for o in said.leave.judgements if o.rule_id == "labels_apart")
        self.assertIn("differ in a number only", told.reason)
        self.assertIn("Say instead: DC SWITCH 1 PARTS AT", told.reason)
        dumb = edited(job, "set_label", id=first.id, of=first.of, text="RED ONE")
        self.assertIn("label_says", rules_open(assess(dumb)))
        earth = next(one for one in leave(job).labels if one.id == "earth")
        without = edited(job, "set_label", id="earth", of=earth.of, without="There is none here")
        self.assertNotIn(earth.key, {one.key for one in assess(without).asks})
        back = edited(without, "set_label", id="earth", of=earth.of)
        self.assertIn(earth.key, {one.key for one in assess(back).asks})

    def test_its_words_lie_on_the_label_and_its_letters_are_high_enough(self) -> None:
        for path in sorted(DEMO.glob("*.json")):
            for label in leave(read_job(path.read_bytes())).labels:
                drawn = label_svg(label)
                rows = drawn.count("<text")
                self.assertLessEqual(rows * label.letter_mm * 1.6, label.height_mm - 5)
                self.assertGreaterEqual(label.letter_mm, 3)

    def test_labels_lock_no_switch(self) -> None:
        job = woken(settings_made(talking(proved(ready_job()))))
        locks = {lock.rule_id for lock in assess(job).locks}
        self.assertNotIn("step_label_stuck", locks)


class Signing(TestCase):
    def test_signed_by_all_three_as_it_stands_and_no_longer_once_it_changed(self) -> None:
        job = left()
        self.assertEqual(assess(job).stages[-1].verdict, "waiting")
        done = signed(job)
        said = assess(done)
        self.assertTrue(said.leave.signing.signed)
        self.assertEqual(said.stages[-1].verdict, "clear")
        self.assertTrue(all(one.by for one in said.leave.signing.watches))
        later = with_reading(done, "air_temperature", "site", 21.0)
        state = leave(later).signing
        self.assertEqual((state.signed, state.changed, state.verdict), (False, True, "waiting"))
        again = leave(signed(later)).signing
        self.assertEqual((again.signed, again.changed), (True, False))

    def test_a_stop_is_never_signed_over_nor_is_what_waits(self) -> None:
        job = left()
        stopped = edited(
            edited(job, "set_label", id="dc_switch", of="OF INVERTER", text="RED"),
            "set_hand_over", customer="Ines Marsh",
        )  # fmt: skip
        for one, verdict in ((stopped, "stop"), (sample_job(), "waiting")):
            self.assertEqual(leave(signed(one)).signing.verdict, verdict)
            self.assertNotEqual(assess(signed(one)).stages[-1].verdict, "clear")

    def test_a_watch_that_nobody_took_on_waits(self) -> None:
        state = leave(signed(left(), took_on=())).signing
        self.assertEqual(state.verdict, "waiting")
        self.assertTrue(state.watches)
        self.assertFalse(any(one.by for one in state.watches))

    def test_signatures_from_a_file_sign_nothing_here(self) -> None:
        kept = read_job(write_job(left()).encode())
        brought = read_job(write_job(signed(kept)).encode())
        self.assertFalse(leave(brought).signing.signed)
        self.assertEqual(state_digest(brought), state_digest(kept))

    def test_nobody_no_licence_and_one_that_ran_out_do_not_count(self) -> None:
        today = date(2026, 11, 28)
        crew = ("Ada Fenn",)
        for given_by, good in (
            ({"role": "did", "name": "Ada Fenn", "crew": crew}, True),
            ({"role": "did", "name": "Bo Tarn", "crew": crew}, False),
            ({"role": "did", "name": " - "}, False),
            ({"role": "did", "name": "Nobody"}, False),
            ({"role": "answers", "name": "Ada Fenn"}, False),
            ({"role": "answers", "name": "Ada Fenn", "licence": "L-1"}, True),
            ({"role": "answers", "name": "Ada Fenn", "licence": "L", "licence_until": today}, True),
            (
                {"role": "answers", "name": "Ada Fenn", "licence": "L",
                 "licence_until": date(2026, 11, 27)},
                False,
            ),
            ({"role": "accepts", "name": "Ines Marsh"}, True),
            ({"role": "accepts", "name": "7"}, False),
            ({"role": "did", "name": "Ada Fenn"}, False),
        ):  # fmt: skip
            judged = signature_counts(on=today, **given_by)
            self.assertEqual(judged.verdict, "clear" if good else "stop", judged.reason)

    def test_the_digest_is_one_for_a_house_and_another_for_every_change(self) -> None:
        house = read_job((DEMO / "curlew-barn.json").read_bytes())
        found = {state_digest(one) for one in views(house)}
        self.assertEqual(len(found), 1)
        moved = replace(house, leave=replace(house.leave, customer="Ines Marsh"))
        self.assertNotEqual(found, {state_digest(one) for one in views(moved)})

    def test_what_differs_is_told_line_by_line(self) -> None:
        job = left()
        later = with_reading(
            replace(job, site=replace(job.site, t_air_min_c=-12.0)), "air_temperature", "site", 21.0
        )
        found = differences(job, later)
        self.assertEqual(found[0].what, "$.site.t_air_min_c")
        self.assertEqual(found[0].now, "-12.0")
        self.assertIn("21", found[-1].now)
        self.assertEqual(differences(job, job), ())


def sunny(hour: int) -> float:
    return max(0.0, 800.0 * (1 - ((hour - 12) / 7) ** 2))


def looked(job: Job, kwh: dict[str, float], **more: object) -> Job:
    """The job with a look at one day under a plain sky."""
    day = job.day + timedelta(days=1)
    look = YieldLook(
        id=f"yield-look-{len(job.yield_looks)}",
        at=datetime(day.year, day.month, day.day, 20, tzinfo=UTC),
        by="Ada Fenn",
        source="typed",
        first_day=day,
        days=1,
        energy=tuple(DayEnergy(day=day, part=part, kwh=one) for part, one in kwh.items()),
        basis="plane",
        light=tuple(
            DayLight(day=day, plane=one.name, w_per_m2=tuple(map(sunny, range(24))))
            for one in job.planes
        ),
        t_air_c=15.0,
    )
    return replace(job, yield_looks=(*job.yield_looks, replace(look, **more)))


class Afterwards(TestCase):
    def due(self, job: Job) -> float:
        expected = leave(looked(job, {"plant": 1.0})).yields[0].expected_kwh
        assert expected is not None
        return expected

    def test_looks_are_due_from_the_day_it_runs_and_seen_by_a_look(self) -> None:
        job = left()
        dues = leave(job).looks_due
        self.assertEqual([(one.due - job.day).days for one in dues if one.due], [1, 3, 14, 365])
        late = assess(job, at=NOON + timedelta(days=4))
        self.assertIn("look_due", rules_open(late))
        done = looked(job, {"plant": self.due(job)})
        self.assertEqual([bool(one.seen) for one in leave(done).looks_due], [True] + [False] * 3)
        self.assertEqual([one.due for one in leave(sample_job()).looks_due], [None] * 4)

    def test_as_due_short_and_nothing(self) -> None:
        job = left()
        due = self.due(job)
        peak = sum(one.modules * one.pmax_w for one in energy_plant(job).strings) / 1000
        self.assertTrue(2 * peak < due < 8 * peak)
        for share, verdict in ((1.0, "clear"), (0.8, "watch"), (0.3, "stop"), (1.3, "watch")):
            state = leave(looked(job, {"plant": share * due})).yields[0]
            self.assertEqual(state.verdict, verdict, share)

    def test_a_string_that_carries_nothing_is_named_first_whatever_the_weather(self) -> None:
        job = left()
        dead = looked(job, {"string A": 9.0, "string B": 0.0}, basis="clear_sky", light=())
        state = leave(dead).yields[0]
        self.assertEqual(state.reasons[0].id, "string_missing")
        self.assertIn("string B", state.reasons[0].title)
        parts = {one.part: one.verdict for one in state.parts}
        self.assertEqual(parts, {"string A": "clear", "string B": "stop"})

    def test_units_on_another_plane_are_held_against_their_own_light(self) -> None:
        job = read_job((DEMO / "slipway-cottage.json").read_bytes())
        assert job.micro is not None
        planes = {one.name: one.modules[0].plane for one in job.micro.units if one.modules}
        self.assertEqual(len(set(planes.values())), 2)
        dark = sorted(set(planes.values()))[0]
        day = job.day + timedelta(days=1)
        light = tuple(
            DayLight(
                day=day, plane=one.name,
                w_per_m2=tuple(sunny(h) * (0.4 if one.name == dark else 1) for h in range(24)),
            )
            for one in job.planes
        )  # fmt: skip
        kwh = {unit: 0.4 if plane == dark else 1.0 for unit, plane in planes.items()}
        silent = next(unit for unit, plane in planes.items() if plane == dark)
        state = leave(looked(job, kwh | {silent: 0.0}, light=light)).yields[0]
        bad = [one.part for one in state.parts if one.verdict != "clear"]
        self.assertEqual(bad, [silent])

    def test_only_the_most_of_a_clear_sky_clears_nothing(self) -> None:
        job = left()
        said = looked(job, {"plant": 5.0}, basis="clear_sky", share=None)
        self.assertEqual(leave(said).yields[0].verdict, "waiting")
        told = looked(job, {"plant": self.due(job)}, basis="clear_sky", share=1.0)
        self.assertEqual(leave(told).yields[0].verdict, "clear")

    def test_a_day_below_nothing_is_a_clamp_turned_round(self) -> None:
        state = leave(looked(left(), {"plant": -12.0})).yields[0]
        self.assertEqual(state.reasons[0].id, "clamp_turned")
        self.assertEqual(state.verdict, "stop")

    def test_no_signature_waits_for_a_look(self) -> None:
        done = signed(looked(left(), {"plant": 0.2}))
        self.assertTrue(leave(done).signing.signed)
        self.assertEqual(assess(done).stages[-1].verdict, "stop")

    @given(st.floats(0.01, 500), st.sampled_from(("plane", "level", "clear_sky")))
    @settings(max_examples=40)
    def test_the_band_holds_what_was_expected(self, kwh: float, basis: str) -> None:
        band = yield_band(expected_kwh=kwh, basis=basis)
        self.assertEqual(
            yield_as_due(read_kwh=kwh, low_kwh=band.low_kwh, high_kwh=band.high_kwh).verdict,
            "clear",
        )

    @given(st.lists(st.floats(0.1, 50), min_size=2, max_size=8), st.data())
    @settings(max_examples=40)
    def test_parts_that_give_their_share_are_clear_and_never_a_reason(
        self, kwh: list[float], data: st.DataObject
    ) -> None:
        whole = sum(kwh)
        shares = [one / whole for one in kwh]
        for share in shares:
            judged = part_gives(part="string A", share=share, expected_share=share)
            self.assertEqual(judged.verdict, "clear")
        parts = tuple(
            PartGave(part=f"string {i}", kwh=one, expected_share=share)
            for i, (one, share) in enumerate(zip(kwh, shares, strict=True))
        )
        named = {one.id for one in short_reasons(read_kwh=1.0, low_kwh=2.0, parts=parts)}
        self.assertFalse(named & {"string_missing", "part_short"})


class Files(TestCase):
    def read(self, text: str, unit: str = "", parts: tuple[str, ...] = ()) -> dict[str, float]:
        table = read_yield(
            text.encode(), timezone="Europe/London", parts=parts, peak_kw=8.6, unit=unit
        )
        self.faults = table.faults
        self.light = table.light
        return {f"{one.day} {one.part}": round(one.kwh, 6) for one in table.energy}

    def hours(self, day: str, values: list[str], head: str = "Time;Power [W]") -> str:
        rows = [f"{day} {hour:02}:00;{value}" for hour, value in enumerate(values)]
        return "\n".join((head, *rows))

    def test_units_commas_and_days(self) -> None:
        for text, unit in (
            ("Day;Energy [kWh]\n2026-06-18;12,5\n2026-06-19;13", ""),
            ("Day,Energy (Wh)\n2026-06-18,12500\n2026-06-19,13000", ""),
            ("day\tenergy_mwh\n18.06.2026\t0.0125\n19.06.2026\t0.013", ""),
            ("day,energy\n18/06/2026,12.5\n19/06/2026,13.0", "kWh"),
            ("day,energy\n6/18/2026,12.5\n6/19/2026,13.0", "kWh"),
        ):
            found = self.read(text, unit)
            self.assertEqual(found, {"2026-06-18 plant": 12.5, "2026-06-19 plant": 13.0}, text)
            self.assertEqual(self.faults, ())

    def test_power_by_the_hour_is_summed_and_a_day_with_a_gap_is_left_out(self) -> None:
        whole = self.hours("2026-06-18", ["1000"] * 24)
        self.assertEqual(self.read(whole), {"2026-06-18 plant": 24.0})
        gap = whole + "\n" + "\n".join(f"2026-06-19 {h:02}:00;500" for h in range(24) if h != 12)
        self.assertEqual(self.read(gap), {"2026-06-18 plant": 24.0})
        self.assertIn("2026-06-19 is left out: 1 of 24 rows are missing.", self.faults)
        blank = self.hours("2026-06-18", ["5"] * 12 + ["-"] + ["5"] * 11)
        with self.assertRaises(Refused):
            self.read(blank)

    def test_clocks_going_back_are_two_hours_and_forward_one_less(self) -> None:
        rows = [f"2026-10-25 {hour:02}:00;100" for hour in (0, 1, 1, *range(2, 24))]
        self.assertEqual(self.read("\n".join(("Time;Power [W]", *rows))), {"2026-10-25 plant": 2.5})
        self.assertIn("The hour that clocks show twice was taken as two hours.", self.faults)
        spring = [f"2026-03-29 {hour:02}:00;100" for hour in range(24) if hour != 1]
        self.assertEqual(
            self.read("\n".join(("Time;Power [W]", *spring))), {"2026-03-29 plant": 2.3}
        )

    def test_doubled_rows(self) -> None:
        same = "Day;E [kWh]\n2026-06-18;5\n2026-06-18;5\n2026-06-19;6"
        self.assertEqual(len(self.read(same)), 2)
        self.assertIn("1 rows that say the same twice were taken once.", self.faults)
        other = "Day;E [kWh]\n2026-06-18;5\n2026-06-18;7\n2026-06-19;6"
        self.assertEqual(self.read(other), {"2026-06-19 plant": 6.0})
        self.assertIn("2026-06-18 is left out: one of its rows says two things.", self.faults)

    def test_what_cannot_be_told_for_certain_is_refused(self) -> None:
        for text, said in (
            ("Day;Energy\n2026-06-18;5", "says no unit"),
            ("Day;E [kWh]\n2026-06-18;12500", "is the file in another unit?"),
            ("Day;E [kWh]\n05/06/2026;5\n06/06/2026;6", "cannot be told apart"),
            ("Day;E [kWh];F [kWh]\n2026-06-18;5;6", "Two columns"),
            ("Day;E [kWh]\nyesterday;5", "No day of this file is whole"),
            ("", ""),
            ("Day;E [V]\n2026-06-18;5", ""),
        ):
            with self.assertRaises(Refused) as caught:
                self.read(text)
            self.assertIn(said, caught.exception.problems[0].message, text)

    def test_columns_by_string_and_light_of_a_station(self) -> None:
        text = "Day;String A [kWh];string b [kWh]\n2026-06-18;5;4"
        found = self.read(text, parts=("string A", "string B"))
        self.assertEqual(found, {"2026-06-18 string A": 5.0, "2026-06-18 string B": 4.0})
        rows = [f"2026-06-18 {h:02}:00;1;{100 * (6 < h < 18)}" for h in range(24)]
        self.read("\n".join(("Time;E [kWh];G [W/m²]", *rows)))
        self.assertEqual(len(self.light[0][1]), 24)
        self.assertEqual(max(self.light[0][1]), 100.0)

    @given(st.binary(max_size=400))
    @settings(max_examples=80, deadline=None)
    def test_any_bytes_are_read_or_refused(self, raw: bytes) -> None:
        try:
            read_yield(raw, timezone="Europe/London", parts=(), peak_kw=5.0)
        except Refused as refused:
            self.assertTrue(refused.problems)


class Papers(TestCase):
    def test_the_owner_reads_plain_words_in_the_jobs_own_order(self) -> None:
        job = edited(left(), "set_hand_over", call_name="Fenn Electric", call_number="0123")
        said = assess(job)
        pages = owner_pages(job, said)
        self.assertEqual(
            list(pages.off), [o.title for o in said.wake.emergency.steps if o.switch is not None]
        )
        told = json.dumps([list(one.lines) for one in pages.parts], ensure_ascii=False)
        for words in ("Fenn Electric, 0123", "twice a year", "June 2031", "Nobody climbs up"):
            self.assertIn(words, told)
        self.assertTrue(all(one.serial for one in serial_lines(job, said)))

    def test_every_open_point_stands_once_under_who_must_act(self) -> None:
        for path in sorted(DEMO.glob("*.json")):
            said = assess(read_job(path.read_bytes()))
            lines = [line.index for group in said.leave.open for line in group.points]
            self.assertEqual(sorted(lines), list(range(len(said.open_points))))
            held = {
                (point.stage, point.key, point.judgement.rule_id)
                for group in said.leave.open
                for line in group.points
                if line.holds and (point := said.open_points[line.index])
            }
            known = {(one.stage, one.key, one.rule_id) for one in said.locks}
            self.assertLessEqual(held, known)
