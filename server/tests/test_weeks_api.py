"""The weeks over the API: visits moved and proposed, who is away, calendars out and in."""

from __future__ import annotations

import csv
import io
import json
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from typing import Any

import icalendar
from django.test import Client

from core.base.limits import BYTES_PER_MB
from core.files.job import read_job
from core.job.day import DayLayout, LateGoods, PlannedVisit
from core.planning.day.tasks import Crewed
from core.tests.golden import DEMO
from server.day.crewed import crewed_of
from server.day.laying import what_would_let_it_fit
from server.day.views import Asked, day_view
from server.jobs.models import JobRow
from server.jobs.stored import row_of
from server.people.membership import add_person, found_crew
from server.tests.support import ApiCase
from server.weeks.models import Absence

EVENT = (
    "BEGIN:VEVENT\r\nUID:{uid}\r\nDTSTART:{day}T{begins}\r\nDTEND:{day}T{ends}\r\n{more}"
    "END:VEVENT\r\n"
)
HEAD, FOOT = "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//x//EN\r\n", "END:VCALENDAR\r\n"
NEXT_YEAR = date(2027, 6, 21)


def calendar(*events: str) -> bytes:
    return (HEAD + "".join(events) + FOOT).encode()


def event(day: date, begins: str, ends: str, uid: str = "1", more: str = "") -> str:
    return EVENT.format(uid=uid, day=f"{day:%Y%m%d}", begins=begins, ends=ends, more=more)


