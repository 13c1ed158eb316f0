"""The day and the weeks through the real interface: laid, moved, what binds, what clashes."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from journeys.browser import BrowserCase
from journeys.chromium import DESK, HAND
from server.demo.load import load
from server.jobs.models import JobRow
from server.weeks.models import Absence

CALENDAR = b"""BEGIN:VCALENDAR
VERSION:2.0
PRODID:-//somebody//EN
BEGIN:VEVENT
UID:1
DTSTART:%s
DTEND:%s
RRULE:FREQ=WEEKLY
SUMMARY:Choir
END:VEVENT
END:VCALENDAR
"""


class TheDay(BrowserCase):
    def setUp(self) -> None:
        load()

    def entered(self, size: dict[str, int], path: str, heading: str) -> Page:
        page = self.open(size)
        page.get_by_role("button", name="Enter the demo").click()
        expect(page.locator(".day")).to_have_count(7)
        self.go(page, path)
        expect(page.get_by_role("heading", name=heading, exact=True)).to_be_visible()
        return page

    def day_of(self, size: dict[str, int], job: str) -> Page:
        row = JobRow.objects.get(plan__name=job)
        return self.entered(size, f"/jobs/{row.id}/day", "The day")

    def test_a_task_is_moved_and_says_what_it_breaks(self) -> None:
        page = self.day_of(DESK, "Slipway Cottage")
        expect(page.get_by_text(re.compile("^Done "))).to_be_visible()
        ladder = page.get_by_role("button", name=re.compile("^Ladder or scaffold")).first
        ladder.focus()
        ladder.press("Enter")
        panel = page.get_by_role("region", name="This task")
        expect(panel).to_contain_text("after “Meet, walk round")
        ladder.press("ArrowLeft")
        breaks = page.get_by_role("alert", name="What breaks")
        expect(breaks).to_contain_text("begins before “Meet, walk round")
        page.get_by_role("button", name="as it was laid").click()
        expect(breaks).to_have_count(0)
        page.get_by_role("button", name=re.compile("^Hand over")).first.click()
        panel.get_by_role("textbox", name="Begins at").fill("25:10")
        panel.get_by_role("button", name="Put it there").click()
        expect(page.get_by_text("a time of day, as 07:30").first).to_be_visible()
        panel.get_by_role("textbox", name="Begins at").fill("13:45")
        panel.get_by_role("button", name="Put it there").click()
        expect(panel).to_contain_text("Put there by hand")
        panel.get_by_role("button", name="Lay it as it fits").click()
        expect(panel).not_to_contain_text("Put there by hand")
        with page.expect_download() as sheet:
            page.get_by_role("link", name="day sheet, A4").click()
        self.assertTrue(sheet.value.path().read_bytes().startswith(b"%PDF"))

    def test_wind_nobody_for_the_roof_and_a_visit_too_few(self) -> None:
        page = self.day_of(HAND, "Slipway Cottage")
        binds = page.get_by_role("region", name="What binds the days")
        roofers = ("Ada Fenn", "Jory Tamblin")
        for name in roofers:
            binds.get_by_role("checkbox", name=name).click()
            self.settled(page)
        keeps = page.get_by_role("list", name="What does not fit")
        expect(keeps).to_contain_text("takes 2 who go on the roof; there are 0")
        helps = page.get_by_role("list", name="What would let it fit")
        expect(helps).to_contain_text("The crew may be on the roof")
        for name in roofers:
            binds.get_by_role("checkbox", name=name).click()
            self.settled(page)
        expect(page.get_by_text(re.compile("^Done "))).to_be_visible()
        visits = binds.locator("details")
        for _ in range(2):
            visits.last.locator("summary").click()
            visits.last.get_by_role("button", name="Take it out").click()
            self.settled(page)
        expect(page.get_by_text("It does not fit.")).to_be_visible()
        visits.last.locator("summary").click()
        wind = visits.last.get_by_label("Wind, as 13:00–16:00")
        wind.fill("all day")
        wind.press("Enter")
        expect(visits.last.get_by_text("a time of day, as 07:30")).to_be_visible()
        wind.fill("07:00–20:00")
        wind.press("Enter")
        expect(keeps.get_by_text("not in the wind or rain").first).to_be_visible()

    def test_visits_clash_are_moved_proposed_and_somebody_is_away(self) -> None:
        page = self.entered(DESK, "/weeks", "Weeks")
        # The demo's days are long planned: look at the week in which the cottage is visited.
        cottage = page.get_by_role("button", name=re.compile("^Slipway Cottage")).last
        expect(cottage).to_be_visible()
        before = cottage.text_content()
        cottage.focus()
        # A week later it is in the future at every hour of the day.
        cottage.press("ArrowDown")
        self.settled(page)
        expect(cottage).not_to_have_text(before or "")
        cottage.click()
        panel = page.get_by_role("region", name="This visit")
        day = panel.get_by_label("Day").input_value()
        away = page.get_by_role("form", name="Somebody is away")
        away.get_by_role("combobox", name="Who").click()
        page.locator(".ant-select-item-option", has_text="Jory Tamblin").click()
        away.get_by_label("From the morning of").fill(day)
        away.get_by_label("To the evening of").fill(day)
        away.get_by_label("Why, if you like").fill("dentist")
        away.get_by_role("button", name="Away then").click()
        clashes = page.get_by_role("list", name="What clashes")
        expect(clashes).to_contain_text("Jory Tamblin is away on Slipway Cottage")
        page.get_by_role("button", name="Propose days for what clashes").click()
        proposed = page.get_by_role("region", name="Days proposed")
        expect(proposed).to_contain_text("Slipway Cottage")
        proposed.locator("li", has_text="Slipway Cottage").first.get_by_role("button").click()
        expect(clashes.get_by_text("Jory Tamblin is away on Slipway Cottage")).to_have_count(0)
        stamp = day.replace("-", "").encode()
        choir = CALENDAR % (stamp + b"T190000", stamp + b"T210000")
        away.get_by_label("Busy times as iCalendar").set_input_files(
            {"name": "choir.ics", "mimeType": "text/calendar", "buffer": choir}
        )
        expect(away.get_by_role("status")).to_contain_text("taken for 26 weeks")
        self.assertGreater(Absence.objects.exclude(source="").count(), 20)
        dense = choir.replace(b"WEEKLY", b"SECONDLY")
        away.get_by_label("Busy times as iCalendar").set_input_files(
            {"name": "dense.ics", "mimeType": "text/calendar", "buffer": dense}
        )
        expect(page.get_by_text("DAILY, WEEKLY, MONTHLY or YEARLY").first).to_be_visible()
        self.assertGreater(Absence.objects.exclude(source="").count(), 20)
