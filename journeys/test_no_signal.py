"""No signal, through the real interface: nothing read is lost, doubled or moved in time."""

from __future__ import annotations

import os
import random
from datetime import UTC, datetime, timedelta
from typing import Any

from playwright.sync_api import Locator, Page, Route, expect

from journeys.browser import BrowserCase, keep_reading
from journeys.chromium import HAND
from server.demo.load import load
from server.jobs.models import JobRow
from server.readings.models import ReadingRow

# How often the network is cut at a moment of its own; more where it is tried for longer.
CUTS = int(os.environ.get("LONG_NOON_CUTS", "24"))
FIGURES = (("irradiance", "South roof", "812"), ("irradiance", "West roof", "640"))
# A clock five hours slow, for everything that asks what time it is.
WRONG_CLOCK = """() => {
  const Right = Date;
  window.Date = class extends Right {
    constructor(...of) { if (of.length) super(...of); else super(Right.now() - 5 * 3600e3); }
    static now() { return Right.now() - 5 * 3600e3; }
  };
}"""
A_MOMENT = timedelta(minutes=3)


class Hand(BrowserCase):
    job_name = "Curlew Barn"

    def setUp(self) -> None:
        load()
        self.job = JobRow.objects.get(plan__name=self.job_name)

    def enter(self, stage: str = "string") -> Page:
        page = self.open(HAND)
        page.get_by_role("button", name="Enter the demo").click()
        expect(page.locator(".day").first).to_be_visible()
        self.go(page, f"/jobs/{self.job.id}/{stage}")
        expect(page.get_by_role("heading", level=1, name=stage.title())).to_be_visible()
        # Whoever goes up a ladder has opened the job before.
        page.wait_for_load_state("networkidle")
        self.before = ReadingRow.of(self.job.id).count()
        return page

    def _on_console(self, message: Any) -> None:
        # What a browser says of a network that is not there is no fault of the page.
        if "Failed to load resource" not in message.text:
            super()._on_console(message)

    def new(self) -> list[ReadingRow]:
        return list(ReadingRow.of(self.job.id).order_by("id"))[self.before :]

    def take(self, page: Page, kind: str, subject: str, text: str) -> None:
        self.leave(page)
        line = page.locator(f'[id="ask-{kind}/{subject}"]')
        line.locator(".ask-head").click()
        again = line.get_by_role("button", name="read again")
        field = page.locator(".taking").get_by_role("textbox").first
        expect(again.or_(field).first).to_be_visible()
        if again.count():
            again.click()
        keep_reading(field, text)
        # Whoever pressed looks for the figure: from then on it is kept, here or there.
        expect(line.locator(".ask-head")).to_contain_text(text)

    def leave(self, page: Page) -> None:
        """Put away whichever reading is open: on a phone it lies over the rest."""
        open_one = page.locator(".taking .leave")
        if open_one.count():
            open_one.click()
            expect(open_one).to_have_count(0)

    def head(self, page: Page) -> Locator:
        return page.get_by_role("region", name="On this device")

    def sent(self, page: Page, count: int) -> None:
        """Wait until everything is there."""
        self.until(page, lambda: len(self.new()) >= count)
        expect(self.head(page)).to_have_count(0)
        self.assertEqual(len(self.new()), count, [(r.kind, r.value) for r in self.new()])


class NoSignal(Hand):
    def test_read_on_the_roof_and_kept_once_there_is_signal(self) -> None:
        page = self.enter()
        page.context.set_offline(True)
        pressed = datetime.now(UTC)
        for kind, subject, text in FIGURES:
            self.take(page, kind, subject, text)
            self.leave(page)
            line = page.locator(f'[id="ask-{kind}/{subject}"]')
            expect(line).to_contain_text(f"{text} W/m²")
            expect(line).to_contain_text("on this device")
        expect(self.head(page)).to_contain_text("No signal · 2 readings on this device")
        self.assertEqual(self.new(), [])
        self.leave(page)
        self.head(page).get_by_role("button", name="look").click()
        expect(self.head(page)).to_contain_text("812")
        page.context.set_offline(False)
        self.sent(page, 2)
        for row, (kind, subject, text) in zip(self.new(), FIGURES, strict=True):
            self.assertEqual((row.kind, row.subject, row.value), (kind, subject, float(text)))
            self.assertLess(abs(row.taken_at - pressed), A_MOMENT)
            self.assertGreaterEqual(row.kept_at, row.taken_at)
            self.assertEqual(row.device, "phone or tablet")

    def test_a_clock_that_is_hours_wrong_moves_no_reading(self) -> None:
        page = self.enter()
        page.evaluate(WRONG_CLOCK)
        page.context.set_offline(True)
        self.take(page, *FIGURES[0])
        expect(self.head(page)).to_be_visible()
        page.context.set_offline(False)
        self.sent(page, 1)
        self.assertLess(abs(self.new()[0].taken_at - datetime.now(UTC)), A_MOMENT)

    def test_cut_at_any_moment_nothing_is_lost_and_nothing_doubled(self) -> None:
        """Before the server hears it, or after, or not at all; the page loaded anew in between."""
        dice, page = random.Random(7), self.enter()
        texts = [str(300 + number) for number in range(CUTS)]

        def cut(route: Route) -> None:
            chance = dice.random()
            if route.request.method != "POST" or chance > 0.6:
                route.continue_()
            elif chance > 0.3:
                route.abort()
            else:
                # It is kept there, and the answer is lost on its way.
                try:
                    route.fetch()
                finally:
                    route.abort()

        page.route("**/readings", cut)
        for text in texts:
            self.take(page, "irradiance", "South roof", text)
            if dice.random() < 0.25:
                page.reload()
                expect(page.get_by_role("heading", level=1, name="String")).to_be_visible()
        page.unroute("**/readings")
        self.sent(page, CUTS)
        self.assertEqual([f"{row.value:g}" for row in self.new()], texts)


class Installed(Hand):
    service_workers = "allow"

    def test_the_app_opens_without_a_server_and_what_was_read_outlives_its_page(self) -> None:
        page = self.enter()
        page.wait_for_function(
            "() => navigator.serviceWorker.ready.then((laid) => laid.active !== null)"
        )
        page.reload()
        expect(page.get_by_role("heading", level=1, name="String")).to_be_visible()
        page.context.set_offline(True)
        page.reload()
        expect(page.get_by_role("heading", level=1, name="String")).to_be_visible()
        self.take(page, *FIGURES[0])
        expect(self.head(page)).to_contain_text("1 reading on this device")
        address, context = page.url, page.context
        again = context.new_page()
        page.goto("about:blank")
        again.goto(address)
        expect(self.head(again)).to_contain_text("1 reading")
        expect(again.locator('[id="ask-irradiance/South roof"]')).to_contain_text("812 W/m²")
        context.set_offline(False)
        self.sent(again, 1)