class Weeks(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        JobRow.objects.all().delete()
        self.cottage = self.house("slipway-cottage", NEXT_YEAR, 2)

    def house(self, name: str, first: date, visits: int, **days: Any) -> str:
        job = read_job((DEMO / f"{name}.json").read_bytes())
        planned = tuple(
            PlannedVisit(number=n + 1, day=first + timedelta(days=n)) for n in range(visits)
        )
        roof = tuple(one.name for one in job.arrival.crew)
        layout = DayLayout(**{"visits": planned, "roof": roof, "sky": 1.0} | days)
        return str(self.store(replace(job, day=first, days=layout)))

    def board(self, client: Client | None = None) -> Any:
        path = f"/api/weeks?first={NEXT_YEAR}&weeks=2"
        return (client or self.client).get(path).json()

    def edit(self, job: str, **edit: Any) -> Any:
        revision = self.client.get(f"/api/jobs/{job}").json()["revision"]
        return self.post(f"/api/jobs/{job}/edits", {"revision": revision, "edit": edit})

    def busy(self, raw: bytes, who: str = "Ada Fenn") -> Any:
        return self.client.post(
            f"/api/weeks/busy?who={who}&file_name=ada.ics", raw, content_type="text/calendar"
        )

    def test_a_visit_is_moved_clashes_and_is_proposed_elsewhere(self) -> None:
        loft = self.house("sail-loft", NEXT_YEAR, 1)
        said = [one["said"] for one in self.board()["clashes"]]
        self.assertTrue(any("at once" in one and "Sail Loft" in one for one in said), said)
        answer = self.edit(loft, do="move_visit", number=1, day=str(NEXT_YEAR + timedelta(days=2)))
        self.assertEqual(answer.status_code, 200, answer.content)
        self.assertFalse([o for o in self.board()["clashes"] if o["rule"] == "twice"])
        self.edit(loft, do="move_visit", number=1, day=str(NEXT_YEAR))
        proposed = self.post("/api/weeks/propose", {"jobs": [], "first": str(NEXT_YEAR)}).json()
        self.assertEqual(proposed["left"], [])
        for one in proposed["visits"]:
            self.edit(one["job"], do="move_visit", number=one["number"], day=one["day"])
        self.assertFalse([o for o in self.board()["clashes"] if o["rule"] == "twice"])
        # The first visit put behind the second is no clash: a number is no place.
        self.edit(self.cottage, do="move_visit", number=1, day="2027-07-02")
        self.assertFalse([o for o in self.board()["clashes"] if o["rule"] == "order"])
        # A further visit by its hours, and what it cannot be.
        made = self.edit(loft, do="put_visit", day="2027-07-05", begins="08:00", ends="12:30")
        self.assertEqual(made.status_code, 200, made.content)
        for wrong in (
            {"do": "move_visit", "number": 1, "day": "2027-07-05"},
            {"do": "move_visit", "number": 7, "day": "2027-07-06"},
            {"do": "put_visit", "day": "2027-07-06", "rest_min": "a while"},
        ):
            self.refused(self.edit(loft, **wrong))

    def test_goods_permit_and_a_finished_house(self) -> None:
        late = (LateGoods(what="inverter", day=NEXT_YEAR + timedelta(days=9)),)
        self.house("sail-loft", NEXT_YEAR + timedelta(days=3), 2, late=late)
        (goods,) = [one for one in self.board()["clashes"] if one["rule"] == "goods"]
        # The first visit may go as far as it goes: only the last waits for the inverter.
        self.assertTrue(goods["visit"].endswith(" 2"))

    def test_who_is_away_is_on_the_board_in_the_day_and_out_again(self) -> None:
        away = {"who": "Ada Fenn", "first": str(NEXT_YEAR), "last": str(NEXT_YEAR), "what": "ill"}
        kept = self.post("/api/weeks/absences", away).json()
        self.assertIn("away", {one["rule"] for one in self.board()["clashes"]})
        row = row_of(JobRow.objects.get().id)
        job = read_job(self.client.get(f"/api/jobs/{self.cottage}/file").content)
        crewed = crewed_of(row, job)
        (person,) = [o for o in day_view(job, Asked(crewed=crewed)).people if o.id == "Ada Fenn"]
        self.assertEqual([(o.start_min, o.end_min) for o in person.away], [(0, 1440)])
        self.refused(self.client.delete("/api/weeks/absences/999999"))
        self.client.delete(f"/api/weeks/absences/{kept['number']}")
        self.assertEqual(self.board()["absences"], [])
        for wrong in ({"last": "2027-06-01"}, {"who": ""}, {"begins": "25:00"}, {"first": "soon"}):
            self.refused(self.post("/api/weeks/absences", away | wrong))
        self.assertEqual(Absence.objects.count(), 0)

    def test_another_crew_sees_none_of_it(self) -> None:
        self.busy(calendar(event(date.today() + timedelta(days=3), "090000", "100000")))
        other = Client()
        other.force_login(add_person(found_crew("Others"), "kit", "owner", None))
        seen = self.board(other)
        self.assertEqual((seen["visits"], seen["absences"], seen["people"]), ([], [], []))
        self.assertNotIn(b"VEVENT", other.get("/api/weeks/calendar").content)
        number = Absence.objects.get().pk
        self.assertEqual(other.delete(f"/api/weeks/absences/{number}").status_code, 422)

    def test_a_calendar_keeps_its_identities_and_says_who_and_what(self) -> None:
        def events(path: str) -> dict[str, Any]:
            raw = self.client.get(path).content
            found = icalendar.Calendar.from_ical(raw).walk("VEVENT")
            return {str(one["UID"]): one for one in found}

        before = events("/api/weeks/calendar?who=Ada Fenn")
        self.assertEqual(len(before), 2)
        self.edit(self.cottage, do="move_visit", number=2, day="2027-07-01")
        after = events("/api/weeks/calendar?who=Ada Fenn")
        self.assertEqual(set(after), set(before))
        (uid,) = [one for one in after if one.endswith("-2@long-noon")]
        # 07:30 of the summer's clock, and a newer sequence that replaces the one before.
        self.assertEqual(after[uid]["DTSTART"].dt, datetime(2027, 7, 1, 6, 30, tzinfo=UTC))
        self.assertGreater(after[uid]["SEQUENCE"], before[uid]["SEQUENCE"])
        self.assertEqual(events("/api/weeks/calendar?who=Nobody"), {})
        self.assertEqual(set(events(f"/api/jobs/{self.cottage}/day/calendar")), set(before))

    def test_busy_times_come_in_once_and_replace_those_before(self) -> None:
        day = date.today() + timedelta(days=3)
        weekly = event(day, "190000Z", "210000Z", more="RRULE:FREQ=WEEKLY\r\nSUMMARY:Choir\r\n")
        free = event(day, "090000", "100000", "2", "TRANSP:TRANSPARENT\r\n")
        ours = event(day, "090000", "100000", "x-1@long-noon")
        for _ in range(2):
            answer = self.busy(calendar(weekly, free, ours)).json()
            self.assertTrue(answer["cut"])
            self.assertEqual(answer["times"], Absence.objects.count())
        self.assertIn(Absence.objects.count(), (25, 26))
        self.assertEqual(Absence.objects.first().what, "Choir")
        once = self.busy(calendar(event(day, "090000", "100000"))).json()
        self.assertEqual((once, Absence.objects.count()), ({"times": 1, "cut": False}, 1))

    def test_what_is_no_calendar_is_refused_and_nothing_is_lost(self) -> None:
        day = date.today()
        self.busy(calendar(event(day, "090000", "100000")))
        kept = list(Absence.objects.values_list("id", flat=True))
        dense = "RRULE:FREQ=SECONDLY\r\n"
        every_minute = "RRULE:FREQ=DAILY;BYMINUTE=" + ",".join(map(str, range(60))) + "\r\n"
        many = [event(day, "090000", "100000", str(n), "RRULE:FREQ=DAILY\r\n") for n in range(300)]
        ancient = event(date(1601, 1, 1), "000000", "235959", more="RRULE:FREQ=DAILY\r\n") * 12
        for raw in (
            b"", b"\x00\xff", b"BEGIN:VCALENDAR", b"a,b\n1,2\n",
            calendar(event(day, "090000", "100000", more=dense)),
            calendar(event(day, "090000", "100000", more=every_minute)),
            calendar(*many),
            calendar(ancient),
            calendar("BEGIN:VEVENT\r\nUID:1\r\nSUMMARY:no time\r\nEND:VEVENT\r\n"),
            calendar(*[event(day, "090000", "100000", str(n)) for n in range(4001)]),
        ):  # fmt: skip
            self.refused(self.busy(raw))
        self.refused(self.busy(b"x" * 20 * BYTES_PER_MB), 413)
        self.refused(self.busy(calendar(event(day, "090000", "100000")), who=""))
        self.assertEqual(list(Absence.objects.values_list("id", flat=True)), kept)

    def test_the_day_as_files(self) -> None:
        path = f"/api/jobs/{self.cottage}/day"
        rows = list(csv.DictReader(io.StringIO(self.client.get(f"{path}/tasks").content.decode())))
        laid = self.client.get(path).json()
        self.assertEqual(len(rows), len(laid["tasks"]))
        self.assertTrue(self.client.get(f"{path}/sheet").content.startswith(b"%PDF"))
        first = rows[0]
        self.assertEqual((first["day"], first["begins"]), (str(NEXT_YEAR), "07:30"))

    def test_own_times_come_from_what_was_read_here(self) -> None:
        job = self.house("beacon-row-7", NEXT_YEAR + timedelta(days=5), 1)
        self.assertEqual(self.client.get(f"/api/jobs/{job}/day").json()["times"], [])

    def test_the_rest_is_laid_from_now_on(self) -> None:
        job = read_job(self.client.get(f"/api/jobs/{self.cottage}/file").content)
        third = PlannedVisit(number=3, day=NEXT_YEAR + timedelta(days=2))
        job = replace(job, days=replace(job.days, visits=(*job.days.visits, third)))
        before = day_view(job, Asked(now=datetime(2027, 6, 20, 9, 0, tzinfo=UTC)))
        self.assertEqual((before.now_min, before.late), (None, ""))
        # 08:12 by the clock of the house, forty minutes after it should have begun.
        late = day_view(job, Asked(now=datetime(2027, 6, 21, 7, 12, tzinfo=UTC)))
        self.assertEqual(late.now_min, 495)
        self.assertIn("Done day 3", late.late)
        starts = [one.start_min for one in late.tasks if one.start_min is not None]
        self.assertEqual(min(starts), 495)
        self.assertEqual(late.broken, ())
        # With the first day gone it does not fit: an hour earlier is over too.
        late_on = datetime(2027, 6, 22, 14, 0, tzinfo=UTC)
        two = replace(job, days=replace(job.days, visits=job.days.visits[:2]))
        helps = [one.what for one in what_would_let_it_fit(two, Crewed(), late_on)]
        self.assertNotIn("An hour earlier on the first day", helps)
        over = day_view(job, Asked(now=datetime(2027, 6, 24, 9, 0, tzinfo=UTC)))
        self.assertEqual(over.now_min, None)

    def test_the_board_is_no_larger_than_asked(self) -> None:
        for query in ("weeks=0", "weeks=99", "first=never"):
            self.refused(self.client.get(f"/api/weeks?{query}"))
        self.assertEqual(len(self.board()["days"]), 14)
        body = json.dumps({"jobs": ["no id"]})
        self.refused(self.client.post("/api/weeks/propose", body, "application/json"))
